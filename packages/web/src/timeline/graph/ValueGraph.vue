<script setup lang="ts">
import { mdiArrowExpandVertical, mdiClose } from '@mdi/js';
import { useElementSize, useEventListener } from '@vueuse/core';
import { framesToSeconds } from '@tender-orbit/core/time';
import { computed, onMounted, ref, watch } from 'vue';
import { useCampaign } from '../../stores/index.ts';
import { IconButton, ToggleRow } from '../../ui/index.ts';
import { drawGraph } from './draw-graph.ts';
import type { GraphHost } from './graph-host.ts';
import { graphLines, rangeOf, type GraphLine, type GraphRow } from './graph-lines.ts';
import { handlesAt } from './handles.ts';
import { useGraph } from './use-graph.ts';
import { useGraphHandles } from './use-graph-handles.ts';
import { useGraphKeys } from './use-graph-keys.ts';

/** Values of tracks over time: keys go up and down, handles bend the spans. */
const {
  host,
  rows,
  length,
  start = 0,
  within = null,
} = defineProps<{
  host: GraphHost;
  rows: readonly GraphRow[];
  /** Frames of the timeline, and the one of them that the tracks count from. */
  length: number;
  start?: number;
  /** The first of the tracks' frames that are seen, and the one after the last; none: all of the timeline. */
  within?: readonly [number, number] | null;
}>();
const emit = defineEmits<{ close: [] }>();
const campaign = useCampaign();
const { selection } = host;
const graph = useGraph();
const root = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const { width, height } = useElementSize(root);
const MARGIN = 14;

const lines = computed(() =>
  graphLines(rows, host.eases(), graph.mode.value, 1 / framesToSeconds(1, campaign.rate), host.ruledBy),
);

/** The chosen keys of a line, by index. */
const chosenOf = (line: GraphLine): number[] =>
  line.track.keys.flatMap((k, i) => (selection.has(line.track, k.frame) ? [i] : []));
/** Handles of the one chosen key, in the values that are shown. */
const handles = computed(() => {
  if (graph.mode.value === 'speed' || selection.count.value !== 1) return [];
  return lines.value.flatMap((line) =>
    chosenOf(line).flatMap((i) => handlesAt(line.track.keys, i, host.eases()).map((handle) => ({ line, handle }))),
  );
});
/** Frames of the tracks between two of the timeline, as far as they are seen. */
const sightOf = (from: number, to: number): [number, number] =>
  within
    ? [Math.max(within[0], from - start), Math.max(within[0], Math.min(within[1], to - start))]
    : [from - start, to - start];
/** The range stays while something is held, and once it was framed until the graph shows other threads. */
const held = ref<{ low: number; high: number } | null>(null);
const framed = ref<{ low: number; high: number } | null>(null);
watch(
  () => `${rows.map((r) => r.id).join()} ${graph.mode.value}`,
  () => (framed.value = null),
);
const range = computed(
  () =>
    held.value ??
    framed.value ??
    rangeOf(
      lines.value,
      sightOf(0, length),
      handles.value.map(({ line, handle }) => handle.at.value * line.property.display.scale),
    ),
);
const x = (frame: number): number => ((frame + start) / Math.max(1, length)) * width.value;
const frameAt = (px: number): number => (px / width.value) * length - start;
const y = (value: number): number => {
  const { low, high } = range.value;
  return height.value - MARGIN - ((value - low) / (high - low)) * (height.value - 2 * MARGIN);
};
const valueAt = (py: number): number => {
  const { low, high } = range.value;
  return low + ((height.value - MARGIN - py) / (height.value - 2 * MARGIN)) * (high - low);
};

const place = (event: PointerEvent): { px: number; py: number } => {
  const box = root.value!.getBoundingClientRect();
  return { px: event.clientX - box.left, py: event.clientY - box.top };
};
const view = { host, lines, handles, held, range, x, y, valueAt, frameAt, place };
const { press, drag, release, byKey, moved } = useGraphKeys({
  ...view,
  first: () => within?.[0] ?? 0,
  isSpeed: () => graph.mode.value === 'speed',
  isMade: (id) => rows.find((row) => row.id === id)?.made === true,
});
const { hold, bend, letGo, nudge } = useGraphHandles(view);

