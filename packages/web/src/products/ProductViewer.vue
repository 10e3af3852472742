<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import type { ProductDocument } from '@tender-orbit/core/document';
import { modelOf } from '../viewer/models.ts';
import { StageView } from '../viewer/stage-view.ts';
import { productTableau } from './product-tableau.ts';
import { keepThumb } from './thumbs.ts';

const { product } = defineProps<{ product: ProductDocument }>();
const canvas = ref<HTMLCanvasElement>();
const surround = ref<HTMLElement>();
const view = shallowRef<StageView>();
const size = ref({ width: 1, height: 1 });
const clay = ref(false);
const framed = ref(true);
const broken = ref('');
const model = computed(() => modelOf(product.model));
const tableau = computed(() =>
  model.value ? productTableau(product, model.value.meshes, size.value.width / size.value.height) : null,
);
let timer: ReturnType<typeof setTimeout>;

useResizeObserver(surround, ([entry]) => {
  const { width, height } = entry.contentRect;
  size.value = { width: Math.max(1, Math.floor(width)), height: Math.max(1, Math.floor(height)) };
  view.value?.resize(size.value.width, size.value.height);
});
onMounted(() => {
  try {
    view.value = new StageView(canvas.value!, {
      pick: () => undefined,
      move: () => undefined,
      turn: () => undefined,
      leaveCamera: () => (framed.value = false),
    });
    view.value.resize(size.value.width, size.value.height);
  } catch {
    broken.value = 'This browser offers no WebGL2, so the viewer cannot draw: takes still render on the server.';
  }
});
onBeforeUnmount(() => {
  clearTimeout(timer);
  view.value?.dispose();
});
watch(
  () => product.model,
  () => (framed.value = true),
);
watch([view, tableau, clay, framed], () => {
  if (!view.value || !tableau.value) return;
  view.value.show({
    tableau: tableau.value,
    clay: clay.value,
    selected: '',
    handles: null,
    throughCamera: framed.value,
    models: modelOf,
  });
  clearTimeout(timer);
  // Once the full picture has been drawn it also serves as the list's thumbnail.
  if (framed.value && !clay.value)
    timer = setTimeout(() => canvas.value && keepThumb(product.model, canvas.value), 1500);
});
</script>

<template>
  <section class="viewer" aria-label="Product">
    <div class="row head">
      <strong class="clip">{{ product.name }}</strong>
      <span class="chip still mono"
        >{{ product.extent.map((e) => Number((e * product.scale * 100).toFixed(1))).join(' x ') }} cm</span
      >
      <span class="chip still mono"
        >{{ product.parts.reduce((n, p) => n + p.triangles, 0).toLocaleString('en') }} triangles</span
      >
      <span class="spread" />
      <button v-if="!framed" type="button" class="chip" @click="framed = true">Frame product</button>
      <button type="button" class="chip" :class="{ on: clay }" :aria-pressed="clay" @click="clay = !clay">Clay</button>
    </div>
    <div ref="surround" class="surround">
      <p v-if="broken" role="alert" class="pa-6">{{ broken }}</p>
      <canvas ref="canvas" data-test="product-canvas" :aria-label="product.name" />
      <p v-if="!model" class="dim loading">Reading the model...</p>
    </div>
  </section>
</template>

<style scoped>
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.loading {
  position: absolute;
  inset: auto 0 50%;
  text-align: center;
}
</style>
