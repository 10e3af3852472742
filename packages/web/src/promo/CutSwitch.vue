<script setup lang="ts">
import { mdiContentCopy, mdiTrashCanOutline } from '@mdi/js';
import { computed } from 'vue';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { MenuButton, type MenuLines } from '../ui/index.ts';
import { PROPORTIONS, useCuts } from './use-cuts.ts';

/** The cut in hand: another of the campaign's, a copy of it in another proportion, deleting it. */
const campaign = useCampaign();
const documents = useDocuments();
const { busy, open, copy, remove } = useCuts();
const lines = computed((): MenuLines => {
  const { promoIds, promoId, promo } = campaign;
  const others = promoIds.map((id) => ({
    title: `${documents.get('promo', id)?.name ?? 'Cut'}${id === promoId ? ' (in hand)' : ''}`,
    disabled: id === promoId,
    run: () => open(id),
  }));
  const own = promo ? promo.width / promo.height : 1;
  const copies = PROPORTIONS.filter(({ wide, high }) => Math.abs(wide / high - own) > 0.01).map((to) => ({
    title: `Copy to ${to.name}, the crop follows the product`,
    icon: mdiContentCopy,
    run: () => void copy(to),
  }));
  return [
    { heading: 'Cuts' },
    ...others,
    { heading: 'This cut' },
    { title: 'Copy as it is', icon: mdiContentCopy, run: () => void copy(null) },
    ...copies,
    null,
    { title: 'Delete this cut', icon: mdiTrashCanOutline, disabled: promoIds.length < 2, run: () => void remove() },
  ];
});
</script>

<template>
  <MenuButton :lines="lines" data-test="cuts">
    <strong class="clip">{{ busy ? 'Copying...' : campaign.promo?.name }}</strong>
    <span class="mono dim">{{ campaign.promo?.width }} x {{ campaign.promo?.height }}</span>
  </MenuButton>
</template>

<style scoped>
strong {
  max-width: 260px;
  margin-right: 8px;
}
</style>
