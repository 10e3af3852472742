<script setup lang="ts">
import type { Layer, LayerOf } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { useCampaign, useRack } from '../stores/index.ts';
import { FieldRow, SelectField } from '../ui/index.ts';

/** The take of another shot whose composite a layer shows. */
const { layer } = defineProps<{ layer: LayerOf<'composite'> }>();
const campaign = useCampaign();
const rack = useRack();
const takes = computed(() => {
  const there = campaign.wholeTakes
    .filter(({ shot }) => rack.host === 'promo' || shot !== campaign.shotId)
    .map(({ id, name }) => ({ value: id, title: name }));
  const gone = layer.take !== '' && !campaign.takes.some(({ id }) => id === layer.take);
  return [
    { value: '', title: there.length > 0 ? 'Choose a take' : 'No shot to show has a take' },
    ...there,
    ...(gone ? [{ value: layer.take, title: 'A take that was deleted' }] : []),
  ];
});
const isGone = computed(() => layer.take !== '' && !campaign.takes.some(({ id }) => id === layer.take));
</script>

<template>
  <FieldRow label="Of take">
    <SelectField
      label="Take of another shot"
      :options="takes"
      :value="layer.take"
      @change="(take) => rack.change(layer, 'Choose composite', { take } as Partial<Layer>)"
    />
  </FieldRow>
  <p v-if="isGone" role="alert" class="gone">Its take was deleted, so nothing of it is seen: choose another.</p>
</template>

<style scoped>
.gone {
  margin: 2px 0 6px 20px;
  color: var(--coral);
}
</style>
