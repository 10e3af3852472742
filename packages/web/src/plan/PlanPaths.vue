<script setup lang="ts">
import { movePathPoint, type MovePath, type PathPoint, type Point } from '@tender-orbit/core/document';
import { curveOfPath } from '@tender-orbit/core/motion';
import { computed, toRaw } from 'vue';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { useMoveSelection } from '../things/use-move-selection.ts';

/** The drawn paths of the shot from above; points of the one in hand are dragged, or moved by arrow keys. */
const { scale } = defineProps<{ scale: number }>();
const campaign = useCampaign();
const documents = useDocuments();
const moves = useMoveSelection();
const STEPS = 64;
const riding = computed(() => (moves.rule.value?.kind === 'ride' ? moves.rule.value.target : ''));
const paths = computed(() =>
  (campaign.shot?.paths ?? []).map((path) => ({
    path,
    line: curveOfPath(toRaw(path))
      .points(STEPS)
      .map(([x, , z]) => `${(x * scale).toFixed(2)},${(z * scale).toFixed(2)}`)
      .join(' '),
    open: moves.is(path.id) || riding.value === path.id,
  })),
);

function put(path: MovePath, point: PathPoint, x: number, z: number, gesture: string): void {
  const at = [x, point.at[1], z].map((v) => Number(v.toFixed(4))) as Point;
  documents.run('shot', campaign.shotId, movePathPoint(path.id, point.id, at), gesture);
}
let gesture = '';
function take(event: PointerEvent): void {
  if (event.button !== 0) return;
  event.stopPropagation();
  gesture = `path-${Date.now()}`;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function drag(event: PointerEvent, path: MovePath, point: PathPoint): void {
  if (!gesture || event.buttons !== 1) return;
  const dot = event.currentTarget as SVGGraphicsElement;
  const toDrawing = dot.ownerSVGElement!.getScreenCTM()!.inverse();
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(toDrawing);
  put(path, point, x / scale, y / scale, gesture);
}
const STEP: Record<string, readonly [number, number]> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, -0.01],
  ArrowDown: [0, 0.01],
};
function nudge(event: KeyboardEvent, path: MovePath, point: PathPoint): void {
  const by = STEP[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  put(path, point, point.at[0] + by[0], point.at[2] + by[1], '');
}
</script>

<template>
  <g v-for="{ path, line, open } in paths" :key="path.id">
    <polyline :points="line" class="way" :class="{ open }" />
    <polyline :points="line" class="reach" @pointerdown="moves.choose('path', path.id)" />
    <template v-if="open">
      <circle
        v-for="(point, i) in path.points"
        :key="point.id"
        class="point"
        :cx="point.at[0] * scale"
        :cy="point.at[2] * scale"
        r="3.6"
        tabindex="0"
        role="button"
        :aria-label="`Point ${i + 1} of ${path.name}: arrow keys move it`"
        data-test="path-point"
        @pointerdown="take"
        @pointermove="drag($event, path, point)"
        @pointerup="gesture = ''"
        @keydown="nudge($event, path, point)"
      />
    </template>
  </g>
</template>

<style scoped>
.way {
  fill: none;
  stroke: var(--coral);
  stroke-width: 1;
  stroke-dasharray: 3 2;
}
.way.open {
  stroke-width: 1.6;
  stroke-dasharray: none;
}
.reach {
  fill: none;
  stroke: transparent;
  stroke-width: 8;
  cursor: pointer;
}
.point {
  fill: var(--ink-0);
  stroke: var(--coral);
  stroke-width: 1.6;
  cursor: grab;
}
</style>
