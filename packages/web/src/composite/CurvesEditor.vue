<script setup lang="ts">
import { curveRound, curveThrough } from '@tender-orbit/core/composite';
import { HUE_CURVES, type CurveName, type Layer, type LayerOf, type Spot } from '@tender-orbit/core/document';
import { computed, ref, useTemplateRef } from 'vue';
import { useRack } from '../stores/index.ts';
import { SelectField, UiButton } from '../ui/index.ts';

/** Curves by points: a click puts one on the curve, it is dragged or moved by keys, Delete takes it away. */
const { layer } = defineProps<{ layer: LayerOf<'curves'> }>();
const rack = useRack();
const box = useTemplateRef('box');
const name = ref<CurveName>('rgb');
const chosen = ref(-1);
const TITLES: Record<CurveName, string> = {
  ...{ rgb: 'All channels', red: 'Red', green: 'Green', blue: 'Blue', luma: 'Luma' },
  ...{ hueHue: 'Hue by hue', hueSaturation: 'Saturation by hue', hueLuma: 'Luma by hue' },
};
const options = computed(() =>
  (Object.keys(TITLES) as CurveName[]).map((value) => ({
    value,
    title: layer.curves[value].length > 0 ? `${TITLES[value]} *` : TITLES[value],
  })),
);
const LINES: Partial<Record<CurveName, string>> = { red: '#F2836B', green: '#7FD1AE', blue: '#8FA8F0' };
const isHue = computed(() => (HUE_CURVES as readonly string[]).includes(name.value));
/** The points that are there, or the straight line that is nothing changed. */
const points = computed((): readonly Spot[] => {
  const own = layer.curves[name.value];
  if (own.length > 0 || isHue.value) return own;
  return [
    [0, 0],
    [1, 1],
  ];
});
const low = computed(() => (isHue.value ? -1 : 0));
const SIZE = 200;
const toBox = ([x, y]: Spot): Spot => [x * SIZE, SIZE - ((y - low.value) / (1 - low.value)) * SIZE];
const line = computed(() => {
  const curve = isHue.value ? curveRound(points.value) : curveThrough(points.value);
  return Array.from({ length: 101 }, (_, i) => {
    const [x, y] = toBox([i / 100, Math.min(1, Math.max(low.value, curve(i / 100)))]);
    return `${i === 0 ? 'M' : 'L'} ${x.toFixed(2)} ${y.toFixed(2)}`;
  }).join(' ');
});
const round = (v: number): number => Math.round(v * 1000) / 1000;
const within = (v: number, a: number, b: number): number => Math.min(b, Math.max(a, v));

function set(next: readonly Spot[], gesture: string): void {
  const curves = { ...layer.curves, [name.value]: next.map(([x, y]): Spot => [x, y]) };
  rack.change(layer, `Change curve of ${layer.name}`, { curves } as Partial<Layer>, gesture);
}
function place(event: PointerEvent | MouseEvent): Spot {
  const rect = box.value!.getBoundingClientRect();
  const [x, y] = [(event.clientX - rect.left) / rect.width, 1 - (event.clientY - rect.top) / rect.height];
  return [round(within(x, 0, 1)), round(within(low.value + y * (1 - low.value), low.value, 1))];
}
let held = -1;
let gesture = '';
function press(event: PointerEvent): void {
  const spot = place(event);
  gesture = `curve-${Date.now()}`;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  const NEAR = 0.05;
  const near = points.value.findIndex(
    ([x, y]) => Math.abs(x - spot[0]) < NEAR && Math.abs(y - spot[1]) < NEAR * (1 - low.value),
  );
  if (near >= 0) held = near;
  else if (points.value.length < 32) {
    const next = [...points.value, spot].sort((p, q) => p[0] - q[0]);
    held = next.indexOf(spot);
    set(next, gesture);
  }
  chosen.value = held;
}
/** The points with one elsewhere, between its neighbours. */
function moved(index: number, [x, y]: Spot): Spot[] {
  const [before, behind] = [points.value[index - 1]?.[0] ?? -0.01, points.value[index + 1]?.[0] ?? 1.01];
  return points.value.map((p, i) =>
    i === index ? [round(within(within(x, before + 0.01, behind - 0.01), 0, 1)), round(within(y, low.value, 1))] : p,
  );
}
function drag(event: PointerEvent): void {
  if (held >= 0) set(moved(held, place(event)), gesture);
}
function step(event: KeyboardEvent, index: number): void {
  if (event.key === 'Delete' || event.key === 'Backspace') {
    event.preventDefault();
    event.stopPropagation();
    if (points.value.length > (isHue.value ? 0 : 2)) set(points.value.toSpliced(index, 1), `curve-${Date.now()}`);
    return;
  }
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  const far = event.shiftKey ? 0.05 : 0.01;
  const [x, y] = points.value[index];
  set(moved(index, [x + by[0] * far, y + by[1] * far]), `curve-keys-${name.value}-${index}`);
}
</script>

<template>
  <div class="curves" data-test="curves">
    <div class="row">
      <SelectField label="Curve" :options="options" :value="name" @change="(v) => ((name = v), (chosen = -1))" />
      <UiButton :disabled="layer.curves[name].length === 0" @click="set([], '')">Reset</UiButton>
    </div>
    <svg
      ref="box"
      :viewBox="`0 0 ${SIZE} ${SIZE}`"
      role="group"
      :aria-label="`Curve: ${TITLES[name]}`"
      :class="{ hue: isHue }"
      data-test="curve-box"
      @pointerdown="press"
      @pointermove="drag"
      @pointerup="held = -1"
    >
      <path
        v-for="i in 3"
        :key="i"
        class="grid"
        :d="`M ${(i * SIZE) / 4} 0 V ${SIZE} M 0 ${(i * SIZE) / 4} H ${SIZE}`"
      />
      <path v-if="!isHue" class="grid" :d="`M 0 ${SIZE} L ${SIZE} 0`" />
      <path class="line" :d="line" :style="{ stroke: LINES[name] ?? 'var(--bone)' }" />
      <circle
        v-for="(point, i) in points"
        :key="i"
        class="point"
        :class="{ on: i === chosen }"
        :cx="toBox(point)[0]"
        :cy="toBox(point)[1]"
        r="5"
        tabindex="0"
        role="button"
        :aria-label="`Point ${i + 1}: ${point[0]} to ${point[1]}. Arrow keys move it, Delete takes it away`"
        @focus="chosen = i"
        @keydown="step($event, i)"
      />
    </svg>
  </div>
</template>

<style scoped>
.curves {
  display: grid;
  gap: 6px;
  padding: 4px 0 8px 20px;
}
.row {
  gap: 6px;
}
svg {
  overflow: visible;
  width: 100%;
  aspect-ratio: 1;
  border-radius: 6px;
  background: var(--ink-0);
  cursor: crosshair;
  touch-action: none;
}
svg.hue {
  aspect-ratio: 1.4;
  background: linear-gradient(
    to right,
    oklch(45% 0.1 0deg),
    oklch(45% 0.1 60deg),
    oklch(45% 0.1 120deg),
    oklch(45% 0.1 180deg),
    oklch(45% 0.1 240deg),
    oklch(45% 0.1 300deg),
    oklch(45% 0.1 360deg)
  );
}
.grid {
  fill: none;
  stroke: #ffffff1c;
}
.line {
  fill: none;
  stroke-width: 2;
}
.point {
  fill: var(--ink-0);
  stroke: var(--bone);
  stroke-width: 1.5;
}
.point.on {
  fill: var(--celadon);
}
</style>
