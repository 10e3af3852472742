<script setup lang="ts">
import { computed, ref } from 'vue';
import { metresLabel, ringsUpTo, type PlanMark } from '@tender-orbit/core/staging';
import { useSelection, useStage } from '../stores/index.ts';
import { useThingMenu } from '../set/use-thing-menu.ts';
import PlanPaths from './PlanPaths.vue';
import PlanTrail from './PlanTrail.vue';
import PlanOutline from './PlanOutline.vue';
import { useMarkDrag } from './use-mark-drag.ts';
import type { Plan } from './use-plan.ts';
import { openContextMenu } from '../ui/index.ts';

/** The set from above: rings of distance, things with their wedges, and the trails of what moves. */
const { plan, rim } = defineProps<{ plan: Plan; rim: number; /** Draws the shot's paths. */ paths?: boolean }>();
const selection = useSelection();
const stage = useStage();
const menuFor = useThingMenu();
const svg = ref<SVGSVGElement>();
const { marks, reach, scale, trails, nudge } = plan;
const things = computed(() => marks.value.filter(({ outline }) => outline.kind !== 'wall'));
const opened = computed(() => marks.value.filter(({ half, on }) => half > 0 && on));

const { start, move, end } = useMarkDrag(svg, plan, (mark, { x, y }, gesture) =>
  plan.place(mark, [x / scale.value, mark.position[1], y / scale.value], gesture),
);

/** The back of each sweep, no further out than the drawing. */
const walls = computed(() =>
  marks.value.flatMap(({ id, on, outline }) =>
    on && outline.kind === 'wall'
      ? [
          {
            id,
            x: Math.min(rim * 1.4, (outline.width / 2) * scale.value),
            y: -Math.min(rim * 1.02, outline.depth * 0.4 * scale.value),
          },
        ]
      : [],
  ),
);

function wedge({ position, aim, half }: PlanMark): string {
  const { x, y } = plan.at(position);
  const [dx, dy] = [(aim[0] - position[0]) * scale.value, (aim[2] - position[2]) * scale.value];
  const length = Math.hypot(dx, dy) * 1.25 || 1;
  const angle = Math.atan2(dy, dx);
  const corner = (side: number): string =>
    `${x + Math.cos(angle + side * half) * length} ${y + Math.sin(angle + side * half) * length}`;
  return `M${x} ${y}L${corner(-1)}L${corner(1)}Z`;
}
</script>

<template>
  <svg
    ref="svg"
    viewBox="-106 -108 212 216"
    role="group"
    aria-label="The set from above"
    @pointermove="move"
    @pointerup="end"
    @pointercancel="end"
  >
    <g v-for="ring in ringsUpTo(reach)" :key="ring">
      <circle :r="ring * scale" class="ring" />
      <text :x="ring * scale - 2" y="-3" text-anchor="end" class="distance">{{ metresLabel(ring) }}</text>
    </g>
    <line v-for="wall in walls" :key="wall.id" :x1="-wall.x" :x2="wall.x" :y1="wall.y" :y2="wall.y" class="wall" />
    <polyline v-for="trail in trails" :key="trail.id" :points="trail.points" class="trail" :class="trail.kind" />
    <template v-for="trail in trails" :key="`t-${trail.id}`">
      <circle v-for="([x, y], i) in trail.frames" :key="i" :cx="x" :cy="y" r="0.9" class="tick" :class="trail.kind" />
    </template>
    <PlanPaths v-if="paths" :scale="scale" />
    <path
      v-for="mark in opened"
      :key="`w-${mark.id}`"
      :d="wedge(mark)"
      class="wedge"
      :class="[mark.outline.kind, { chosen: mark.id === stage.selected }]"
    />
    <g
      v-for="mark in things"
      :key="mark.id"
      v-memo="[mark, scale, selection.all.includes(mark.id), mark.id === stage.selected]"
      class="mark"
      :class="[mark.outline.kind, { chosen: selection.all.includes(mark.id), off: !mark.on }]"
      tabindex="0"
      role="button"
      :aria-label="`${mark.name}: Enter chooses it, arrows turn it and step it in or out, Alt with arrows raises it`"
      :data-spot="mark.id"
      @pointerdown="start($event, mark)"
      @keydown="nudge($event, mark)"
      @contextmenu="openContextMenu($event, menuFor(mark.id))"
    >
      <PlanOutline :mark :scale :at="plan.at(mark.position)" :chosen="mark.id === stage.selected" />
    </g>
    <PlanTrail v-if="paths" :scale="scale" />
  </svg>
</template>

<style scoped>
.wall {
  stroke: var(--clay);
  stroke-width: 2.5;
  stroke-linecap: round;
}
.tick {
  fill: var(--bone);
  pointer-events: none;
}
.tick.lamp {
  fill: var(--honey);
}
.tick.camera {
  fill: var(--celadon);
}
.wedge {
  pointer-events: none;
}
.wedge.lamp {
  fill: var(--honey);
  fill-opacity: 0.1;
}
.wedge.lamp.chosen {
  fill-opacity: 0.26;
}
.wedge.camera {
  fill: var(--celadon);
  fill-opacity: 0.16;
}
.trail {
  fill: none;
  stroke-width: 1.6;
  stroke-dasharray: 1 3;
  stroke-linecap: round;
  stroke: var(--bone);
}
.trail.lamp {
  stroke: var(--honey);
}
.trail.camera {
  stroke: var(--celadon);
}
.mark :deep(.name) {
  font: 10px var(--sans);
  fill: var(--bone);
  pointer-events: none;
  paint-order: stroke;
  stroke: var(--ink-1);
  stroke-width: 2.5px;
}
</style>
