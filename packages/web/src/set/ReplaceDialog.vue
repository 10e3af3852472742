<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { lengthWords } from '../controls/size-words.ts';
import { variantPicture } from '../products/looks.ts';
import { useCampaign } from '../stores/index.ts';
import { useReplace, type ReplaceScope } from './use-replace.ts';
import { CheckField, DialogCard, PickCard, ToggleRow, UiButton } from '../ui/index.ts';

/** Asks by which product another is replaced, and where. */
const { asked, replace } = useReplace();
const campaign = useCampaign();
const chosen = ref('');
const scope = ref<ReplaceScope>('item');
const fit = ref(false);
watch(asked, () => (chosen.value = ''));
const item = computed(() => campaign.set?.products.find((p) => p.id === asked.value));
const others = computed(() => [...campaign.products].filter(([id]) => id !== item.value?.product));
const SCOPES: Array<{ value: ReplaceScope; label: string; tip: string }> = [
  { value: 'item', label: 'Only this one', tip: 'The one that you pressed' },
  { value: 'shot', label: 'In this shot', tip: 'Every one in this shot; other shots keep theirs' },
  { value: 'campaign', label: 'In the whole campaign', tip: 'Every one, on every set' },
];
const heightOf = (id: string): string => {
  const { extent, scale } = campaign.products.get(id)!;
  return lengthWords(extent[1] * scale);
};
</script>

<template>
  <DialogCard
    :open="asked !== ''"
    :title="`Replace ${item?.name ?? ''}`"
    :width="560"
    data-test="replace"
    @close="asked = ''"
  >
    <p class="dim">Its place, moves, lights and cuts stay.</p>
    <div class="choices scroll">
      <PickCard v-for="[id, product] in others" :key="id" class="choice" :on="chosen === id" @click="chosen = id">
        <img
          v-if="variantPicture(product, '', 88)"
          :src="variantPicture(product, '', 88)!"
          width="44"
          height="44"
          alt=""
        />
        <span v-else class="blank" />
        <span class="clip spread">{{ product.name }}</span>
        <span class="mono dim">{{ heightOf(id) }}</span>
      </PickCard>
      <p v-if="others.length === 0" class="dim">
        There is no other product in this campaign yet: bring one in Products.
      </p>
    </div>
    <ToggleRow label="Where" :options="SCOPES" :value="scope" @change="(s) => (scope = s)" />
    <CheckField label="Fit to the old one's size" :value="fit" @change="(on) => (fit = on)" />
    <template #end>
      <UiButton @click="asked = ''">Leave it</UiButton>
      <UiButton tone="primary" :disabled="!chosen" data-test="replace-do" @click="replace(chosen, scope, fit)">
        Replace
      </UiButton>
    </template>
  </DialogCard>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px;
  max-height: 40vh;
}
.choice {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 8px 4px 4px;
}
.choice img,
.blank {
  flex: none;
  width: 44px;
  height: 44px;
  border-radius: 6px;
  background: var(--surround);
}
</style>