const tokens = new Map<string, string>();
/** A colour of the theme as the canvas takes it. */
function colourOf(css: string): string {
  const name = /^var\((--[\w-]+)\)$/.exec(css)?.[1];
  if (!name || !canvas.value) return css;
  let known = tokens.get(name);
  if (!known) tokens.set(name, (known = getComputedStyle(canvas.value).getPropertyValue(name).trim()));
  return known;
}
/** What of the graph is in sight when the timeline is zoomed: from where, and how wide, CSS pixels. */
function sight(): { left: number; wide: number } {
  const whole = root.value!.getBoundingClientRect();
  const area = root.value!.closest('.scroll')?.getBoundingClientRect() ?? whole;
  // What has not been laid out is all in sight.
  if (area.width === 0) return { left: 0, wide: width.value };
  const left = Math.max(0, area.left - whole.left);
  return { left, wide: Math.max(1, Math.min(whole.right, area.right) - whole.left - left) };
}
let asked = 0;
function draw(): void {
  asked = 0;
  const context = canvas.value?.getContext('2d');
  if (!context || !canvas.value || width.value < 2) return;
  const began = performance.now();
  const ratio = window.devicePixelRatio || 1;
  const { left, wide } = sight();
  const [w, h] = [Math.round(wide * ratio), Math.round(height.value * ratio)];
  if (canvas.value.width !== w || canvas.value.height !== h) Object.assign(canvas.value, { width: w, height: h });
  Object.assign(canvas.value.style, { left: `${left}px`, width: `${wide}px` });
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  const inHand = new Map(lines.value.map((line) => [line.id, new Set<number>()]));
  for (const key of selection.list())
    for (const { id, track } of lines.value)
      if (track.thing === key.thing && track.path === key.path) inHand.get(id)!.add(key.frame);
  // A key's mark is as wide as a few frames.
  const [from, to] = sightOf(
    Math.max(0, frameAt(left - MARGIN) + start),
    Math.min(length, frameAt(left + wide + MARGIN) + start),
  );
  drawGraph(context, {
    ...{ lines: lines.value, mode: graph.mode.value, width: wide, height: height.value, y },
    ...{ x: (frame) => x(frame) - left, from, to, moved: moved.value },
    ...{ range: range.value, chosen: (line, frame) => inHand.get(line.id)!.has(frame) },
    colours: {
      ...{ grid: colourOf('var(--line)'), text: colourOf('var(--bone-dim)') },
      ...{ chosen: colourOf('var(--coral)'), of: colourOf },
    },
  });
  // Read by the browser test that watches how long a redraw takes.
  canvas.value.dataset.drawMs = (performance.now() - began).toFixed(2);
}
function ask(): void {
  if (!asked) asked = requestAnimationFrame(draw);
}
watch([lines, range, width, height, moved, () => selection.list(), () => start, () => within], ask);
onMounted(ask);
useEventListener(() => root.value?.closest('.scroll'), 'scroll', ask, { passive: true });

/** The values of what is chosen, or of all in sight, fill the height. */
function frame(): void {
  const chosen = lines.value.flatMap((line) =>
    chosenOf(line).map((i) => line.track.keys[i].value * line.property.display.scale),
  );
  const [low, high] = [Math.min(...chosen), Math.max(...chosen)];
  framed.value = chosen.length > 1 && high > low ? { low, high } : null;
}
const unit = computed(() => [...new Set(lines.value.map((l) => l.property.display.unit))].filter(Boolean).join(', '));
const MODES = [
  { value: 'value' as const, label: 'Value', test: 'graph-value' },
  { value: 'speed' as const, label: 'Speed', test: 'graph-speed' },
];
let sized: { from: number; height: number } | null = null;
function grow(event: PointerEvent): void {
  if (event.type === 'pointerdown') {
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    sized = { from: event.clientY, height: graph.height.value };
  } else if (sized && event.buttons === 1)
    graph.height.value = Math.min(600, Math.max(70, sized.height + event.clientY - sized.from));
}
function growByKey(event: KeyboardEvent): void {
  const by = { ArrowDown: 20, ArrowUp: -20 }[event.key];
  if (!by) return;
  event.preventDefault();
  graph.height.value = Math.min(600, Math.max(70, graph.height.value + by));
}
</script>

