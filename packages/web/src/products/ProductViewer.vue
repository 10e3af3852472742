<script setup lang="ts">
import { useHandlers } from '../actions/index.ts';
import { useResizeObserver } from '@vueuse/core';
import { computed, onMounted, ref, watch } from 'vue';
import type { ProductDocument } from '@tender-orbit/core/document';
import { modelKey } from '@tender-orbit/core/product';
import { sizeWords } from '../controls/size-words.ts';
import { useDesk, type DeskView } from '../stores/index.ts';
import { artIn, LOADED } from '../viewer/loaded.ts';
import { modelOf } from '../viewer/models.ts';
import { useStageView } from '../viewer/use-stage-view.ts';
import LabelHandles from './LabelHandles.vue';
import { productTableau } from './product-tableau.ts';
import UvView from './UvView.vue';
import { ToggleRow, UiButton } from '../ui/index.ts';

const { product } = defineProps<{ product: ProductDocument }>();
const sheet = ref<HTMLElement>();
const surround = ref<HTMLElement>();
const size = ref({ width: 1, height: 1 });
const clay = ref(false);
const framed = ref(true);
const VIEWS: Array<{ value: DeskView; label: string; test: string }> = [
  { value: 'look', label: 'Look', test: 'view-look' },
  { value: 'uv', label: 'UV', test: 'view-uv' },
];
const desk = useDesk();
const model = computed(() => modelOf(modelKey(product)));
const tableau = computed(() =>
  model.value
    ? productTableau(product, model.value.meshes, size.value.width / size.value.height, { variant: desk.variantId })
    : null,
);

const handled = computed(() => product.slots.find((s) => s.id === desk.placing));
const frames = ref(0);
useResizeObserver(surround, ([entry]) => {
  const { width, height } = entry.contentRect;
  size.value = { width: Math.max(1, Math.floor(width)), height: Math.max(1, Math.floor(height)) };
  view.value?.resize(size.value.width, size.value.height);
});
const { view, broken } = useStageView(
  sheet,
  {
    pick: () => undefined,
    mark: ({ part }) => {
      const at = product.parts.findIndex((p) => p.index === part);
      if (at >= 0) desk.part = at;
      return true;
    },
    move: () => undefined,
    turn: () => undefined,
    leaveCamera: () => (framed.value = false),
    drawn: () => frames.value++,
  },
  () => ({ 'data-test': 'product-canvas', 'aria-label': product.name }),
);
onMounted(() => view.value?.resize(size.value.width, size.value.height));
watch(
  () => desk.id,
  () => (framed.value = true),
);
watch([view, tableau, clay, framed, () => tableau.value && artIn(tableau.value)], () => {
  if (!view.value || !tableau.value) return;
  view.value.show({
    tableau: tableau.value,
    clay: clay.value,
    selected: '',
    handles: null,
    throughCamera: framed.value,
    loaded: LOADED,
    domain: null,
  });
});
useHandlers({ 'product.frame': () => (framed.value = true) });
</script>

<template>
  <section class="viewer" aria-label="Product">
    <div class="row head">
      <strong class="clip">{{ product.name }}</strong>
      <span class="chip still mono">{{ sizeWords(product.extent, product.scale) }}</span>
      <span class="chip still mono"
        >{{ product.parts.reduce((n, p) => n + p.triangles, 0).toLocaleString('en') }} triangles</span
      >
      <span class="spread" />
      <ToggleRow label="View" :options="VIEWS" :value="desk.view" @change="(v) => (desk.view = v)" />
      <UiButton v-if="!framed" @click="framed = true">Frame product</UiButton>
      <UiButton :pressed="clay" @click="clay = !clay">Clay</UiButton>
    </div>
    <div ref="surround" class="surround">
      <p v-if="broken" role="alert" class="pa-6">{{ broken }}</p>
      <div ref="sheet" class="sheet"></div>
      <p v-if="!model" class="dim loading">Reading the model...</p>
      <LabelHandles
        v-if="handled && view && tableau"
        :slot-data="handled"
        :view="view"
        :matrix="tableau.instances[0].matrix"
        :frames="frames"
      />
      <UvView v-if="desk.view === 'uv'" />
    </div>
  </section>
</template>

<style scoped>
.sheet,
.sheet :deep(canvas) {
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
