<script setup lang="ts">
import { computed } from 'vue';
import { keyAt, moveKey, removeKey, type Ease } from '@tender-orbit/core/document';
import { sampleTrack } from '@tender-orbit/core/motion';
import NumberField from '../controls/NumberField.vue';
import { useCampaign, useDocuments, usePlayhead, useStage } from '../stores/index.ts';
import { fieldOf, propertyLabel } from '../things/fields.ts';
import { kindOf } from '../things/kind-of.ts';
import { useKeySelection } from './use-key-selection.ts';

const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const stage = useStage();
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
const kind = computed(() => (campaign.set && chosen.value ? kindOf(campaign.set, chosen.value.thing) : null));
const field = computed(() => (kind.value ? fieldOf(kind.value, chosen.value!.path) : undefined));
const title = computed(
  () =>
    `${stage.things.find((t) => t.id === chosen.value?.thing)?.name ?? ''} ${kind.value ? propertyLabel(kind.value, chosen.value!.path) : ''}`,
);

const curve = computed(() => {
  const { keys } = track.value ?? { keys: [] };
  if (keys.length === 0) return null;
  const length = Math.max(1, campaign.shot!.length);
  const values = Array.from({ length: 97 }, (_, i) => sampleTrack(keys, (i / 96) * length));
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
  const keys = selection.list();
  documents.edit('shot', campaign.shotId, `Make key ${ease}`, (shot) => {
    for (const k of keys) {
      const found = keyAt(
        shot.tracks.find((t) => t.thing === k.thing && t.path === k.path),
        k.frame,
      );
      if (found) found.ease = ease;
    }
  });
}
function setValue(value: number, gesture: string): void {
  const { thing, path, frame } = chosen.value!;
  documents.edit(
    'shot',
    campaign.shotId,
    'Change key value',
    (shot) => {
      const found = keyAt(
        shot.tracks.find((t) => t.thing === thing && t.path === path),
        frame,
      );
      if (found) found.value = value / (field.value?.scale ?? 1);
    },
    gesture,
  );
}
function setFrame(frame: number): void {
  const from = chosen.value!;
  const to = Math.round(frame) - 1;
  documents.edit('shot', campaign.shotId, 'Move key', (shot) => moveKey(shot, from.thing, from.path, from.frame, to));
  selection.replace([{ ...from, frame: to }]);
}
function remove(): void {
  const keys = selection.list();
  documents.edit('shot', campaign.shotId, 'Delete key', (shot) =>
    keys.forEach((k) => removeKey(shot, k.thing, k.path, k.frame)),
  );
  selection.clear();
}
const EASES: Array<[Ease, string]> = [
  ['eased', 'Eased'],
  ['linear', 'Linear'],
  ['hold', 'Hold'],
];
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
      <button
        v-for="[ease, label] in EASES"
        :key="ease"
        type="button"
        class="chip"
        :class="{ on: key.ease === ease }"
        :aria-pressed="key.ease === ease"
        @click="setEase(ease)"
      >
        {{ label }}
      </button>
      <span class="spread" />
      <button type="button" class="chip" @click="remove">Delete key</button>
    </div>
    <NumberField
      label="Value"
      :unit="field?.unit"
      :step="field?.step ?? 1"
      :value="key.value * (field?.scale ?? 1)"
      @change="setValue"
    />
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
