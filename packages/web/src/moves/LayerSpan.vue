<script setup lang="ts">
import { changeLayer, type Layer } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { useRack } from '../stores/index.ts';
import { percent } from '../timeline/lane.ts';
import type { Lane } from './use-lane.ts';

/** When a layer is seen, as one bar: dragged along the timeline, longer or shorter at its ends. */
const { layer, length, lane } = defineProps<{ layer: Layer; length: number; lane: Lane }>();
const rack = useRack();
const end = computed(() => (layer.length > 0 ? layer.start + layer.length : length));
/** What is held, and where it was taken. */
const held = ref<{ part: 'whole' | 'start' | 'end'; grab: number; start: number; end: number; id: string } | null>(
  null,
);

function take(event: PointerEvent, part: 'whole' | 'start' | 'end'): void {
  if (event.button !== 0) return;
  rack.chosen = layer.id;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  held.value = { part, grab: lane.frameAt(event), start: layer.start, end: end.value, id: `span-${Date.now()}` };
}
function drag(event: PointerEvent): void {
  const hand = held.value;
  if (!hand || event.buttons !== 1) return;
  const to = lane.frameAt(event);
  if (hand.part === 'end') put(hand.start, Math.max(hand.start + 1, to + 1), hand.id);
  else if (hand.part === 'start') put(Math.min(to, hand.end - 1), hand.end, hand.id);
  else put(hand.start + to - hand.grab, hand.end + to - hand.grab, hand.id);
}
/** A span that reaches the shot's end goes with it when that moves. */
function put(from: number, to: number, gesture: string): void {
  const start = Math.max(0, from);
  const long = to >= length ? 0 : Math.max(1, to - start);
  if (start === layer.start && long === layer.length) return;
  rack.run(changeLayer(layer.id, 'Change when layer is seen', { start, length: long }), gesture);
}
function onKey(event: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (by && event.shiftKey) put(layer.start, Math.max(layer.start + 1, end.value + by), '');
  else if (by) put(layer.start + by, end.value + by, '');
  else if (event.key === 'Enter' || event.key === ' ') rack.chosen = layer.id;
  else if (event.key === 'Delete') rack.remove(layer.id);
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <div
    class="bar"
    role="button"
    tabindex="0"
    :class="{ on: rack.chosen === layer.id }"
    :style="{ left: percent(layer.start, length), width: percent(end - layer.start, length) }"
    :aria-label="`${layer.name} is seen in frames ${layer.start + 1} to ${end}: arrow keys move it, with Shift its end`"
    :aria-pressed="rack.chosen === layer.id"
    data-test="layer-span"
    @pointerdown="take($event, 'whole')"
    @pointermove="drag"
    @pointerup="held = null"
    @keydown="onKey"
  >
    <i class="end" @pointerdown.stop="take($event, 'start')" @pointermove.stop="drag" @pointerup.stop="held = null" />
    <i class="end" @pointerdown.stop="take($event, 'end')" @pointermove.stop="drag" @pointerup.stop="held = null" />
  </div>
</template>

<style scoped>
.bar {
  position: absolute;
  z-index: 3;
  top: 7px;
  display: flex;
  justify-content: space-between;
  height: 13px;
  min-width: 12px;
  border: 1px solid color-mix(in srgb, var(--bone) 45%, transparent);
  border-radius: 4px;
  background: color-mix(in srgb, var(--bone) 14%, var(--ink-1));
  cursor: grab;
  touch-action: none;
}
.bar.on {
  border-color: var(--celadon);
  background: color-mix(in srgb, var(--celadon) 22%, var(--ink-1));
}
.end {
  width: 7px;
  cursor: ew-resize;
}
</style>
