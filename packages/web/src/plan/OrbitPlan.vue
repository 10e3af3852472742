<script setup lang="ts">
import { computed, ref } from 'vue';
import type { LightRole } from '@tender-orbit/core/document';
import { usePlayhead, useSelection, useStage } from '../stores/index.ts';
import { fromPolar, metresLabel, ringsUpTo, toPolar } from './polar.ts';
import { usePlan, type PlanMark } from './use-plan.ts';

const { paths = false } = defineProps<{ /** Draws where keyed things travel. */ paths?: boolean }>();
const playhead = usePlayhead();
const selection = useSelection();
const stage = useStage();
/** Radius of the rim in the drawing's own units. */
const R = 100;
const { spots, reach, scale, at, walls, trails, place, nudge, hold, release } = usePlan(() => paths, R);
const ADD: Array<[LightRole, string]> = [
  ['key', 'Key light'],
  ['fill', 'Fill light'],
  ['rim', 'Rim light'],
  ['top', 'Top light'],
  ['background', 'Background light'],
];
const disc = ref<SVGSVGElement>();
const arc = ref<SVGSVGElement>();
/** Half axes of the elevation arc: tall and narrow, to stand beside the disc. */
const ARC = { x: 26, y: 150 };

function wedge(spot: PlanMark): string {
  const { x, y } = at(spot.position);
  const dx = (spot.aim[0] - spot.position[0]) * scale.value;
  const dy = (spot.aim[2] - spot.position[2]) * scale.value;
  const length = Math.hypot(dx, dy) * 1.25 || 1;
  const angle = Math.atan2(dy, dx);
  const end = (side: number): string =>
    `${x + Math.cos(angle + side * spot.half) * length} ${y + Math.sin(angle + side * spot.half) * length}`;
  return `M${x} ${y}L${end(-1)}L${end(1)}Z`;
}
function cameraShape(spot: PlanMark): string {
  const { x, y } = at(spot.position);
  const angle = (Math.atan2(spot.aim[2] - spot.position[2], spot.aim[0] - spot.position[0]) * 180) / Math.PI;
  return `translate(${x} ${y}) rotate(${angle})`;
}

/** A card seen from above: a line across the way it faces. */
function cardLine(spot: PlanMark): Record<'x1' | 'y1' | 'x2' | 'y2', number> {
  const { x, y } = at(spot.position);
  const [dx, dy] = [spot.aim[0] - spot.position[0], spot.aim[2] - spot.position[2]];
  const half = Math.max(6, (spot.size / 2) * scale.value) / (Math.hypot(dx, dy) || 1);
  return { x1: x - dy * half, y1: y + dx * half, x2: x + dy * half, y2: y - dx * half };
}

/** A body seen from above. */
function blockBox(spot: PlanMark): Record<string, string | number> {
  const { x, y } = at(spot.position);
  const [w, h] = [spot.size * scale.value, (spot.depth ?? 0) * scale.value];
  const transform = `rotate(${-(spot.turn ?? 0)} ${x} ${y})`;
  return { x: x - w / 2, y: y - h / 2, width: w, height: h, rx: spot.round ? w / 2 : 1, transform };
}

let drag: { id: string; gesture: string; where: 'disc' | 'arc' } | null = null;

