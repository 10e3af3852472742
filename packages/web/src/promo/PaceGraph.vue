<script setup lang="ts">
import { pacePoints, speedAt, withPoint } from '@tender-orbit/core/promo';
import { FASTEST_PACE, type Clip, type PacePoint } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';

/** The speed of a clip over its frames: points are dragged and moved by arrows, a double click adds one, Delete takes it away. */
const { clip, at } = defineProps<{ clip: Clip; at: number }>();
const chosen = defineModel<number>({ required: true });
const emit = defineEmits<{ change: [points: PacePoint[], gesture: string] }>();

const WIDE = 240;
const HIGH = 84;
const EDGE = 6;
/** Speeds that a step of the arrows goes. */
const STEP = 0.05;
const svg = ref<SVGSVGElement>();
const points = computed(() => pacePoints(clip));
const drag = ref<{ gesture: string; most: number } | null>(null);
/** The highest speed that is drawn; it stays while a point is dragged. */
const most = computed(() => drag.value?.most ?? Math.max(2, ...points.value.map(({ speed }) => speed)) * 1.15);
const x = (frame: number): number => EDGE + (frame / clip.length) * (WIDE - 2 * EDGE);
const y = (speed: number): number => HIGH - EDGE - (speed / most.value) * (HIGH - 2 * EDGE);
const curve = computed(() => {
  const places = Array.from({ length: 121 }, (_, i) => (i / 120) * clip.length);
  // Where a speed jumps there is a place on either side.
  for (const point of points.value) places.push(point.at - 1e-6, point.at);
  const within = places.filter((p) => p >= 0 && p <= clip.length).sort((a, b) => a - b);
  return within.map((p) => `${x(p).toFixed(1)},${y(speedAt(clip, p)).toFixed(1)}`).join(' ');
});
const seen = computed(() =>
  points.value.flatMap((point, index) => (point.at >= 0 && point.at <= clip.length ? [{ point, index }] : [])),
);
const told = ({ at: frame, speed }: PacePoint): string =>
  `${Math.round(speed * 100)}% at frame ${Math.round(frame) + 1}`;

function move(index: number, to: { at: number; speed: number }, gesture = ''): void {
  const [before, after] = [points.value[index - 1], points.value[index + 1]];
  const least = before ? before.at : -Infinity;
  const last = after ? after.at : Infinity;
  const moved = {
    ...points.value[index],
    at: Math.min(last, Math.max(least, Math.round(to.at))),
    speed: Math.min(FASTEST_PACE, Math.max(0, Math.round(to.speed * 100) / 100)),
  };
  emit(
    'change',
    points.value.map((point, n) => (n === index ? moved : point)),
    gesture,
  );
}
function placeOf(event: MouseEvent): { at: number; speed: number } {
  const box = svg.value!.getBoundingClientRect();
  const across = ((event.clientX - box.left) / box.width) * WIDE;
  const down = ((event.clientY - box.top) / box.height) * HIGH;
  return {
    at: Math.min(clip.length, Math.max(0, ((across - EDGE) / (WIDE - 2 * EDGE)) * clip.length)),
    speed: ((HIGH - EDGE - down) / (HIGH - 2 * EDGE)) * most.value,
  };
}
function onDown(index: number, event: PointerEvent): void {
  chosen.value = index;
  drag.value = { gesture: `pace-${Date.now()}`, most: most.value };
  (event.target as Element).setPointerCapture(event.pointerId);
}
function onMove(event: PointerEvent): void {
  if (drag.value) move(chosen.value, placeOf(event), drag.value.gesture);
}
function onKey(index: number, event: KeyboardEvent): void {
  const { at: frame, speed } = points.value[index];
  const by = event.shiftKey ? 5 : 1;
  const to = {
    ArrowLeft: { at: frame - by, speed },
    ArrowRight: { at: frame + by, speed },
    ArrowUp: { at: frame, speed: speed + by * STEP },
    ArrowDown: { at: frame, speed: speed - by * STEP },
  }[event.key];
  if (!to && event.key !== 'Delete') return;
  event.preventDefault();
  event.stopPropagation();
  if (to) move(index, to);
  else if (points.value.length > 1) {
    chosen.value = Math.max(0, index - 1);
    emit(
      'change',
      points.value.filter((_, n) => n !== index),
      '',
    );
  }
}
function add(event: MouseEvent): void {
  const { at: place, speed } = placeOf(event);
  const frame = Math.round(place);
  const made = withPoint(clip, { at: frame, speed: Math.max(0, Math.round(speed * 100) / 100), ramp: 'smooth' });
  chosen.value = made.findIndex((point) => point.at === frame);
  emit('change', made, '');
}
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${WIDE} ${HIGH}`"
    role="group"
    aria-label="Speed of the clip"
    data-test="pace-graph"
    @pointermove="onMove"
    @pointerup="drag = null"
    @pointercancel="drag = null"
    @dblclick="add"
  >
    <line class="one" :x1="EDGE" :x2="WIDE - EDGE" :y1="y(1)" :y2="y(1)" />
    <text class="mark" :x="WIDE - EDGE" :y="y(1) - 3">100%</text>
    <line v-if="at >= 0 && at < clip.length" class="now" :x1="x(at)" :x2="x(at)" :y1="0" :y2="HIGH" />
    <polyline class="speed" :points="curve" />
    <circle
      v-for="{ point, index } in seen"
      :key="index"
      class="point"
      :class="{ chosen: index === chosen }"
      :cx="x(point.at)"
      :cy="y(point.speed)"
      r="5"
      tabindex="0"
      role="slider"
      aria-orientation="vertical"
      aria-valuemin="0"
      :aria-valuemax="FASTEST_PACE * 100"
      :aria-label="`Speed at frame ${Math.round(point.at) + 1}`"
      :aria-valuenow="Math.round(point.speed * 100)"
      :aria-valuetext="told(point)"
      @pointerdown.prevent="onDown(index, $event)"
      @focus="chosen = index"
      @keydown="onKey(index, $event)"
      @dblclick.stop
    />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  margin: 2px 0 4px;
  border-radius: 6px;
  background: var(--surround);
  touch-action: none;
}
.one {
  stroke: var(--line);
  stroke-dasharray: 3 3;
}
.mark {
  font-size: 8px;
  text-anchor: end;
  fill: var(--bone-dim);
}
.now {
  stroke: var(--coral);
}
.speed {
  fill: none;
  stroke: var(--bone);
  stroke-width: 1.5;
}
.point {
  fill: var(--bone);
  cursor: grab;
}
.point.chosen {
  fill: var(--celadon);
}
.point:focus-visible {
  outline: none;
  stroke: var(--celadon);
  stroke-width: 3;
}
</style>
