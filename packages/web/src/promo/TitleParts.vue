<script setup lang="ts">
import { computed } from 'vue';
import { newParts, setPart, type PartByPart, type Title } from '@tender-orbit/core/document';
import { titleParts } from '@tender-orbit/core/promo';
import { beatsBetween } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { usePromo } from './use-promo.ts';
import { FieldRow, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';

/** Whether a title comes at once or part by part, and in which order. */
const { title } = defineProps<{ title: Title }>();
const campaign = useCampaign();
const { grid, run } = usePromo();
const PARTS = optionsOf<PartByPart['part'] | 'all'>({
  all: 'all at once',
  line: 'line by line',
  word: 'word by word',
  letter: 'letter by letter',
});
const ORDERS = optionsOf<PartByPart['order']>({
  forward: 'forwards',
  back: 'backwards',
  middle: 'from the middle',
  random: 'at random',
});
const count = computed(() => (title.parts ? titleParts(title.text, title.parts.part).length : 0));

function set(values: Partial<PartByPart>, gesture = ''): void {
  if (title.parts) run(setPart(title.id, 'Title by parts', 'parts', { ...title.parts, ...values }), gesture);
}
function choose(part: PartByPart['part'] | 'all'): void {
  const parts = part === 'all' ? null : { ...(title.parts ?? newParts(part)), part, times: [] };
  run(setPart(title.id, 'Title by parts', 'parts', parts));
}
/** A part on each beat from where the title begins. */
function onBeats(): void {
  if (!grid.value) return;
  const beats = beatsBetween(grid.value, campaign.rate, title.start, title.start + title.length - 1);
  set({ times: beats.slice(0, count.value).map(({ frame }) => Math.round(frame) - title.start) });
}
</script>

<template>
  <FieldRow label="Comes">
    <SelectField label="Comes" :options="PARTS" :value="title.parts?.part ?? 'all'" @change="choose" />
  </FieldRow>
  <template v-if="title.parts">
    <FieldRow label="Order">
      <SelectField label="Order" :options="ORDERS" :value="title.parts.order" @change="(order) => set({ order })" />
    </FieldRow>
    <NumberField
      v-if="title.parts.times.length === 0"
      label="Overlap"
      unit="%"
      :value="title.parts.overlap * 100"
      :min="0"
      :max="100"
      :step="5"
      :usual="50"
      @change="(v, g) => set({ overlap: v / 100 }, g)"
    />
    <NumberField
      v-if="title.parts.order === 'random'"
      label="Seed"
      unit=""
      :value="title.parts.seed"
      :min="0"
      :max="1000000"
      :step="1"
      @change="(v, g) => set({ seed: Math.round(v) }, g)"
    />
    <UiButton v-if="title.parts.times.length > 0" class="beats" @click="set({ times: [] })">Evenly again</UiButton>
    <UiButton
      v-else
      class="beats"
      :disabled="!grid"
      :tip="grid ? 'Each part comes on a beat' : 'Give the music its tempo first'"
      @click="onBeats"
    >
      One on each beat
    </UiButton>
  </template>
</template>

<style scoped>
.beats {
  justify-self: start;
}
</style>
