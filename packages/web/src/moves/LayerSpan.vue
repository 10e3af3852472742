<script setup lang="ts">
import type { Layer } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { useRack } from '../stores/index.ts';
import { percent } from '../timeline/lane.ts';
import { useBar } from './use-bar.ts';
import type { Lane } from './use-lane.ts';

/** When a layer is seen, as one bar: dragged along the timeline, longer or shorter at its ends. */
const { layer, length, lane } = defineProps<{ layer: Layer; length: number; lane: Lane }>();
const rack = useRack();
const end = computed(() => (layer.length > 0 ? layer.start + layer.length : length));

const { take, drag, letGo, onKey } = useBar(() => lane, {
  span: () => ({ start: layer.start, end: end.value }),
  put: (from, to, gesture) => {
    const start = Math.max(0, from);
    // A span that reaches the shot's end goes with it when that moves.
    const long = to >= length ? 0 : Math.max(1, to - start);
    if (start === layer.start && long === layer.length) return;
    rack.change(layer, 'Change when layer is seen', { start, length: long }, gesture);
  },
  choose: () => (rack.chosen = layer.id),
  remove: () => rack.remove(layer.id),
});
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
    @pointerup="letGo"
    @keydown="onKey"
  >
    <i class="end" @pointerdown.stop="take($event, 'start')" @pointermove.stop="drag" @pointerup.stop="letGo" />
    <i class="end" @pointerdown.stop="take($event, 'end')" @pointermove.stop="drag" @pointerup.stop="letGo" />
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
