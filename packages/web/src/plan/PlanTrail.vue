<script setup lang="ts">
import type { Point } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { usePlayhead } from '../stores/index.ts';
import { useTrail } from '../things/use-trail.ts';
import { useDotDrag } from './use-dot-drag.ts';

/** Keyed places of the chosen thing on its way, from above: dragged, or moved by arrow keys. */
const { scale } = defineProps<{ scale: number }>();
const playhead = usePlayhead();
const { trail, put } = useTrail();
const dots = computed(() =>
  (trail.value?.keys ?? []).map((frame) => ({ frame, at: trail.value!.points[Math.round(frame)] })),
);
const drag = useDotDrag<number>(
  () => scale,
  (frame, x, z, gesture) => {
    const [, y] = trail.value!.points[Math.round(frame)];
    put(frame, [x, y, z], gesture);
  },
);
const stepped = (event: KeyboardEvent, frame: number, at: Point): void => drag.nudge(event, frame, at[0], at[2]);
</script>

<template>
  <rect
    v-for="{ frame, at } in dots"
    :key="frame"
    class="dot"
    :class="{ here: Math.abs(frame - playhead.frame) < 0.5 }"
    :x="at[0] * scale - 3"
    :y="at[2] * scale - 3"
    width="6"
    height="6"
    rx="1.5"
    tabindex="0"
    role="button"
    :aria-label="`Key at frame ${Math.round(frame) + 1}: arrow keys move it`"
    data-test="trail-key"
    @pointerdown="drag.take"
    @pointermove="drag.move($event, frame)"
    @pointerup="drag.drop"
    @keydown="stepped($event, frame, at)"
  />
</template>

<style scoped>
.dot {
  fill: var(--ink-0);
  stroke: var(--coral);
  stroke-width: 1.4;
  cursor: grab;
}
.dot.here {
  fill: var(--coral);
}
</style>
