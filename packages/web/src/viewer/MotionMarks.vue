<script setup lang="ts">
import type { Point } from '@tender-orbit/core/document';
import { curveOfPath } from '@tender-orbit/core/motion';
import { computed, toRaw } from 'vue';
import { usePlayhead, useSelection, useStage } from '../stores/index.ts';
import { useMoveSelection } from '../things/use-move-selection.ts';
import { usePathDrawing } from '../things/use-path-drawing.ts';
import { usePathPoints } from '../things/use-path-points.ts';
import { useTrail } from '../things/use-trail.ts';
import type { StageView } from './stage-view.ts';

/**
 * Over the picture: the way of the chosen thing with a tick a frame and its keys, drawn paths with their points, and nulls.
 * Keys and points are dragged in the plane in which the eye sees them move best; arrow keys move them too.
 */
const { view, drawn, lift } = defineProps<{
  view: StageView;
  /** Counts drawn frames: what lies over the picture follows it. */
  drawn: number;
  /** Height of what the chosen thing's place is counted from, metres. */
  lift: number;
}>();
const playhead = usePlayhead();
const selection = useSelection();
const stage = useStage();
const moves = useMoveSelection();
const points = usePathPoints();
const { trail, put } = useTrail();
const pen = usePathDrawing();
const STEPS = 64;
/** Metres that an arrow key moves a dot by. */
const NUDGE = 0.005;
/** Looking this level, a drag moves in the picture's plane rather than over the floor. */
const LEVEL = 0.2;

type Screen = [number, number];
const seen = (at: readonly number[]): Screen | null => (drawn >= 0 && view.isBefore(at) ? view.toScreen(at) : null);
/** A line on the screen, broken where it passes the eye. */
function line(through: ReadonlyArray<readonly number[]>): string {
  let move = 'M';
  return through
    .map((at) => {
      const spot = seen(at);
      const step = spot ? `${move}${spot[0].toFixed(1)} ${spot[1].toFixed(1)}` : '';
      move = spot ? 'L' : 'M';
      return step;
    })
    .join('');
}
const raised = ([x, y, z]: Point): Point => [x, y + lift, z];
const way = computed(() => (trail.value ? line(trail.value.points.map(raised)) : ''));
/** A dot a frame: the denser, the slower. */
const ticks = computed(() =>
  (trail.value?.points ?? [])
    .map((at) => {
      const spot = seen(raised(at));
      return spot ? `M${spot[0].toFixed(1)} ${spot[1].toFixed(1)}h.01` : '';
    })
    .join(''),
);

interface Dot {
  key: string;
  name: string;
  at: Point;
  here: boolean;
  kind: 'key' | 'point' | 'handle';
  /** Where its arm begins, of a handle. */
  from?: Point;
  put: (at: Point, gesture: string, alone: boolean) => void;
}
const keyDots = computed((): Dot[] =>
  (trail.value?.keys ?? []).map((frame) => ({
    ...{ key: `key ${frame}`, name: `Key at frame ${Math.round(frame) + 1}`, kind: 'key' },
    at: raised(trail.value!.points[Math.round(frame)]),
    here: Math.abs(frame - playhead.frame) < 0.5,
    put: ([x, y, z], gesture) => put(frame, [x, y - lift, z], gesture),
  })),
);
const riding = computed(() => (moves.rule.value?.kind === 'ride' ? moves.rule.value.target : ''));
const paths = computed(() =>
  points.paths.value.map((path) => ({
    path,
    line: line(curveOfPath(toRaw(path)).points(STEPS)),
    open: moves.is(path.id) || riding.value === path.id,
  })),
);
const pointDots = computed((): Dot[] =>
  paths.value
    .filter(({ open }) => open)
    .flatMap(({ path }) =>
      path.points.map((point, i): Dot => ({
        ...{ key: point.id, name: `Point ${i + 1} of ${path.name}`, kind: 'point', here: false },
        at: point.at,
        put: (at, gesture) => points.put(path, point, at, gesture),
      })),
    ),
);
const handleDots = computed((): Dot[] =>
  paths.value
    .filter(({ open }) => open)
    .flatMap(({ path }) =>
      path.points.flatMap((point, i) =>
        (['in', 'out'] as const).flatMap((end): Dot[] =>
          point.handles
            ? [
                {
                  ...{ key: `${point.id} ${end}`, kind: 'handle', here: false, from: point.at },
                  name: `Handle ${end === 'in' ? 'into' : 'out of'} point ${i + 1} of ${path.name}`,
                  at: point.at.map((v, axis) => v + point.handles![end][axis]) as Point,
                  put: (at, gesture, alone) => points.pull(path, point, end, at, !alone, gesture),
                },
              ]
            : [],
        ),
      ),
    ),
);
const dots = computed(() =>
  [...handleDots.value, ...pointDots.value, ...keyDots.value].flatMap((dot) => {
    const spot = seen(dot.at);
    return spot ? [{ ...dot, spot, arm: dot.from ? line([dot.from, dot.at]) : '' }] : [];
  }),
);
const nulls = computed(() =>
  (stage.posed?.nulls ?? []).flatMap(({ id, name, position }) => {
    const spot = seen(position);
    return spot ? [{ id, name, spot }] : [];
  }),
);

