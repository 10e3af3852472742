<script setup lang="ts">
import { fromWheels, toWheels, type Wheels, type WheelValues } from '@tender-orbit/core/composite';
import type { LayerOf } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { useRack } from '../stores/index.ts';
import ColourWheel from './ColourWheel.vue';

/** Lift, gamma and gain of a grade as wheels: other words for its slope, offset and power. */
const { layer } = defineProps<{ layer: LayerOf<'grade'> }>();
const rack = useRack();
const NAMES = [
  ...(['slopeRed', 'slopeGreen', 'slopeBlue', 'offsetRed', 'offsetGreen', 'offsetBlue'] as const),
  ...(['powerRed', 'powerGreen', 'powerBlue'] as const),
];
const wheels = computed(() => {
  const now = Object.fromEntries(NAMES.map((name) => [name, rack.value(layer, name)])) as unknown as WheelValues;
  return toWheels(now);
});
const ALL = [
  { name: 'lift', label: 'Lift', reach: 0.25, usual: 0 },
  { name: 'gamma', label: 'Gamma', reach: 0.6, usual: 1 },
  { name: 'gain', label: 'Gain', reach: 0.8, usual: 1 },
] as const;
const round = (v: number): number => Math.round(v * 1e4) / 1e4;

function set(name: keyof Wheels, values: [number, number, number], gesture: string): void {
  const next = fromWheels({ ...wheels.value, [name]: values });
  for (const of of NAMES) {
    const [was, to] = [rack.value(layer, of) as number, round(next[of])];
    // What stays is not keyed anew.
    if (Math.abs(was - to) > 1e-6) rack.setValue(layer, of, to, gesture || `wheels-${name}`);
  }
}
</script>

<template>
  <div class="wheels" data-test="wheels">
    <ColourWheel
      v-for="{ name, label, reach, usual } in ALL"
      :key="name"
      :label="label"
      :values="wheels[name]"
      :reach="reach"
      :usual="usual"
      @change="(values, gesture) => set(name, values, gesture)"
    />
  </div>
</template>

<style scoped>
.wheels {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px;
  padding: 6px 0 8px;
}
</style>
