<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  beatsBetween,
  framesToSeconds,
  secondsToFrames,
  shortTimecode,
  type BeatGrid,
  type FrameRate,
} from '@tender-orbit/core/time';
import type { RulerPart } from './ruler-part.ts';
import { frameByKey, frameUnder, labelStep, percent } from './lane.ts';

const props = defineProps<{
  length: number;
  rate: FrameRate;
  grid: BeatGrid | null;
  frame: number;
  parts?: readonly RulerPart[];
  /** Frames whose preview is in memory; of some only a small one. */
  ready?: readonly (boolean | 'small')[];
  /** Frames that are played round and round. */
  range?: { from: number; to: number } | null;
}>();
const emit = defineEmits<{ seek: [frame: number]; range: [from: number, to: number] }>();
const line = ref<HTMLElement>();

// A label at the very end would hang over the edge.
const beats = computed(() => (props.grid ? beatsBetween(props.grid, props.rate, 0, props.length * 0.99) : []));
const barEvery = computed(() => Math.max(1, Math.ceil(beats.value.filter((b) => b.beat === 1).length / 14)));
const seconds = computed(() => {
  const all = framesToSeconds(props.length, props.rate);
  const step = labelStep(all, 14);
  return Array.from({ length: Math.floor((all * 0.99) / step) + 1 }, (_, i) => i * step).map((s) => ({
    s,
    frame: secondsToFrames(s, props.rate),
  }));
});

/** Runs of frames whose preview is in memory. */
const drawn = computed(() => {
  const spans: Array<{ from: number; to: number; small: boolean }> = [];
  (props.ready ?? []).forEach((on, frame) => {
    const last = spans.at(-1);
    if (!on) return;
    const small = on === 'small';
    if (last?.to === frame && last.small === small) last.to = frame + 1;
    else spans.push({ from: frame, to: frame + 1, small });
  });
  return spans;
});

/** Where a drag with Shift began: it bounds what is played. */
let bound: number | null = null;
function seek(event: PointerEvent): void {
  const under = frameUnder(event.clientX, line.value!.getBoundingClientRect(), props.length);
  if (event.type === 'pointerdown') {
    line.value!.setPointerCapture(event.pointerId);
    bound = event.shiftKey ? under : null;
  }
  if (event.buttons !== 1) return;
  if (bound === null) emit('seek', under);
  else emit('range', Math.min(bound, under), Math.max(bound, under));
}
function onKey(event: KeyboardEvent): void {
  const to = frameByKey(event.key, props.frame, props.length);
  if (to === null) return;
  emit('seek', to);
  event.preventDefault();
}
</script>

<template>
  <div
    ref="line"
    class="ruler mono"
    tabindex="0"
    role="slider"
    aria-label="Playhead"
    :aria-valuenow="frame"
    aria-valuemin="0"
    :aria-valuemax="length - 1"
    :aria-valuetext="shortTimecode(frame, rate)"
    data-test="ruler"
    @pointerdown="seek"
    @pointermove="seek"
    @keydown="onKey"
  >
    <i
      v-for="part in parts ?? []"
      :key="part.from"
      class="part"
      :class="part.kind"
      :style="{ left: percent(part.from, length), width: percent(part.to - part.from, length) }"
      :title="part.kind"
    />
    <i
      v-for="span in drawn"
      :key="`drawn ${span.from}`"
      class="drawn"
      :class="{ small: span.small }"
      :style="{ left: percent(span.from, length), width: percent(span.to - span.from, length) }"
    />
    <i
      v-if="range"
      class="range"
      :style="{ left: percent(range.from, length), width: percent(range.to - range.from, length) }"
      data-test="loop-range"
    />
    <template v-for="beat in beats" :key="beat.frame">
      <span
        v-if="beat.beat === 1 && (beat.bar - 1) % barEvery === 0"
        class="bar"
        :style="{ left: percent(beat.frame, length) }"
        >bar {{ beat.bar }}</span
      >
      <span
        v-else-if="barEvery === 1 && beats.length < 40 && beat.beat > 1"
        class="bar minor"
        :style="{ left: percent(beat.frame, length) }"
        >.{{ beat.beat }}</span
      >
    </template>
    <span v-for="second in seconds" :key="second.s" class="second" :style="{ left: percent(second.frame, length) }"
      >{{ Number(second.s.toFixed(1)) }} s</span
    >
    <span class="pill" :style="{ left: percent(frame, length) }">{{ shortTimecode(frame, rate) }}</span>
  </div>
</template>

<style scoped>
.ruler {
  position: relative;
  height: 36px;
  cursor: col-resize;
  touch-action: none;
  user-select: none;
}
.drawn {
  position: absolute;
  bottom: 0;
  height: 2px;
  background: var(--celadon);
}
.drawn.small {
  opacity: 0.45;
}
.range {
  position: absolute;
  top: 0;
  bottom: 0;
  border-inline: 2px solid var(--bone);
  background: color-mix(in srgb, var(--bone) 9%, transparent);
}
.part {
  position: absolute;
  top: 0;
  height: 4px;
  border-radius: 2px;
  background: var(--line);
}
.part.steady {
  background: color-mix(in srgb, var(--honey) 35%, var(--ink-1));
}
.part.build {
  background: linear-gradient(90deg, var(--line), var(--honey));
}
.part.drop {
  background: var(--honey);
}
.bar,
.second,
.pill {
  position: absolute;
  white-space: nowrap;
  pointer-events: none;
  line-height: 16px;
}
.bar {
  top: 1px;
  padding-left: 4px;
  color: var(--honey);
}
.bar.minor {
  opacity: 0.65;
}
.second {
  top: 18px;
  padding-left: 4px;
  color: var(--bone-dim);
  border-left: 1px solid var(--line);
}
.pill {
  top: 17px;
  z-index: 3;
  padding: 1px 9px;
  border-radius: 9px;
  background: var(--coral);
  color: #24100b;
  font-weight: 600;
  transform: translateX(-50%);
}
</style>
