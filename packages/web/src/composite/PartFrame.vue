<script setup lang="ts">
import { ref } from 'vue';
import { nudgePart, partBetween, type Part } from './region.ts';

/** A frame over the picture that shows, and lets draw, which part of it is rendered. */
const { aspect } = defineProps<{ aspect: number }>();
const part = defineModel<Part>({ required: true });
const svg = ref<SVGSVGElement>();
let from: { x: number; y: number } | null = null;

function placeOf(event: PointerEvent): { x: number; y: number } {
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.value!.getScreenCTM()!.inverse());
  return { x: point.x / aspect, y: point.y };
}
function start(event: PointerEvent): void {
  from = placeOf(event);
  svg.value!.setPointerCapture(event.pointerId);
}
function drag(event: PointerEvent): void {
  if (!from) return;
  const to = placeOf(event);
  if (Math.hypot(to.x - from.x, to.y - from.y) > 0.01) part.value = partBetween(from.x, from.y, to.x, to.y);
}
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, -0.01],
  ArrowDown: [0, 0.01],
};
function nudge(event: KeyboardEvent): void {
  const way = ARROWS[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  part.value = nudgePart(part.value, way[0], way[1], event.shiftKey);
}
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${aspect} 1`"
    tabindex="0"
    role="application"
    aria-label="Part to render: drag to draw it, arrows move it, Shift with arrows sizes it"
    data-test="part-frame"
    @pointerdown="start"
    @pointermove="drag"
    @pointerup="from = null"
    @pointercancel="from = null"
    @keydown="nudge"
  >
    <path
      class="outside"
      fill-rule="evenodd"
      :d="`M0 0H${aspect}V1H0ZM${part.x0 * aspect} ${part.y0}V${part.y1}H${part.x1 * aspect}V${part.y0}Z`"
    />
    <rect
      :x="part.x0 * aspect"
      :y="part.y0"
      :width="(part.x1 - part.x0) * aspect"
      :height="part.y1 - part.y0"
      class="edge"
    />
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: none;
}
.outside {
  fill: var(--ink-0);
  fill-opacity: 0.6;
}
.edge {
  fill: none;
  stroke: var(--honey);
  stroke-width: 1.5px;
  vector-effect: non-scaling-stroke;
}
</style>
