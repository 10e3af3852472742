<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import type { GradientStop, Layer, LayerOf } from '@tender-orbit/core/document';
import { hexToLinear, linearToHex } from '@tender-orbit/core/finish';
import { computed } from 'vue';
import { useRack } from '../stores/index.ts';
import { ColourSwatch, IconButton, NumberField, UiButton } from '../ui/index.ts';

/** Colours on a gradient's way, when there are more than its two. */
const { layer } = defineProps<{ layer: LayerOf<'gradient'> }>();
const rack = useRack();
const MOST = 24;
const stops = computed(() => layer.stops ?? []);

function put(next: GradientStop[] | undefined, label: string, gesture = ''): void {
  rack.change(layer, label, { stops: next } as Partial<Layer>, gesture);
}
/** The two colours as stops, with one between them. */
function begin(): void {
  const { colour, otherColour, otherOpacity, middle } = layer;
  put(
    [
      { at: 0, colour, opacity: 1 },
      {
        at: middle,
        colour: between(colour, otherColour, otherOpacity / (1 + otherOpacity)),
        opacity: (1 + otherOpacity) / 2,
      },
      { at: 1, colour: otherColour, opacity: otherOpacity },
    ],
    'Use several stops',
  );
}
/** A colour between two, so far to the second, as the layer mixes them: as light in the scene, as they are on the glass. */
function between(first: string, second: string, share: number): string {
  const mixed = (p: readonly number[], q: readonly number[]): number[] => p.map((v, c) => v + (q[c] - v) * share);
  if (layer.space === 'scene')
    return linearToHex(mixed(hexToLinear(first)!, hexToLinear(second)!) as [number, number, number]);
  const bytes = (hex: string): number[] => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16));
  const hex = mixed(bytes(first), bytes(second)).map((v) => Math.round(v).toString(16).padStart(2, '0'));
  return `#${hex.join('')}`.toUpperCase();
}
function change(index: number, values: Partial<GradientStop>, gesture = ''): void {
  put(
    stops.value.map((stop, i) => (i === index ? { ...stop, ...values } : { ...stop })),
    'Change stop',
    gesture,
  );
}
/** One more in the widest gap, of the colour before it. */
function add(): void {
  const sorted = [...stops.value].sort((p, q) => p.at - q.at);
  let widest = 0;
  for (let i = 1; i < sorted.length - 1; i++)
    if (sorted[i + 1].at - sorted[i].at > sorted[widest + 1].at - sorted[widest].at) widest = i;
  const at = (sorted[widest].at + sorted[widest + 1].at) / 2;
  put([...sorted.map((s) => ({ ...s })), { ...sorted[widest], at }], 'Add stop');
}
const percent = (v: number): number => Math.round(v * 1000) / 10;
</script>

<template>
  <div class="stops" data-test="gradient-stops">
    <div v-for="(stop, i) in stops" :key="i" class="row stop">
      <ColourSwatch
        :label="`Colour of stop ${i + 1}`"
        :value="stop.colour"
        @change="(colour, gesture) => change(i, { colour }, gesture)"
      />
      <NumberField
        hide-label
        :label="`Place of stop ${i + 1}`"
        unit="%"
        :value="percent(stop.at)"
        :min="0"
        :max="100"
        :step="1"
        @change="(v, gesture) => change(i, { at: v / 100 }, gesture)"
      />
      <NumberField
        hide-label
        :label="`Opacity of stop ${i + 1}`"
        unit="%"
        :value="percent(stop.opacity)"
        :min="0"
        :max="100"
        :step="1"
        @change="(v, gesture) => change(i, { opacity: v / 100 }, gesture)"
      />
      <IconButton
        small
        :icon="mdiTrashCanOutline"
        :label="`Delete stop ${i + 1}`"
        :disabled="stops.length <= 2"
        @click="
          put(
            stops.filter((_, k) => k !== i),
            'Delete stop',
          )
        "
      />
    </div>
    <div class="row">
      <UiButton v-if="stops.length === 0" data-test="several-stops" @click="begin">Several stops</UiButton>
      <template v-else>
        <UiButton :disabled="stops.length >= MOST" data-test="add-stop" @click="add">Add stop</UiButton>
        <UiButton data-test="two-colours" @click="put(undefined, 'Use two colours')">Two colours</UiButton>
      </template>
    </div>
  </div>
</template>

<style scoped>
.stops {
  display: grid;
  gap: 4px;
  padding: 4px 0 8px 20px;
}
.stop {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 6px;
}
</style>
