<script setup lang="ts">
import { computed, ref } from 'vue';
import { filletProfile } from '@tender-orbit/core/geometry';
import { useDesk } from '../stores/index.ts';
import { NumberField } from '../ui/index.ts';

type Corner = [number, number, number];
/** The outer side of a turned body, drawn: corners are dragged, a double click on the line adds one. */
const { profile } = defineProps<{ profile: Corner[] }>();
const desk = useDesk();
const svg = ref<SVGSVGElement>();
const chosen = ref(1);
let drag = '';

/** What is drawn, in mm, with the axis at the left. It stays while a corner is dragged, so that nothing runs away. */
const frame = ref({ width: 60, height: 100 });
const fit = computed(() => ({
  width: Math.max(...profile.map((p) => p[0])) * 1000 * 1.18 + 6,
  height: Math.max(...profile.map((p) => p[1])) * 1000 * 1.06 + 4,
}));
const box = computed(() => (drag ? frame.value : fit.value));
const px = (r: number): number => r * 1000;
const py = (y: number): number => box.value.height - 2 - y * 1000;
const curve = computed(() =>
  filletProfile(profile, 6)
    .map(([r, y]) => `${px(r)},${py(y)}`)
    .join(' '),
);
const size = computed(() => box.value.height / 210);

function set(label: string, corners: Corner[], gesture = ''): void {
  desk.rebuild(label, (b) => (b.kind === 'turned' ? { ...b, profile: corners } : b), gesture);
}
function put(index: number, corner: Partial<Record<0 | 1 | 2, number>>, label: string, gesture = ''): void {
  const next = profile.map((c): Corner => [...c]);
  for (const [k, v] of Object.entries(corner)) next[index][Number(k)] = Number(v.toFixed(6));
  // The first corner is the middle of the base; a body runs from there up.
  if (index === 0) next[0][0] = 0;
  set(label, next, gesture);
}
function placeOf(event: PointerEvent | MouseEvent): [number, number] {
  const matrix = svg.value!.getScreenCTM()!.inverse();
  const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
  return [Math.max(0, p.x) / 1000, Math.max(0, box.value.height - 2 - p.y) / 1000];
}
function onDown(index: number, event: PointerEvent): void {
  chosen.value = index;
  frame.value = fit.value;
  drag = `profile-${Date.now()}`;
  (event.target as Element).setPointerCapture(event.pointerId);
}
function onMove(event: PointerEvent): void {
  if (!drag) return;
  const [r, y] = placeOf(event);
  put(chosen.value, { 0: r, 1: y }, 'Draw profile', drag);
}
function onKey(index: number, event: KeyboardEvent): void {
  const step = (event.shiftKey ? 0.1 : 1) / 1000;
  const moves: Record<string, [number, number]> = {
    ArrowLeft: [-step, 0],
    ArrowRight: [step, 0],
    ArrowUp: [0, step],
    ArrowDown: [0, -step],
  };
  const move = moves[event.key];
  if (move) {
    event.preventDefault();
    put(
      index,
      { 0: Math.max(0, profile[index][0] + move[0]), 1: Math.max(0, profile[index][1] + move[1]) },
      'Draw profile',
    );
  } else if (event.key === 'Delete') remove(index);
}
function add(event: MouseEvent): void {
  const [r, y] = placeOf(event);
  let [at, near] = [1, Infinity];
  for (let i = 1; i < profile.length; i++) {
    const [a, b] = [profile[i - 1], profile[i]];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1e-9;
    const t = Math.min(1, Math.max(0, ((r - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / length ** 2));
    const d = Math.hypot(a[0] + (b[0] - a[0]) * t - r, a[1] + (b[1] - a[1]) * t - y);
    if (d < near) [at, near] = [i, d];
  }
  const corner: Corner = [Number(r.toFixed(6)), Number(y.toFixed(6)), 0.002];
  set('Add profile corner', [...profile.slice(0, at), corner, ...profile.slice(at)]);
  chosen.value = at;
}
function remove(index: number): void {
  if (profile.length < 3) return;
  set(
    'Remove profile corner',
    profile.filter((_, i) => i !== index),
  );
  chosen.value = Math.max(0, index - 1);
}
</script>

<template>
  <div class="profile">
    <svg
      ref="svg"
      :viewBox="`-2 0 ${box.width + 2} ${box.height}`"
      role="group"
      aria-label="Profile"
      data-test="profile"
      @dblclick="add"
      @pointermove="onMove"
      @pointerup="drag = ''"
    >
      <line x1="0" y1="0" x2="0" :y2="box.height" class="axis" :stroke-width="size * 0.8" />
      <polygon :points="`0,${py(profile[0][1])} ${curve} 0,${py(profile[profile.length - 1][1])}`" class="body" />
      <polyline :points="curve" class="curve" :stroke-width="size * 1.6" />
      <circle
        v-for="(corner, i) in profile"
        :key="i"
        :cx="px(corner[0])"
        :cy="py(corner[1])"
        :r="size * 5"
        :class="{ chosen: i === chosen }"
        tabindex="0"
        role="button"
        :aria-label="`Corner ${i + 1}: radius ${(corner[0] * 1000).toFixed(1)} mm, height ${(corner[1] * 1000).toFixed(1)} mm`"
        @pointerdown="onDown(i, $event)"
        @focus="chosen = i"
        @keydown="onKey(i, $event)"
      />
    </svg>
    <template v-if="profile[chosen]">
      <NumberField
        label="Radius"
        unit="mm"
        :value="profile[chosen][0] * 1000"
        :min="0"
        :max="2500"
        :step="0.1"
        @change="(v, g) => put(chosen, { 0: v / 1000 }, 'Draw profile', g)"
      />
      <NumberField
        label="At height"
        unit="mm"
        :value="profile[chosen][1] * 1000"
        :min="0"
        :max="5000"
        :step="0.1"
        @change="(v, g) => put(chosen, { 1: v / 1000 }, 'Draw profile', g)"
      />
      <NumberField
        label="Rounding"
        unit="mm"
        :value="profile[chosen][2] * 1000"
        :min="0"
        :max="500"
        :step="0.1"
        @change="(v, g) => put(chosen, { 2: v / 1000 }, 'Round profile', g)"
      />
    </template>
    <p class="dim">Drag corners; double click adds one, Delete takes it away.</p>
  </div>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  height: 210px;
  margin: 4px 0;
  border-radius: 8px;
  background: var(--surround);
  touch-action: none;
}
.axis {
  stroke: var(--bone-dim);
  stroke-dasharray: 3 2;
}
.body {
  fill: var(--celadon-deep);
  opacity: 0.6;
}
.curve {
  fill: none;
  stroke: var(--celadon);
}
circle {
  fill: var(--ink-1);
  stroke: var(--celadon);
  stroke-width: 0.7;
  cursor: grab;
}
circle.chosen {
  fill: var(--celadon);
}
p {
  margin: 4px 0 0 20px;
}
</style>
