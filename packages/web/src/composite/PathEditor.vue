<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import type { Spot } from '@tender-orbit/core/document';
import { computed, ref, useTemplateRef } from 'vue';

/** A point of a line over the picture; its handles are relative to it. */
interface Corner {
  at: Spot;
  in: Spot;
  out: Spot;
  feather?: number;
}

/**
 * A line of cubic Beziers over the picture: points and handles are dragged, or moved by the arrow keys; a double click on the line puts
 * a point there, Delete takes one away. Lengths are shares of the picture's height, y up, 0 where `origin` is.
 */
const {
  points,
  aspect,
  closed,
  least,
  label,
  origin = [0, 0],
  straight = false,
} = defineProps<{
  points: readonly Corner[];
  /** Of the picture, width over height. */
  aspect: number;
  closed: boolean;
  /** Points that must be left. */
  least: number;
  label: string;
  origin?: Spot;
  /** Corners alone: none comes, and none has handles. */
  straight?: boolean;
}>();
const emit = defineEmits<{ change: [points: Corner[], gesture: string] }>();
const box = useTemplateRef('box');
const { width, height } = useElementSize(box);
const chosen = ref(0);

/** The picture lies whole in the middle of its frame. */
const high = computed(() => Math.min(height.value, width.value / aspect));
const toScreen = ([x, y]: readonly [number, number]): Spot => [
  width.value / 2 + (x + origin[0]) * high.value,
  height.value / 2 - (y + origin[1]) * high.value,
];
function toPicture(event: PointerEvent | MouseEvent): Spot {
  const rect = box.value!.getBoundingClientRect();
  const [px, py] = [event.clientX - rect.left - rect.width / 2, rect.top + rect.height / 2 - event.clientY];
  return [round(px / high.value - origin[0]), round(py / high.value - origin[1])];
}
const round = (v: number): number => Math.round(v * 1e4) / 1e4;
const plus = (a: Spot, b: Spot): Spot => [round(a[0] + b[0]), round(a[1] + b[1])];
const sides = computed(() => {
  const count = closed ? points.length : points.length - 1;
  return Array.from({ length: Math.max(0, count) }, (_, i) => [points[i], points[(i + 1) % points.length]] as const);
});
const way = computed(() =>
  sides.value
    .map(([p, q], i) => {
      const [from, a, b, to] = [p.at, plus(p.at, p.out), plus(q.at, q.in), q.at].map(toScreen);
      return `${i === 0 ? `M ${from.join(' ')}` : ''} C ${a.join(' ')} ${b.join(' ')} ${to.join(' ')}`;
    })
    .join(' '),
);

type Part = 'at' | 'in' | 'out';
let gesture = '';
let held: { index: number; part: Part } | null = null;

