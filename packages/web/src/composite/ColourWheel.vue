<script setup lang="ts">
import { fromPuck, toPuck } from '@tender-orbit/core/composite';
import { computed, useTemplateRef } from 'vue';
import { NumberField } from '../ui/index.ts';

/** Three values of a colour as a wheel that pulls them to a colour, and their mean. Keys move the puck; a double click puts it back. */
const { label, values, reach, usual } = defineProps<{
  label: string;
  values: readonly [number, number, number];
  /** What the values differ by at the wheel's rim. */
  reach: number;
  /** The mean that changes nothing. */
  usual: number;
}>();
const emit = defineEmits<{ change: [values: [number, number, number], gesture: string] }>();
const wheel = useTemplateRef('wheel');
const RADIUS = 34;
const puck = computed(() => toPuck([...values]));
const shown = computed(() => {
  const [x, y] = [puck.value.x / reach, puck.value.y / reach];
  const far = Math.max(1, Math.hypot(x, y));
  return { x: (x / far) * RADIUS, y: (-y / far) * RADIUS };
});
let gesture = '';
function put(x: number, y: number): void {
  const far = Math.max(1, Math.hypot(x, y));
  emit('change', fromPuck({ level: puck.value.level, x: (x / far) * reach, y: (y / far) * reach }), gesture);
}
/** How much of a drag counts: fine enough to grade by, as a ball under the hand is. */
const FINE = 0.35;
let from: { px: number; py: number; x: number; y: number } | null = null;
function press(event: PointerEvent): void {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  gesture = `wheel-${Date.now()}`;
  from = { px: event.clientX, py: event.clientY, x: puck.value.x / reach, y: puck.value.y / reach };
}
function drag(event: PointerEvent): void {
  if (!from || !wheel.value) return;
  const scale = (event.shiftKey ? FINE * 0.3 : FINE) / RADIUS;
  put(from.x + (event.clientX - from.px) * scale, from.y - (event.clientY - from.py) * scale);
}
function step(event: KeyboardEvent): void {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
  if (!by) return;
  event.preventDefault();
  gesture = `wheel-keys-${label}`;
  const far = event.shiftKey ? 0.1 : 0.02;
  put(puck.value.x / reach + by[0] * far, puck.value.y / reach + by[1] * far);
}
function level(to: number, by: string): void {
  emit('change', fromPuck({ ...puck.value, level: to }), by);
}
</script>

<template>
  <div class="wheel" role="group" :aria-label="label">
    <span class="name">{{ label }}</span>
    <svg
      ref="wheel"
      viewBox="-40 -40 80 80"
      tabindex="0"
      role="slider"
      :aria-label="`${label}: colour`"
      :aria-valuetext="values.map((v) => v.toFixed(3)).join(', ')"
      :data-test="`wheel-${label.toLowerCase()}`"
      @pointerdown.prevent="press"
      @pointermove="drag"
      @pointerup="from = null"
      @dblclick="put(0, 0)"
      @keydown="step"
    >
      <foreignObject x="-38" y="-38" width="76" height="76"><div class="hues" /></foreignObject>
      <circle r="29" class="face" />
      <path d="M-6 0H6M0 -6V6" class="cross" />
      <circle :cx="shown.x" :cy="shown.y" r="5" class="puck" />
    </svg>
    <NumberField
      class="level"
      :label="`${label} level`"
      hide-label
      :value="puck.level"
      :min="-4"
      :max="8"
      :step="0.01"
      :usual="usual"
      @change="level"
    />
  </div>
</template>

<style scoped>
.wheel {
  display: grid;
  justify-items: center;
  gap: 3px;
  min-width: 0;
}
.name {
  font-size: 12px;
  color: var(--bone-dim);
}
svg {
  width: 76px;
  height: 76px;
  cursor: grab;
  touch-action: none;
}
.hues {
  width: 76px;
  height: 76px;
  border-radius: 50%;
  background: conic-gradient(#b0413e, #a08a35, #3f8f52, #3a8f94, #44509e, #93408c, #b0413e);
}
.face {
  fill: var(--ink-2);
}
.cross {
  stroke: var(--bone-dim);
  stroke-width: 1;
}
.puck {
  fill: var(--bone);
  stroke: var(--ink-0);
  stroke-width: 1.5;
}
.level {
  width: 76px;
}
</style>