<template>
  <div
    ref="root"
    class="graph"
    :style="{ height: `${graph.height.value}px` }"
    role="group"
    :aria-label="
      host.movesInTime ? 'Graph: left and right choose a key, up and down change it, with Alt it moves' : 'Graph'
    "
    :tabindex="host.movesInTime ? 0 : undefined"
    data-test="graph"
    @keydown.self="byKey"
  >
    <canvas
      ref="canvas"
      class="drawing"
      data-test="graph-canvas"
      @pointerdown="press"
      @pointermove="drag"
      @pointerup="release"
    />
    <svg class="arms" :viewBox="`0 0 ${Math.max(1, width)} ${Math.max(1, height)}`" aria-hidden="true">
      <line
        v-for="{ line, handle } in handles"
        :key="handle.end"
        :x1="x(handle.from.frame)"
        :y1="y(handle.from.value * line.property.display.scale)"
        :x2="x(handle.at.frame)"
        :y2="y(handle.at.value * line.property.display.scale)"
      />
    </svg>
    <button
      v-for="{ line, handle } in handles"
      :key="`${line.id} ${handle.end}`"
      type="button"
      class="handle"
      :style="{
        left: `${x(handle.at.frame)}px`,
        top: `${y(handle.at.value * line.property.display.scale)}px`,
      }"
      :aria-label="
        handle.end === 'out'
          ? 'Handle that leaves the key: arrow keys move it'
          : 'Handle that arrives at the key: arrow keys move it'
      "
      :data-test="`handle-${handle.end}`"
      @pointerdown.prevent="hold($event, line, handle)"
      @pointermove="bend"
      @pointerup="letGo"
      @keydown="nudge($event, line, handle)"
    />
    <div class="tools row">
      <span class="dim mono">{{ unit }}{{ graph.mode.value === 'speed' ? '/s' : '' }}</span>
      <ToggleRow
        label="What the graph shows"
        :options="MODES"
        :value="graph.mode.value"
        @change="(m) => (graph.mode.value = m)"
      />
      <IconButton small :icon="mdiArrowExpandVertical" label="Fit the values that are chosen" @click="frame" />
      <IconButton small :icon="mdiClose" label="Close the graph" @click="emit('close')" />
    </div>
    <div
      class="edge"
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the graph"
      :aria-valuenow="graph.height.value"
      tabindex="0"
      @pointerdown="grow"
      @pointermove="grow"
      @keydown="growByKey"
    />
  </div>
</template>

<style scoped>
.graph {
  position: relative;
  background: var(--ink-0);
  box-shadow: inset 0 0 0 1px var(--line);
}
.drawing {
  position: absolute;
  top: 0;
  left: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.arms {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
  pointer-events: none;
}
.arms line {
  stroke: var(--bone-dim);
}
.handle {
  position: absolute;
  z-index: 4;
  width: 12px;
  height: 12px;
  margin: -6px 0 0 -6px;
  padding: 0;
  border: 2px solid var(--honey);
  border-radius: 50%;
  background: var(--ink-0);
  cursor: grab;
  touch-action: none;
}
.tools {
  position: absolute;
  z-index: 5;
  top: 4px;
  right: 6px;
  gap: 4px;
  padding: 2px 4px 2px 8px;
  border-radius: 6px;
  background: var(--ink-1);
}
.edge {
  position: absolute;
  z-index: 5;
  right: 0;
  bottom: -3px;
  left: 0;
  height: 7px;
  cursor: ns-resize;
  touch-action: none;
}
</style>
