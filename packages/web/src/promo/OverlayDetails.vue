<script setup lang="ts">
import { computed } from 'vue';
import { carryOverlay, type Arrival, type PromoOverlay } from '@tender-orbit/core/document';
import { FieldRow, NumberField, SelectField, UiButton } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** Footage over the picture: where and how large it is, how it comes and goes. */
const { overlay } = defineProps<{ overlay: PromoOverlay }>();
const { promo, run, editOverlay } = usePromo();
const footage = computed(() => promo.value?.footage.find((f) => f.id === overlay.footage));

interface NumberOf {
  label: string;
  unit: string;
  at: 'x' | 'y' | 'size' | 'rotation' | 'opacity' | 'start' | 'length' | 'first' | 'speed';
  min: number;
  max: number;
  step: number;
  usual?: number;
  /** What is shown for 1, and whether whole numbers are kept. */
  factor?: number;
  whole?: boolean;
  /** What is shown for 0. */
  from?: number;
}
const PLACE: readonly NumberOf[] = [
  { label: 'Across', unit: '%', at: 'x', min: -200, max: 300, step: 1, usual: 50, factor: 100 },
  { label: 'Down', unit: '%', at: 'y', min: -200, max: 300, step: 1, usual: 50, factor: 100 },
  { label: 'Height', unit: '%', at: 'size', min: 1, max: 1000, step: 1, factor: 100 },
  { label: 'Rotation', unit: '°', at: 'rotation', min: -3600, max: 3600, step: 1, usual: 0 },
  { label: 'Opacity', unit: '%', at: 'opacity', min: 0, max: 100, step: 1, usual: 100, factor: 100 },
  { label: 'Starts at', unit: 'f', at: 'start', min: 1, max: 100001, step: 1, whole: true, from: 1 },
  { label: 'Stays for', unit: 'f', at: 'length', min: 1, max: 100000, step: 1, whole: true },
];
const FILM: readonly NumberOf[] = [
  { label: 'From frame', unit: 'f', at: 'first', min: 1, max: 1800, step: 1, usual: 1, whole: true, from: 1 },
  { label: 'Speed', unit: '%', at: 'speed', min: 0, max: 10000, step: 1, factor: 100 },
];
const numbers = computed(() => (footage.value && footage.value.frames > 1 ? [...PLACE, ...FILM] : PLACE));
const valueOf = ({ at, factor = 1, from = 0 }: NumberOf): number => overlay[at] * factor + from;
function set({ label, at, factor = 1, from = 0, whole }: NumberOf, value: number, gesture: string): void {
  const now = (value - from) / factor;
  const values = { [at]: whole ? Math.round(now) : now };
  editOverlay(overlay.id, `Change ${label.toLowerCase()} of overlay`, values, gesture);
}
const KINDS = (['none', 'fade', 'rise', 'slide', 'scale'] as const).map((value) => ({
  value,
  title: value === 'none' ? 'At once' : value.replace(/^./, (c) => c.toUpperCase()),
}));
function setArrival(side: 'arrive' | 'leave', values: Partial<Arrival>): void {
  const label = side === 'arrive' ? 'Change arrival' : 'Change leaving';
  editOverlay(overlay.id, label, { [side]: { ...overlay[side], ...values } });
}
</script>

<template>
  <h2 class="clip">{{ footage?.name ?? 'Overlay without footage' }}</h2>
  <NumberField
    v-for="field in numbers"
    :key="field.at"
    v-bind="field"
    :value="valueOf(field)"
    @change="(v, g) => set(field, v, g)"
  />
  <div v-if="promo && promo.overlays.length > 1" class="row">
    <UiButton @click="run(carryOverlay(overlay.id, 'front'))">To the front</UiButton>
    <UiButton @click="run(carryOverlay(overlay.id, 'back'))">To the back</UiButton>
  </div>
  <template v-for="side in ['arrive', 'leave'] as const" :key="side">
    <FieldRow :label="side === 'arrive' ? 'Arrives by' : 'Leaves by'">
      <SelectField
        :label="side === 'arrive' ? 'Arrives by' : 'Leaves by'"
        :options="KINDS"
        :value="overlay[side].kind === 'type' ? 'none' : overlay[side].kind"
        @change="(kind) => setArrival(side, { kind })"
      />
    </FieldRow>
    <NumberField
      v-if="overlay[side].kind !== 'none'"
      :label="side === 'arrive' ? 'within' : 'over'"
      unit="f"
      :value="overlay[side].frames"
      :min="0"
      :max="1000"
      :step="1"
      @change="(v) => setArrival(side, { frames: Math.round(v) })"
    />
  </template>
</template>
