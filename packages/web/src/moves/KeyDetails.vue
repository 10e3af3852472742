<script setup lang="ts">
import { useHandlers } from '../actions/index.ts';
import { computed } from 'vue';
import {
  changeKey,
  deleteKeys,
  easeKeys,
  findThing,
  isNumeric,
  keyAt,
  moveKeys,
  propertyOf,
  type Ease,
} from '@tender-orbit/core/document';
import { NumberCurve } from '@tender-orbit/core/motion';
import PropertyField from '../controls/PropertyField.vue';
import { useCampaign, useDocuments, usePlayhead } from '../stores/index.ts';
import { useKeySelection } from './use-key-selection.ts';
import { NumberField, ToggleRow, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const selection = useKeySelection();
const W = 240;
const H = 92;

const chosen = computed(() => (selection.count.value ? selection.list()[0] : null));
const track = computed(() =>
  chosen.value
    ? campaign.shot?.tracks.find((t) => t.thing === chosen.value!.thing && t.path === chosen.value!.path)
    : undefined,
);
const key = computed(() => (chosen.value ? keyAt(track.value, chosen.value.frame) : undefined));
const found = computed(() => (campaign.set && chosen.value ? findThing(campaign.set, chosen.value.thing) : undefined));
const property = computed(() => found.value && propertyOf(found.value, chosen.value!.path));
const number = computed(() =>
  property.value?.type === 'number' || property.value?.type === 'turn' ? property.value : undefined,
);
const title = computed(
  () => `${found.value?.name ?? ''} ${property.value?.label.toLowerCase() ?? chosen.value?.path ?? ''}`,
);

const curve = computed(() => {
  const numbers = track.value;
  if (!isNumeric(numbers) || numbers.keys.length === 0) return null;
  const { keys } = numbers;
  const length = Math.max(1, campaign.shot!.length);
  const course = new NumberCurve(keys, number.value);
  const values = Array.from({ length: 97 }, (_, i) => course.at((i / 96) * length));
  const low = Math.min(...values, ...keys.map((k) => k.value));
  const high = Math.max(...values, ...keys.map((k) => k.value));
  const y = (v: number): number => (high > low ? H - 8 - ((v - low) / (high - low)) * (H - 16) : H / 2);
  return {
    line: values.map((v, i) => `${(i / 96) * W},${y(v).toFixed(2)}`).join(' '),
    dots: keys.map((k) => ({ x: (k.frame / length) * W, y: y(k.value), here: k.frame === chosen.value?.frame })),
    head: (playhead.frame / length) * W,
  };
});

function setEase(ease: Ease): void {
  documents.run('shot', campaign.shotId, easeKeys(selection.list(), ease));
}
function setValue(value: number, gesture: string): void {
  documents.run('shot', campaign.shotId, changeKey(chosen.value!, value), gesture);
}
function setFrame(frame: number): void {
  const from = chosen.value!;
  const to = Math.round(frame) - 1;
  documents.run('shot', campaign.shotId, moveKeys([from], to - from.frame));
  selection.replace([{ ...from, frame: to }]);
}
function remove(): void {
  documents.run('shot', campaign.shotId, deleteKeys(selection.list()));
  selection.clear();
}
const EASES: Array<{ value: Ease; label: string }> = [
  { value: 'eased', label: 'Eased' },
  { value: 'linear', label: 'Linear' },
  { value: 'hold', label: 'Hold' },
];
useHandlers({ 'key.delete': { run: remove, enabled: () => selection.count.value > 0 } });
</script>

<template>
  <section v-if="key && track && curve" class="card key" aria-label="Chosen key" data-test="key-details">
    <h2 class="clip">{{ title }}</h2>
    <svg :viewBox="`0 0 ${W} ${H}`" class="curve" role="img" :aria-label="`Course of ${title} over the shot`">
      <line :x1="curve.head" :x2="curve.head" y1="0" :y2="H" stroke="var(--coral)" />
      <polyline :points="curve.line" fill="none" stroke="var(--celadon)" stroke-width="1.8" />
      <circle
        v-for="dot in curve.dots"
        :key="dot.x"
        :cx="dot.x"
        :cy="dot.y"
        :r="dot.here ? 4.5 : 3"
        :fill="dot.here ? 'var(--coral)' : 'var(--celadon)'"
      />
    </svg>
    <div class="row">
      <ToggleRow label="Ease" :options="EASES" :value="key.ease" @change="setEase" />
      <span class="spread" />
      <UiButton @click="remove">Delete key</UiButton>
    </div>
    <PropertyField v-if="number" label="Value" :property="number" :value="key.value as number" @change="setValue" />
    <NumberField label="At frame" unit="f" :step="1" :min="1" :value="key.frame + 1" @change="setFrame" />
  </section>
</template>

<style scoped>
.key {
  display: grid;
  gap: 6px;
  padding: 12px 14px;
}
.curve {
  width: 100%;
  border-radius: 6px;
  background: var(--ink-0);
}
</style>
