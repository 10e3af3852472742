<script setup lang="ts">
import { useDropZone } from '@vueuse/core';
import { computed, ref } from 'vue';
import PanelEdge from '../controls/PanelEdge.vue';
import ProductList from '../products/ProductList.vue';
import ProductPanel from '../products/ProductPanel.vue';
import ProductViewer from '../products/ProductViewer.vue';
import { useImport } from '../products/use-import.ts';
import { useCampaign } from '../stores/index.ts';

const campaign = useCampaign();
const { bring } = useImport();
const left = ref(232);
const right = ref(304);
const page = ref<HTMLElement>();
const input = ref<HTMLInputElement>();
const chosen = ref(campaign.productIds[0] ?? '');
const product = computed(() => campaign.products.get(chosen.value));

async function take(files: readonly File[] | null): Promise<void> {
  const made = await bring(files ?? []);
  if (made) chosen.value = made;
  if (input.value) input.value.value = '';
}
const { isOverDropZone } = useDropZone(page, (files) => void take(files));
</script>

<template>
  <div
    ref="page"
    class="products"
    :class="{ over: isOverDropZone }"
    :style="{ gridTemplateColumns: `${left}px 8px 1fr 8px ${right}px` }"
  >
    <ProductList v-model="chosen" @bring="input?.click()" />
    <PanelEdge v-model="left" name="products-left" :usual="232" side="left" />
    <ProductViewer v-if="product" :product="product" />
    <section v-else class="nothing">
      <h2>Bring in the product</h2>
      <p class="dim">
        Drop a .glb or .gltf model here. Its parts, finishes and real size are read from the file; you can correct the
        size afterwards.
      </p>
      <button type="button" class="chip primary" @click="input?.click()">Import model</button>
    </section>
    <PanelEdge v-model="right" name="products-right" :usual="304" side="right" />
    <ProductPanel v-if="product" :id="chosen" :product="product" @removed="chosen = campaign.productIds[0] ?? ''" />
    <section v-else class="card" />
    <input
      ref="input"
      type="file"
      multiple
      class="sr-only"
      tabindex="-1"
      aria-label="Model files"
      accept=".glb,.gltf,.obj,.mtl,.stl,.ply,.bin,.png,.jpg,.jpeg,.webp"
      data-test="model-input"
      @change="take([...(($event.target as HTMLInputElement).files ?? [])])"
    />
  </div>
</template>

<style scoped>
.products {
  display: grid;
  grid-template-rows: minmax(0, 1fr);
  height: 100%;
  border-radius: 10px;
}
.products.over {
  outline: 2px dashed var(--celadon);
  outline-offset: -2px;
}
.nothing {
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
  padding: 40px;
  border-radius: 10px;
  background: var(--surround);
  text-align: center;
}
</style>