function start(event: PointerEvent, spot: PlanMark, where: 'disc' | 'arc'): void {
  const more = event.ctrlKey || event.shiftKey || event.metaKey;
  // Pressing one of several that are chosen drags them all.
  if (more || !selection.all.includes(spot.id)) selection.pick(spot.id, more);
  if (more) return;
  hold();
  drag = { id: spot.id, gesture: `plan-${Date.now()}`, where };
  (where === 'disc' ? disc : arc).value!.setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  const spot = drag && spots.value.find((s) => s.id === drag!.id);
  if (!drag || !spot) return;
  const svg = drag.where === 'disc' ? disc.value! : arc.value!;
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
  if (drag.where === 'disc')
    place(spot.id, [point.x / scale.value, spot.position[1], point.y / scale.value], drag.gesture);
  else {
    const elevation = Math.max(-10, (Math.asin(Math.min(0.9998, Math.max(-1, -point.y / ARC.y))) * 180) / Math.PI);
    const polar = toPolar(spot.position);
    place(spot.id, fromPolar({ ...polar, elevation }), drag.gesture);
  }
}
function end(): void {
  drag = null;
  release();
}
const chosen = computed(() => spots.value.find((s) => s.id === stage.selected && s.kind !== 'product'));
const reading = computed(() => {
  if (!chosen.value) return '';
  const { azimuth, elevation, distance } = toPolar(chosen.value.position);
  return `${Math.round(azimuth)} deg round, ${Math.round(elevation)} up, ${metresLabel(distance)}`;
});
const arcPoint = (elevation: number): { x: number; y: number } => {
  const e = (elevation * Math.PI) / 180;
  return { x: Math.cos(e) * ARC.x, y: -Math.sin(e) * ARC.y };
};
const arcOf = (spot: PlanMark): { x: number; y: number } => arcPoint(toPolar(spot.position).elevation);
</script>

<template>
  <section class="card plan" aria-label="Orbit plan" data-test="orbit-plan">
    <svg ref="disc" class="disc" viewBox="-106 -108 212 216" @pointermove="move" @pointerup="end" @pointercancel="end">
      <g v-for="ring in ringsUpTo(reach)" :key="ring">
        <circle :r="ring * scale" class="ring" />
        <text :x="ring * scale - 2" y="-3" text-anchor="end" class="distance">{{ metresLabel(ring) }}</text>
      </g>
      <line v-for="wall in walls" :key="wall.id" :x1="-wall.x" :x2="wall.x" :y1="wall.y" :y2="wall.y" class="wall" />
      <polyline v-for="trail in trails" :key="trail.id" :points="trail.points" class="trail" :class="trail.kind" />
      <path
        v-for="spot in spots.filter((s) => s.half > 0 && s.on)"
        :key="`w-${spot.id}`"
        :d="wedge(spot)"
        class="wedge"
        :class="[spot.kind, { chosen: spot.id === stage.selected }]"
      />
      <g
        v-for="spot in spots"
        :key="spot.id"
        class="spot"
        :class="[spot.kind, { chosen: selection.all.includes(spot.id), off: !spot.on }]"
        tabindex="0"
        role="button"
        :aria-label="`${spot.name}: arrows turn it and step it in or out, Alt with arrows raises it`"
        :data-spot="spot.id"
        @pointerdown="start($event, spot, 'disc')"
        @keydown="nudge($event, spot)"
        @focus="selection.all.includes(spot.id) || selection.pick(spot.id)"
      >
        <circle
          v-if="spot.kind === 'product'"
          :cx="at(spot.position).x"
          :cy="at(spot.position).y"
          :r="Math.max(3.5, spot.size * scale)"
        />
        <line v-else-if="spot.kind === 'card'" v-bind="cardLine(spot)" />
        <rect v-else-if="spot.kind === 'block'" v-bind="blockBox(spot)" />
        <g v-else-if="spot.kind === 'camera'" :transform="cameraShape(spot)"><path d="M8 0L-5 6L-5 -6Z" /></g>
        <circle
          v-else
          :cx="at(spot.position).x"
          :cy="at(spot.position).y"
          :r="spot.id === stage.selected ? 7 : 5.5"
          :style="spot.mark ? { fill: spot.mark } : undefined"
        />
        <text
          v-if="spot.kind !== 'product' && spot.kind !== 'block'"
          :x="at(spot.position).x"
          :y="at(spot.position).y + (spot.position[2] > 0 ? 17 : -10)"
          text-anchor="middle"
          class="name"
        >
          {{ spot.name }}
        </text>
      </g>
    </svg>
    <svg
      ref="arc"
      class="arc"
      viewBox="-22 -160 60 194"
      aria-label="Height above the floor"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="end"
    >
      <path :d="`M${arcPoint(-10).x} ${arcPoint(-10).y}A${ARC.x} ${ARC.y} 0 0 0 0 ${-ARC.y}`" class="ring" />
      <line x1="-20" x2="36" y1="0" y2="0" class="floor" />
      <text v-for="deg in [0, 15, 30, 45, 60, 90]" :key="deg" x="-20" :y="arcPoint(deg).y + 3" class="distance">
        {{ deg }}
      </text>
      <circle
        v-for="spot in spots.filter((s) => s.kind !== 'product' && s.kind !== 'block')"
        :key="spot.id"
        :cx="arcOf(spot).x"
        :cy="arcOf(spot).y"
        :r="spot.id === stage.selected ? 7 : 5"
        class="spot"
        :class="[spot.kind, { chosen: spot.id === stage.selected, off: !spot.on }]"
        @pointerdown="start($event, spot, 'arc')"
      >
        <title>{{ spot.name }}: {{ Math.round(toPolar(spot.position).elevation) }} deg above the floor</title>
      </circle>
    </svg>
    <v-menu>
      <template #activator="{ props }">
        <button v-bind="props" type="button" class="plus" aria-label="Add to the plan" data-test="plan-add">+</button>
      </template>
      <v-list density="compact" bg-color="surface-bright">
        <v-list-item v-for="[role, label] in ADD" :key="role" :title="label" @click="stage.addLight(role)" />
        <v-list-item title="Flag" @click="stage.addCard('flag')" />
        <v-list-item title="Bounce card" @click="stage.addCard('bounce')" />
      </v-list>
    </v-menu>
    <p class="mono dim reading clip">{{ reading || `frame ${playhead.frame + 1}` }}</p>
  </section>
