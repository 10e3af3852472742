<script setup lang="ts">
import { EASE_LIMITS, type EaseShape, type LinkedEase, type Track } from '@tender-orbit/core/document';
import { NumberCurve, resolveEase } from '@tender-orbit/core/motion';
import type { NumberProperty } from '@tender-orbit/core/properties';
import { computed, ref } from 'vue';

/** The course of a track of numbers over the shot; a span that is shaped by handles shows them, to be dragged. */
const { track, linked, property, length, frame, chosen, title } = defineProps<{
  track: Track<number>;
  linked: readonly LinkedEase[];
  property: NumberProperty | undefined;
  /** Frames of the shot, the playhead and the chosen key's. */
  length: number;
  frame: number;
  chosen: number;
  title: string;
}>();
const emit = defineEmits<{ handle: [ease: EaseShape, gesture: string] }>();
const [W, H, EDGE] = [240, 132, 10];
const POINTS = 160;
const drawing = ref<SVGSVGElement>();
/** The handle in hand. */
const held = ref<{ end: 'out' | 'in'; gesture: string; range: { low: number; high: number } } | null>(null);

const course = computed(() => new NumberCurve(track.keys, property, linked));
const frames = computed(() => Array.from({ length: POINTS + 1 }, (_, i) => (i / POINTS) * Math.max(1, length)));
const values = computed(() => frames.value.map((f) => course.value.at(f)));
/** The chosen key's span, when it is shaped by handles. */
const span = computed(() => {
  const i = track.keys.findIndex((k) => k.frame === chosen);
  const [from, to] = [track.keys[i], track.keys[i + 1]];
  if (!from || !to) return null;
  const ease = resolveEase(from.ease, linked);
  return typeof ease === 'object' && ease.kind === 'bezier' ? { from, to, ease } : null;
});
/** Values that the drawing spans: those of the curve and of its handles. It stays while a handle is held. */
const range = computed(() => {
  if (held.value) return held.value.range;
  const all = [...values.value, ...track.keys.map((k) => k.value)];
  if (span.value) {
    const { from, to, ease } = span.value;
    for (const [, way] of [ease.out, ease.in]) all.push(from.value + (to.value - from.value) * way);
  }
  const [low, high] = [Math.min(...all), Math.max(...all)];
  return { low, high: high > low ? high : low + 1 };
});
const x = (f: number): number => (f / Math.max(1, length)) * W;
const y = (v: number): number =>
  H - EDGE - ((v - range.value.low) / (range.value.high - range.value.low)) * (H - 2 * EDGE);
const line = computed(() => values.value.map((v, i) => `${x(frames.value[i])},${y(v).toFixed(2)}`).join(' '));

const handles = computed(() => {
  if (!span.value) return [];
  const { from, to, ease } = span.value;
  return (['out', 'in'] as const).map((end) => {
    const [along, way] = ease[end];
    const base = end === 'out' ? from : to;
    return {
      end,
      x: x(from.frame + (to.frame - from.frame) * along),
      y: y(from.value + (to.value - from.value) * way),
      fromX: x(base.frame),
      fromY: y(base.value),
      label: end === 'out' ? 'Handle that leaves the key' : 'Handle that arrives at the next key',
    };
  });
});

function hold(event: PointerEvent, end: 'out' | 'in'): void {
  held.value = { end, gesture: `handle-${Date.now()}`, range: range.value };
  const handle = event.currentTarget as SVGElement;
  // Keys go to what was pressed, not to the field that was in hand before.
  handle.focus();
  handle.setPointerCapture(event.pointerId);
}
function put(end: 'out' | 'in', along: number, way: number, gesture: string): void {
  const { ease } = span.value!;
  const place = [Math.min(1, Math.max(0, along)), Math.min(EASE_LIMITS.reach[1], Math.max(EASE_LIMITS.reach[0], way))];
  emit('handle', { ...ease, [end]: place.map((v) => Number(v.toFixed(4))) }, gesture);
}
function drag(event: PointerEvent): void {
  if (!held.value || !span.value || event.buttons !== 1) return;
  const box = drawing.value!.getBoundingClientRect();
  const { from, to } = span.value;
  const f = ((event.clientX - box.left) / box.width) * Math.max(1, length);
  const share = 1 - (((event.clientY - box.top) / box.height) * H - EDGE) / (H - 2 * EDGE);
  const v = range.value.low + share * (range.value.high - range.value.low);
  const way = to.value === from.value ? 0 : (v - from.value) / (to.value - from.value);
  put(held.value.end, (f - from.frame) / (to.frame - from.frame), way, held.value.gesture);
}
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-0.02, 0],
  ArrowRight: [0.02, 0],
  ArrowDown: [0, -0.02],
  ArrowUp: [0, 0.02],
};
function nudge(event: KeyboardEvent, end: 'out' | 'in'): void {
  const step = STEPS[event.key];
  if (!step || !span.value) return;
  event.preventDefault();
  event.stopPropagation();
  const [along, way] = span.value.ease[end];
  put(end, along + step[0], way + step[1], '');
}
</script>

<template>
  <svg
    ref="drawing"
    :viewBox="`0 0 ${W} ${H}`"
    class="curve"
    role="group"
    :aria-label="`Course of ${title} over the shot`"
  >
    <line :x1="x(frame)" :x2="x(frame)" y1="0" :y2="H" stroke="var(--coral)" />
    <polyline :points="line" fill="none" stroke="var(--celadon)" stroke-width="1.8" />
    <circle
      v-for="key in track.keys"
      :key="key.frame"
      :cx="x(key.frame)"
      :cy="y(key.value)"
      :r="key.frame === chosen ? 4.5 : 3"
      :fill="key.frame === chosen ? 'var(--coral)' : 'var(--celadon)'"
    />
    <template v-for="handle in handles" :key="handle.end">
      <line :x1="handle.fromX" :y1="handle.fromY" :x2="handle.x" :y2="handle.y" stroke="var(--bone-dim)" />
      <circle
        class="handle"
        :cx="handle.x"
        :cy="handle.y"
        r="5"
        tabindex="0"
        role="button"
        :aria-label="`${handle.label}: arrow keys move it`"
        :data-test="`handle-${handle.end}`"
        @pointerdown.prevent="hold($event, handle.end)"
        @pointermove="drag"
        @pointerup="held = null"
        @keydown="nudge($event, handle.end)"
      />
    </template>
  </svg>
</template>

<style scoped>
.curve {
  width: 100%;
  overflow: visible;
  border-radius: 6px;
  background: var(--ink-0);
  touch-action: none;
}
.handle {
  fill: var(--ink-0);
  stroke: var(--honey);
  stroke-width: 2;
  cursor: grab;
}
.handle:focus-visible {
  stroke: var(--bone);
  outline: none;
}
</style>
