<script setup lang="ts">
import { computed, defineAsyncComponent, onBeforeUnmount, ref, shallowRef, toRaw, watch } from 'vue';
import { falseColours } from '@tender-orbit/core/picture';
import type { Tableau } from '@tender-orbit/core/scene';
import type { TraceReply, TraceRequest } from '../workers/trace-worker.ts';

/** The tableau as a take would show it, refined while nothing changes; lies over the viewer's own drawing. */
const { tableau, width, height, meter } = defineProps<{
  tableau: Tableau;
  width: number;
  height: number;
  /** Shows how bright each place is, in false colours, with the picture's histogram. */
  meter: boolean;
}>();
const canvas = ref<HTMLCanvasElement>();
const last = shallowRef<TraceReply>();
const luminance = computed(() => last.value && new Float32Array(last.value.luminance));
const samples = ref(0);
const milliseconds = ref(0);
/** The chart library is large and seldom needed. */
const LightHistogram = defineAsyncComponent(() => import('./LightHistogram.vue'));
const worker = new Worker(new URL('../workers/trace-worker.ts', import.meta.url), { type: 'module' });
const ask = (request: TraceRequest): void => worker.postMessage(request);
let id = 0;
let asked = 0;
let first = true;

worker.onmessage = (event: MessageEvent<TraceReply>) => {
  const reply = event.data;
  if (reply.id !== id || !canvas.value) return;
  last.value = reply;
  draw();
  samples.value = reply.samples;
  if (first) milliseconds.value = Math.round(performance.now() - asked);
  first = false;
};
/** The picture, or its false colours. */
function draw(): void {
  const [reply, target] = [last.value, canvas.value];
  if (!reply || !target) return;
  const { width: w, height: h } = reply;
  Object.assign(target, { width: w, height: h });
  const pixels = meter ? falseColours(luminance.value!) : new Uint8ClampedArray(reply.pixels);
  target.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(pixels), w, h), 0, 0);
}
watch(() => meter, draw);
watch(
  [() => tableau, () => width, () => height],
  () => {
    if (width < 2 || height < 2) return;
    id++;
    asked = performance.now();
    first = true;
    ask({ kind: 'trace', id, tableau: toRaw(tableau), width, height });
  },
  { immediate: true },
);
onBeforeUnmount(() => worker.terminate());
</script>

<template>
  <canvas
    v-show="samples > 0"
    ref="canvas"
    class="traced"
    data-test="traced"
    :data-samples="samples"
    :data-first="milliseconds"
    aria-label="Traced picture"
  />
  <span class="chip still mono note" role="status">{{ samples ? `traced, ${samples} samples` : 'tracing...' }}</span>
  <LightHistogram v-if="meter && luminance" :luminance="luminance" />
</template>

<style scoped>
.traced {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.note {
  position: absolute;
  left: 8px;
  bottom: 8px;
  background: var(--ink-1);
  pointer-events: none;
}
</style>
