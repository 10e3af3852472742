<script setup lang="ts">
import { mdiArrowExpandVertical, mdiClose } from '@mdi/js';
import { useElementSize, useEventListener } from '@vueuse/core';
import {
  changeKey,
  easeKeys,
  changeLinkedEase,
  type Command,
  type EaseShape,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { fitNumber } from '@tender-orbit/core/properties';
import { framesToSeconds } from '@tender-orbit/core/time';
import { computed, onMounted, ref, toRaw, watch } from 'vue';
import { useCampaign, useDocuments } from '../../stores/index.ts';
import { IconButton, ToggleRow } from '../../ui/index.ts';
import type { ThreadRow } from '../timeline-rows.ts';
import { useKeySelection } from '../use-key-selection.ts';
import { drawGraph } from './draw-graph.ts';
import { graphLines, rangeOf, type GraphLine } from './graph-lines.ts';
import { handlesAt, joined, opposite, withHandle, type Handle } from './handles.ts';
import { useGraph } from './use-graph.ts';

/** Values of threads over time, in place under the first of them: keys go up and down, handles bend the spans. */
const { rows, length } = defineProps<{ rows: readonly ThreadRow[]; length: number }>();
const campaign = useCampaign();
const documents = useDocuments();
const selection = useKeySelection();
const graph = useGraph();
const root = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const { width, height } = useElementSize(root);
const MARGIN = 14;

const lines = computed(() => {
  const { set, shot } = campaign;
  if (!set || !shot) return [];
  return graphLines(rows, toRaw(set), toRaw(shot), graph.mode.value, 1 / framesToSeconds(1, campaign.rate));
});
const linked = computed(() => campaign.shot?.eases ?? []);

/** The chosen keys of a line, by index. */
const chosenOf = (line: GraphLine): number[] =>
  line.track.keys.flatMap((k, i) => (selection.has(line.track, k.frame) ? [i] : []));
/** Handles of the one chosen key, in the values that are shown. */
const handles = computed(() => {
  if (graph.mode.value === 'speed' || selection.count.value !== 1) return [];
  return lines.value.flatMap((line) =>
    chosenOf(line).flatMap((i) => handlesAt(line.track.keys, i, linked.value).map((handle) => ({ line, handle }))),
  );
});
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
      [0, length],
      handles.value.map(({ line, handle }) => handle.at.value * line.property.display.scale),
    ),
);
const x = (frame: number): number => (frame / Math.max(1, length)) * width.value;
const y = (value: number): number => {
  const { low, high } = range.value;
  return height.value - MARGIN - ((value - low) / (high - low)) * (height.value - 2 * MARGIN);
};
const valueAt = (py: number): number => {
  const { low, high } = range.value;
  return low + ((height.value - MARGIN - py) / (height.value - 2 * MARGIN)) * (high - low);
};

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
  const frameAt = (px: number): number => (px / width.value) * length;
  drawGraph(context, {
    ...{ lines: lines.value, mode: graph.mode.value, width: wide, height: height.value, y },
    x: (frame) => x(frame) - left,
    // A key's mark is as wide as a few frames.
    ...{ from: Math.max(0, frameAt(left - MARGIN)), to: Math.min(length, frameAt(left + wide + MARGIN)) },
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
watch([lines, range, width, height, () => selection.list()], ask);
onMounted(ask);
useEventListener(() => root.value?.closest('.scroll'), 'scroll', ask, { passive: true });

function run(command: Command<ShotDocument>, gesture: string): void {
  documents.run('shot', campaign.shotId, command, gesture);
}
const place = (event: PointerEvent): { px: number; py: number } => {
  const box = root.value!.getBoundingClientRect();
  return { px: event.clientX - box.left, py: event.clientY - box.top };
};
/** The key nearest to a place, within reach. */
function keyNear(px: number, py: number): { line: GraphLine; frame: number } | null {
  let best: { line: GraphLine; frame: number; off: number } | null = null;
  for (const line of lines.value)
    for (const key of line.track.keys) {
      const value = graph.mode.value === 'value' ? key.value * line.property.display.scale : line.keyed(key.frame);
      const off = Math.hypot(x(key.frame) - px, y(value) - py);
      if (off <= 9 && off < (best?.off ?? Infinity)) best = { line, frame: key.frame, off };
    }
  return best;
}
/** Keys that go up and down together, with the values that they had. */
let lifted: { from: number; gesture: string; keys: Array<{ line: GraphLine; frame: number; value: number }> } | null =
  null;
function press(event: PointerEvent): void {
  if (event.button !== 0) return;
  const { px, py } = place(event);
  const hit = keyNear(px, py);
  if (!hit) {
    if (!event.shiftKey) selection.clear();
    return;
  }
  if (event.shiftKey) selection.toggle(hit.line.track, hit.frame);
  else if (!selection.has(hit.line.track, hit.frame)) selection.only(hit.line.track, hit.frame);
  if (graph.mode.value === 'speed' || rows.find((r) => r.id === hit.line.id)?.made) return;
  canvas.value!.setPointerCapture(event.pointerId);
  held.value = range.value;
  const keys = lines.value.flatMap((line) =>
    chosenOf(line).map((i) => ({ line, frame: line.track.keys[i].frame, value: line.track.keys[i].value })),
  );
  lifted = { from: valueAt(py), gesture: `graph-${Date.now()}`, keys };
}
function drag(event: PointerEvent): void {
  if (!lifted || event.buttons !== 1) return;
  const by = valueAt(place(event).py) - lifted.from;
  for (const { line, frame, value } of lifted.keys) {
    const to = fitNumber(line.property, value + by / line.property.display.scale);
    run(
      changeKey({ thing: line.track.thing, path: line.track.path, frame }, Number(to.toPrecision(8))),
      lifted.gesture,
    );
  }
}
function release(): void {
  lifted = null;
  held.value = null;
}

/** A handle in hand, and the other one of its key when they lie on one line. */
let bent: { handle: Handle; line: GraphLine; other: Handle | null; gesture: string } | null = null;
function hold(event: PointerEvent, line: GraphLine, handle: Handle): void {
  const dot = event.currentTarget as HTMLElement;
  // Keys go to what was pressed, not to the field that was in hand before.
  dot.focus();
  dot.setPointerCapture(event.pointerId);
  held.value = range.value;
  bent = { line, handle, other: partner(line, handle), gesture: `handle-${Date.now()}` };
}
function partner(line: GraphLine, handle: Handle): Handle | null {
  const both = handles.value.filter((h) => h.line.id === line.id).map((h) => h.handle);
  return joined(both) ? (both.find((h) => h.end !== handle.end) ?? null) : null;
}
function bend(event: PointerEvent): void {
  if (!bent || event.buttons !== 1) return;
  const { px, py } = place(event);
  const to = { frame: (px / width.value) * length, value: valueAt(py) / bent.line.property.display.scale };
  put(bent.line, bent.handle, event.altKey ? null : bent.other, to, bent.gesture);
}
function put(line: GraphLine, handle: Handle, other: Handle | null, to: Handle['at'], gesture: string): void {
  const shape = (h: Handle, at: Handle['at']): void => {
    const ease = withHandle(line.track.keys, h, at, linked.value);
    if (ease) setEase(line, h.holder, ease, gesture);
  };
  shape(handle, to);
  if (other) shape(other, opposite(handle, other, to));
}
/** A linked ease changes for all that share it. */
function setEase(line: GraphLine, holder: number, ease: EaseShape, gesture: string): void {
  const { frame, ease: now } = line.track.keys[holder];
  const { thing, path } = line.track;
  if (typeof now === 'object' && now.kind === 'linked') run(changeLinkedEase(now.id, { ease }), gesture);
  else run(easeKeys([{ thing, path, frame }], ease), gesture);
}
const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-0.02, 0],
  ArrowRight: [0.02, 0],
  ArrowDown: [0, -0.02],
  ArrowUp: [0, 0.02],
};
function nudge(event: KeyboardEvent, line: GraphLine, handle: Handle): void {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  event.stopPropagation();
  const [a, b] = [line.track.keys[handle.holder], line.track.keys[handle.holder + 1]];
  const to = {
    frame: handle.at.frame + step[0] * (b.frame - a.frame),
    value: handle.at.value + step[1] * (b.value - a.value),
  };
  put(line, handle, event.altKey ? null : partner(line, handle), to, '');
}
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
    aria-label="Graph"
    data-test="graph"
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
      @pointerup="((bent = null), (held = null))"
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
      <IconButton small :icon="mdiClose" label="Close the graph" @click="graph.close" />
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
