<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { watchEffect } from 'vue';

/** The draggable edge of a side panel; the width is remembered by name. */
const {
  name,
  usual,
  side,
  min = 150,
  max = 520,
} = defineProps<{ name: string; usual: number; side: 'left' | 'right'; min?: number; max?: number }>();
const width = defineModel<number>({ required: true });
const kept = useLocalStorage(`tender-orbit:panel:${name}`, usual);
watchEffect(() => (width.value = Math.min(max, Math.max(min, kept.value))));
let start: { x: number; width: number } | null = null;

function onDown(event: PointerEvent): void {
  start = { x: event.clientX, width: kept.value };
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}
function onMove(event: PointerEvent): void {
  if (start)
    kept.value = Math.min(max, Math.max(min, start.width + (event.clientX - start.x) * (side === 'left' ? 1 : -1)));
}
function onKey(event: KeyboardEvent): void {
  const step = event.key === 'ArrowRight' ? 16 : event.key === 'ArrowLeft' ? -16 : 0;
  if (step) kept.value = Math.min(max, Math.max(min, kept.value + step * (side === 'left' ? 1 : -1)));
}
</script>

<template>
  <div
    class="edge"
    role="separator"
    tabindex="0"
    aria-orientation="vertical"
    :aria-label="`Width of the ${side} panel`"
    :aria-valuenow="width"
    :aria-valuemin="min"
    :aria-valuemax="max"
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="start = null"
    @keydown="onKey"
    @dblclick="kept = usual"
  />
</template>

<style scoped>
.edge {
  width: 8px;
  cursor: col-resize;
  touch-action: none;
  border-radius: 4px;
}
.edge:hover {
  background: var(--ink-2);
}
</style>
