<script setup lang="ts">
import { computed, ref } from 'vue';
import { toPolar, type PlanMark } from '@tender-orbit/core/staging';
import { useStage } from '../stores/index.ts';
import { useMarkDrag } from './use-mark-drag.ts';
import type { Plan } from './use-plan.ts';

/** How high lights, cards and camera stand above the floor; dragging along the arc raises them. */
const { plan } = defineProps<{ plan: Plan }>();
const stage = useStage();
const svg = ref<SVGSVGElement>();
const raised = computed(() => plan.marks.value.filter((mark) => mark.raised));
/** Half axes of the arc: tall and narrow, to stand beside the disc. */
const ARC = { x: 26, y: 150 };
const LABELLED = [0, 15, 30, 45, 60, 90];

function pointAt(elevation: number): { x: number; y: number } {
  const e = (elevation * Math.PI) / 180;
  return { x: Math.cos(e) * ARC.x, y: -Math.sin(e) * ARC.y };
}
const elevationOf = ({ position }: PlanMark): number => toPolar(position).elevation;
const { start, move, end } = useMarkDrag(svg, plan, (mark, { y }, gesture) => {
  const up = Math.min(0.9998, Math.max(-1, -y / ARC.y));
  plan.raise(mark, (Math.asin(up) * 180) / Math.PI, gesture);
});
</script>

<template>
  <svg
    ref="svg"
    viewBox="-22 -160 60 194"
    role="img"
    aria-label="Height above the floor"
    @pointermove="move"
    @pointerup="end"
    @pointercancel="end"
  >
    <path :d="`M${pointAt(-10).x} ${pointAt(-10).y}A${ARC.x} ${ARC.y} 0 0 0 0 ${-ARC.y}`" class="ring" />
    <line x1="-20" x2="36" y1="0" y2="0" class="floor" />
    <text v-for="deg in LABELLED" :key="deg" x="-20" :y="pointAt(deg).y + 3" class="distance">{{ deg }}</text>
    <circle
      v-for="mark in raised"
      :key="mark.id"
      :cx="pointAt(elevationOf(mark)).x"
      :cy="pointAt(elevationOf(mark)).y"
      :r="mark.id === stage.selected ? 7 : 5"
      class="mark"
      :class="[mark.outline.kind, { chosen: mark.id === stage.selected, off: !mark.on }]"
      @pointerdown="start($event, mark)"
    >
      <title>{{ mark.name }}: {{ Math.round(elevationOf(mark)) }} deg above the floor</title>
    </circle>
  </svg>
</template>

<style scoped>
.floor {
  stroke: var(--line);
  stroke-dasharray: 2 3;
}
</style>
