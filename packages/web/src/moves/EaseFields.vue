<script setup lang="ts">
import { EASE_LIMITS, USUAL_EASES, type EaseShape } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { NumberField } from '../ui/index.ts';

/** The numbers of a shape of ease. */
const { ease } = defineProps<{ ease: EaseShape }>();
const emit = defineEmits<{ change: [ease: EaseShape, gesture: string] }>();

interface EaseNumber {
  label: string;
  value: number;
  /** What it counts as in the document, of one that is shown. */
  scale: number;
  limits: readonly [number, number];
  unit?: string;
  step: number;
  usual: number;
  with: (value: number) => EaseShape;
}

const PERCENT = { scale: 0.01, unit: '%', step: 1 };
const SHARE = [0, 1] as const;

function numbersOf(ease: EaseShape): EaseNumber[] {
  switch (ease.kind) {
    case 'soft':
      return (['start', 'landing'] as const).map((end) => ({
        ...{ ...PERCENT, label: `Soft ${end}`, value: ease[end], limits: SHARE, usual: USUAL_EASES.soft[end] },
        with: (value) => ({ ...ease, [end]: value }),
      }));
    case 'overshoot':
      return [
        {
          ...{ ...PERCENT, label: 'Beyond', value: ease.amount, limits: EASE_LIMITS.amount },
          usual: USUAL_EASES.overshoot.amount,
          with: (amount) => ({ ...ease, amount }),
        },
      ];
    case 'bounce':
      return [
        {
          ...{ label: 'Bounces', value: ease.bounces, scale: 1, limits: EASE_LIMITS.bounces, step: 1 },
          usual: USUAL_EASES.bounce.bounces,
          with: (bounces) => ({ ...ease, bounces: Math.round(bounces) }),
        },
        {
          ...{ ...PERCENT, label: 'Height kept', value: ease.kept, limits: EASE_LIMITS.kept },
          usual: USUAL_EASES.bounce.kept,
          with: (kept) => ({ ...ease, kept }),
        },
      ];
    case 'spring':
      return (
        [
          ['mass', 'Mass', 'kg', 0.1],
          ['stiffness', 'Stiffness', 'N/m', 10],
          ['damping', 'Damping', 'Ns/m', 0.5],
        ] as const
      ).map(([part, label, unit, step]) => ({
        ...{ label, value: ease[part], scale: 1, limits: EASE_LIMITS[part], unit, step },
        usual: USUAL_EASES.spring[part],
        with: (value) => ({ ...ease, [part]: value }),
      }));
    case 'steps':
      return [
        {
          ...{ label: 'Steps', value: ease.count, scale: 1, limits: EASE_LIMITS.count, step: 1 },
          usual: USUAL_EASES.steps.count,
          with: (count) => ({ ...ease, count: Math.round(count) }),
        },
      ];
    case 'bezier':
      return (
        [
          ['out', 0, 'Leaves, time'],
          ['out', 1, 'Leaves, way'],
          ['in', 0, 'Arrives, time'],
          ['in', 1, 'Arrives, way'],
        ] as const
      ).map(([end, axis, label]) => ({
        ...{ ...PERCENT, label, value: ease[end][axis], limits: axis === 0 ? SHARE : EASE_LIMITS.reach },
        usual: USUAL_EASES.bezier[end][axis],
        with: (value) => ({ ...ease, [end]: axis === 0 ? [value, ease[end][1]] : [ease[end][0], value] }),
      }));
  }
}
const fields = computed(() => numbersOf(ease));
</script>

<template>
  <NumberField
    v-for="field in fields"
    :key="field.label"
    :label="field.label"
    :unit="field.unit"
    :step="field.step"
    :value="Number((field.value / field.scale).toFixed(4))"
    :min="field.limits[0] / field.scale"
    :max="field.limits[1] / field.scale"
    :usual="field.usual / field.scale"
    @change="(value, gesture) => emit('change', field.with(value * field.scale), gesture)"
  />
</template>
