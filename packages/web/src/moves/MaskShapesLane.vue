<script setup lang="ts">
import type { Layer } from '@tender-orbit/core/document';
import { ref } from 'vue';
import { dropShape, moveShape } from '../composite/mask-shapes.ts';
import { usePlayhead, useRack } from '../stores/index.ts';
import { percent } from '../timeline/lane.ts';
import type { Lane } from './use-lane.ts';

/** The shapes that a drawn mask goes through: dragged along the timeline one by one. */
const { layer, length, lane } = defineProps<{ layer: Layer; length: number; lane: Lane }>();
const rack = useRack();
const playhead = usePlayhead();
/** The shape in hand, and where it would come to. */
const held = ref<{ frame: number; to: number } | null>(null);

function take(event: PointerEvent, frame: number): void {
  if (event.button !== 0) return;
  rack.chosen = layer.id;
  (event.currentTarget as HTMLElement).setPointerCapture?.(event.pointerId);
  held.value = { frame, to: frame };
}
function drag(event: PointerEvent): void {
  if (!held.value || event.buttons !== 1) return;
  held.value = { ...held.value, to: lane.frameAt(event) };
}
function letGo(): void {
  const hand = held.value;
  held.value = null;
  if (!hand) return;
  if (hand.to === hand.frame) playhead.seek(hand.frame, length);
  else move(hand.frame, hand.to);
}
function move(frame: number, to: number): void {
  if (to < 0) return;
  rack.change(layer, 'Move shape of the mask', { maskPath: moveShape(layer.maskPath, frame, to) });
}
function onKey(event: KeyboardEvent, frame: number): void {
  if (event.ctrlKey || event.metaKey) return;
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (by) move(frame, frame + by);
  else if (event.key === 'Enter' || event.key === ' ') playhead.seek(frame, length);
  else if (event.key === 'Delete')
    rack.change(layer, 'Delete shape of the mask', { maskPath: dropShape(layer.maskPath, frame) });
  else return;
  event.preventDefault();
  event.stopPropagation();
}
const at = (frame: number): string => percent(held.value?.frame === frame ? held.value.to : frame, length);
</script>

<template>
  <span
    class="way"
    :style="{
      left: percent(layer.maskPath[0].frame, length),
      width: percent(layer.maskPath.at(-1)!.frame - layer.maskPath[0].frame, length),
    }"
  />
  <button
    v-for="(shape, n) in layer.maskPath"
    :key="n"
    type="button"
    class="shape"
    :style="{ left: at(shape.frame) }"
    :aria-label="`Shape of the mask of ${layer.name} at frame ${shape.frame + 1}: arrow keys move it, Delete takes it away`"
    :data-frame="shape.frame"
    data-test="mask-shape"
    @pointerdown.stop="take($event, shape.frame)"
    @pointermove="drag"
    @pointerup="letGo"
    @keydown="onKey($event, shape.frame)"
  />
</template>

<style scoped>
.way {
  position: absolute;
  top: 13px;
  height: 1.5px;
  background: var(--bone);
  opacity: 0.7;
}
.shape {
  position: absolute;
  z-index: 3;
  top: 7px;
  width: 13px;
  height: 13px;
  margin-left: -6.5px;
  padding: 0;
  border: 2px solid var(--bone);
  border-radius: 2px 7px;
  background: var(--ink-1);
  cursor: grab;
  touch-action: none;
}
</style>
