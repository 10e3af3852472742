<script setup lang="ts">
import { onBeforeUnmount, ref, toRaw, watch } from 'vue';
import type { Tableau } from '@tender-orbit/core/motion';
import type { TraceReply, TraceRequest } from '../workers/trace-worker.ts';

/** The tableau as a take would show it, refined while nothing changes; lies over the viewer's own drawing. */
const { tableau, width, height } = defineProps<{ tableau: Tableau; width: number; height: number }>();
const canvas = ref<HTMLCanvasElement>();
const samples = ref(0);
const milliseconds = ref(0);
const worker = new Worker(new URL('../workers/trace-worker.ts', import.meta.url), { type: 'module' });
const ask = (request: TraceRequest): void => worker.postMessage(request);
let id = 0;
let asked = 0;
let first = true;

worker.onmessage = (event: MessageEvent<TraceReply>) => {
  const reply = event.data;
  const target = canvas.value;
  if (reply.id !== id || !target) return;
  Object.assign(target, { width: reply.width, height: reply.height });
  target
    .getContext('2d')!
    .putImageData(new ImageData(new Uint8ClampedArray(reply.pixels), reply.width, reply.height), 0, 0);
  samples.value = reply.samples;
  if (first) milliseconds.value = Math.round(performance.now() - asked);
  first = false;
};
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