const copy = (): Corner[] => points.map((p) => ({ ...p, at: [...p.at], in: [...p.in], out: [...p.out] }));
function move(index: number, part: Part, to: Spot, alone: boolean): void {
  const next = copy();
  const own = next[index];
  if (part === 'at') own.at = to;
  else {
    own[part] = [round(to[0] - own.at[0]), round(to[1] - own.at[1])];
    // A smooth point stays smooth; with Alt its handles part.
    if (!alone) own[part === 'in' ? 'out' : 'in'] = [-own[part][0], -own[part][1]];
  }
  emit('change', next, gesture);
}
function press(event: PointerEvent, index: number, part: Part): void {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  chosen.value = index;
  held = { index, part };
  gesture = `path-${Date.now()}`;
}
function drag(event: PointerEvent): void {
  if (held) move(held.index, held.part, toPicture(event), event.altKey);
}
function release(): void {
  held = null;
}
const STEP = 0.005;
function step(event: KeyboardEvent, index: number, part: Part): void {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
  if (event.key === 'Delete' || event.key === 'Backspace') {
    event.preventDefault();
    event.stopPropagation();
    if (points.length > least) emit('change', copy().toSpliced(index, 1), `path-${Date.now()}`);
    return;
  }
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  const far = event.shiftKey ? STEP * 10 : STEP;
  const from = part === 'at' ? points[index].at : plus(points[index].at, points[index][part]);
  gesture = `path-keys-${index}-${part}`;
  move(index, part, plus(from, [by[0] * far, by[1] * far]), event.altKey);
}
/** Puts a point on the side that is nearest, in the middle of it as the line goes there. */
function insert(event: MouseEvent): void {
  if (straight) return;
  const spot = toPicture(event);
  let [best, nearest, at] = [0, Infinity, 0.5];
  sides.value.forEach(([p, q], i) => {
    for (let k = 1; k < 20; k++) {
      const on = bezier(p, q, k / 20);
      const away = (on[0] - spot[0]) ** 2 + (on[1] - spot[1]) ** 2;
      if (away < nearest) [best, nearest, at] = [i, away, k / 20];
    }
  });
  const [p, q] = sides.value[best];
  const mix = (a: Spot, b: Spot): Spot => [a[0] + (b[0] - a[0]) * at, a[1] + (b[1] - a[1]) * at];
  // de Casteljau: the line stays as it is.
  const [p1, p2] = [plus(p.at, p.out), plus(q.at, q.in)];
  const [a, b, c] = [mix(p.at, p1), mix(p1, p2), mix(p2, q.at)];
  const [d, e] = [mix(a, b), mix(b, c)];
  const middle = mix(d, e);
  const from = (v: Spot, o: Spot): Spot => [round(v[0] - o[0]), round(v[1] - o[1])];
  const next = copy();
  const second = (best + 1) % points.length;
  next[best].out = from(a, p.at);
  next[second].in = from(c, q.at);
  const feather = p.feather === undefined ? {} : { feather: (p.feather + (q.feather ?? 0)) / 2 };
  next.splice(best + 1, 0, { at: plus(middle, [0, 0]), in: from(d, middle), out: from(e, middle), ...feather });
  chosen.value = best + 1;
  emit('change', next, `path-${Date.now()}`);
}
function bezier(p: Corner, q: Corner, t: number): Spot {
  const s = 1 - t;
  const [p1, p2] = [plus(p.at, p.out), plus(q.at, q.in)];
  return [0, 1].map(
    (c) => s * s * s * p.at[c] + 3 * s * s * t * p1[c] + 3 * s * t * t * p2[c] + t * t * t * q.at[c],
  ) as Spot;
}
const handles = computed(() =>
  (['in', 'out'] as const).flatMap((part) => {
    const own = points[chosen.value];
    if (!own || straight) return [];
    // A corner without handles has them a little off, to be drawn out.
    const bare = own[part][0] === 0 && own[part][1] === 0;
    const end: Spot = bare ? [part === 'in' ? -0.03 : 0.03, 0] : own[part];
    return [{ part, from: toScreen(own.at), to: toScreen(plus(own.at, end)) }];
  }),
);
</script>

<template>
  <svg ref="box" class="path" role="group" :aria-label="label" data-test="path-editor">
    <path class="wide" :d="way" @dblclick="insert" />
    <path class="line" :d="way" />
    <g v-for="{ part, from, to } in handles" :key="part">
      <line :x1="from[0]" :y1="from[1]" :x2="to[0]" :y2="to[1]" />
      <circle
        class="handle"
        :cx="to[0]"
        :cy="to[1]"
        r="4"
        tabindex="0"
        role="button"
        :aria-label="`${part === 'in' ? 'First' : 'Second'} handle of point ${chosen + 1}`"
        @pointerdown.prevent="press($event, chosen, part)"
        @pointermove="drag"
        @pointerup="release"
        @keydown="step($event, chosen, part)"
      />
    </g>
    <rect
      v-for="(point, i) in points"
      :key="i"
      class="point"
      :class="{ on: i === chosen }"
      :x="toScreen(point.at)[0] - 5"
      :y="toScreen(point.at)[1] - 5"
      width="10"
      height="10"
      rx="2"
      tabindex="0"
      role="button"
      :aria-label="`Point ${i + 1} of ${points.length}. Arrow keys move it, Delete takes it away`"
      :data-test="`path-point-${i}`"
      @focus="chosen = i"
      @pointerdown.prevent="press($event, i, 'at')"
      @pointermove="drag"
      @pointerup="release"
      @keydown="step($event, i, 'at')"
    />
  </svg>
</template>

<style scoped>
.path {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
path {
  fill: none;
}
.line,
line {
  stroke: var(--celadon);
  stroke-width: 1.5;
  pointer-events: none;
}
.wide {
  stroke: transparent;
  stroke-width: 12;
  cursor: copy;
}
.handle,
.point {
  fill: var(--ink-1);
  stroke: var(--celadon);
  stroke-width: 1.5;
  cursor: move;
  touch-action: none;
}
.point.on {
  fill: var(--celadon);
}
</style>
