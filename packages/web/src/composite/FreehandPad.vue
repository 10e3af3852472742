<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import type { Spot, StrokePoint } from '@tender-orbit/core/document';
import { computed, ref, useTemplateRef } from 'vue';
import { fittedPath } from './freehand.ts';

/** Takes a line that is drawn over the picture by hand. Lengths are shares of the picture's height, y up, 0 where `origin` is. */
const {
  aspect,
  closed,
  label,
  origin = [0, 0],
} = defineProps<{
  /** Of the picture, width over height. */
  aspect: number;
  closed: boolean;
  label: string;
  origin?: Spot;
}>();
const emit = defineEmits<{
  /** Null: the line went nowhere. */
  drawn: [points: StrokePoint[] | null];
}>();
const box = useTemplateRef('box');
const { width, height } = useElementSize(box);
/** Places on the screen. */
const line = ref<Spot[]>([]);

function spotOf(event: PointerEvent): Spot {
  const rect = box.value!.getBoundingClientRect();
  return [event.clientX - rect.left, event.clientY - rect.top];
}
function press(event: PointerEvent): void {
  box.value!.setPointerCapture(event.pointerId);
  line.value = [spotOf(event)];
}
function drag(event: PointerEvent): void {
  if (line.value.length > 0) line.value = [...line.value, spotOf(event)];
}
function release(): void {
  if (line.value.length === 0) return;
  const high = Math.min(height.value, width.value / aspect);
  const spots = line.value.map(([x, y]): Spot => [
    (x - width.value / 2) / high - origin[0],
    (height.value / 2 - y) / high - origin[1],
  ]);
  line.value = [];
  emit('drawn', fittedPath(spots, closed));
}
const way = computed(() => line.value.map(([x, y]) => `${x},${y}`).join(' '));
</script>

<template>
  <svg
    ref="box"
    class="pad"
    role="img"
    :aria-label="label"
    data-test="freehand"
    @pointerdown.prevent="press"
    @pointermove="drag"
    @pointerup="release"
    @pointercancel="line = []"
  >
    <polyline :points="way" />
  </svg>
</template>

<style scoped>
.pad {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: none;
}
polyline {
  fill: none;
  stroke: var(--celadon);
  stroke-width: 2;
}
</style>