let gesture = '';
function take(event: PointerEvent): void {
  if (event.button !== 0) return;
  gesture = `mark-${Date.now()}`;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
/**
 * Over the floor where the eye looks down on it, otherwise in the plane that faces the eye; Alt: straight up and down, Shift: a
 * handle without the other one of its point.
 */
function drag(event: PointerEvent, dot: Dot): void {
  if (!gesture || event.buttons !== 1) return;
  const along = view.looksAlong();
  const upright = event.altKey || Math.abs(along[1]) < LEVEL;
  const normal = upright ? [along[0], event.altKey ? 0 : along[1], along[2]] : [0, 1, 0];
  const to = view.onPlane(event.clientX, event.clientY, dot.at, normal);
  if (to) dot.put(event.altKey ? [dot.at[0], to[1], dot.at[2]] : (to as Point), gesture, event.shiftKey);
}
const STEP: Record<string, Point> = {
  ArrowLeft: [-NUDGE, 0, 0],
  ArrowRight: [NUDGE, 0, 0],
  ArrowUp: [0, 0, -NUDGE],
  ArrowDown: [0, 0, NUDGE],
};
function nudge(event: KeyboardEvent, dot: Dot): void {
  const by = STEP[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  // With Alt up and down is up and down.
  const step = event.altKey && by[2] !== 0 ? [0, -by[2], 0] : by;
  dot.put(dot.at.map((v, axis) => v + step[axis]) as Point, '', event.shiftKey);
}

/** Where a stroke lies on the floor. */
const onFloor = (event: PointerEvent): Point | null =>
  view.onPlane(event.clientX, event.clientY, [0, 0, 0], [0, 1, 0]) as Point | null;
function beginStroke(event: PointerEvent): void {
  const at = onFloor(event);
  if (event.button !== 0 || !at) return;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  pen.begin(at);
}
function stretchStroke(event: PointerEvent): void {
  const at = event.buttons === 1 ? onFloor(event) : null;
  if (at) pen.go(at);
}
</script>

<template>
  <svg class="marks" :class="{ drawing: pen.drawing.value }" role="group" aria-label="Ways and keys in the picture">
    <rect
      v-if="pen.drawing.value"
      class="sheet"
      width="100%"
      height="100%"
      data-test="path-sheet"
      @pointerdown="beginStroke"
      @pointermove="stretchStroke"
      @pointerup="pen.finish"
    />
    <path v-if="pen.stroke.value.length" class="stroke" :d="line(pen.stroke.value)" />
    <path v-for="{ path, line: d, open } in paths" :key="path.id" class="path" :class="{ open }" :d="d" />
    <path v-if="way" class="way" :d="way" />
    <path v-if="way" class="ticks" :d="ticks" />
    <g
      v-for="{ id, name, spot } in nulls"
      :key="id"
      class="null"
      :class="{ chosen: stage.selected === id }"
      :transform="`translate(${spot[0]} ${spot[1]})`"
      @pointerdown="selection.pick(id)"
    >
      <title>{{ name }}</title>
      <path d="M-7 0h14M0 -7v14" />
    </g>
    <path v-for="dot in dots.filter(({ arm }) => arm)" :key="`arm ${dot.key}`" class="arm" :d="dot.arm" />
    <rect
      v-for="dot in dots"
      :key="dot.key"
      class="dot"
      :class="[dot.kind, { here: dot.here }]"
      :x="dot.spot[0] - 5"
      :y="dot.spot[1] - 5"
      width="10"
      height="10"
      :rx="dot.kind === 'key' ? 2 : 5"
      tabindex="0"
      role="button"
      :aria-label="`${dot.name}: arrow keys move it`"
      :data-test="`mark-${dot.kind}`"
      @pointerdown="take"
      @pointermove="drag($event, dot)"
      @pointerup="gesture = ''"
      @keydown="nudge($event, dot)"
    />
  </svg>
</template>

<style scoped>
.marks {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: hidden;
  pointer-events: none;
}
.sheet {
  fill: transparent;
  pointer-events: auto;
  cursor: crosshair;
}
.path,
.way,
.stroke,
.ticks {
  fill: none;
  stroke: var(--coral);
  stroke-width: 1.4;
}
.path {
  stroke-dasharray: 4 3;
}
.path.open,
.stroke {
  stroke-dasharray: none;
  stroke-width: 2;
}
.way {
  stroke: var(--bone);
  stroke-opacity: 0.7;
}
.ticks {
  stroke: var(--bone);
  stroke-width: 4;
  stroke-linecap: round;
}
.null {
  stroke: var(--bone-dim);
  stroke-width: 1.6;
  pointer-events: bounding-box;
  cursor: pointer;
}
.null.chosen {
  stroke: #fff;
}
.dot {
  fill: var(--ink-0);
  stroke: var(--coral);
  stroke-width: 1.8;
  pointer-events: auto;
  cursor: grab;
}
.arm {
  stroke: var(--coral);
  stroke-opacity: 0.7;
}
.dot.handle {
  stroke-width: 1.2;
}
.dot.here {
  fill: var(--coral);
}
</style>