</template>

<style scoped>
.plus {
  position: absolute;
  top: 4px;
  left: 6px;
  width: 26px;
  height: 26px;
  border: 0;
  border-radius: 6px;
  background: var(--ink-2);
  color: var(--bone);
  font-size: 15px;
  cursor: pointer;
}
.plan {
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 74px;
  grid-template-rows: 1fr 20px;
  gap: 0 4px;
  padding: 6px 8px 2px;
}
svg {
  width: 100%;
  max-height: var(--plan-height, 262px);
  touch-action: none;
  user-select: none;
}
.arc {
  align-self: center;
}
.ring {
  fill: none;
  stroke: var(--line);
}
.floor {
  stroke: var(--line);
  stroke-dasharray: 2 3;
}
.distance {
  font: 9px var(--mono);
  fill: var(--bone-dim);
}
.name {
  font: 10px var(--sans);
  fill: var(--bone);
  pointer-events: none;
  paint-order: stroke;
  stroke: var(--ink-1);
  stroke-width: 2.5px;
}
.wall {
  stroke: var(--clay);
  stroke-width: 2.5;
  stroke-linecap: round;
}
.wedge {
  pointer-events: none;
}
.wedge.light {
  fill: var(--honey);
  fill-opacity: 0.1;
}
.wedge.light.chosen {
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
.trail.light {
  stroke: var(--honey);
}
.trail.camera {
  stroke: var(--celadon);
}
.spot {
  cursor: grab;
  outline-offset: 3px;
}
.spot.light {
  fill: var(--honey);
}
.spot.camera {
  fill: var(--celadon);
}
.spot.product {
  fill: var(--bone);
  fill-opacity: 0.85;
}
.spot.block {
  fill: var(--clay);
  fill-opacity: 0.28;
  stroke: var(--clay);
  stroke-width: 1.2;
}
.spot.card {
  fill: var(--bone-dim);
  stroke: var(--bone-dim);
  stroke-width: 3;
}
.spot.card text {
  stroke-width: 2.5px;
}
.spot.off {
  opacity: 0.4;
}
.spot.chosen > circle,
.spot.chosen line,
.spot.chosen path,
circle.spot.chosen {
  stroke: #fff;
  stroke-width: 1.6;
}
.reading {
  grid-column: 1 / -1;
  margin: 0;
  font-size: 12px;
  text-align: center;
}
</style>
