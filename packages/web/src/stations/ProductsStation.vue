<script setup lang="ts">
import { useDropZone } from '@vueuse/core';
import { computed, ref } from 'vue';
import PanelEdge from '../controls/PanelEdge.vue';
import ProductList from '../products/ProductList.vue';
import ProductPanel from '../products/ProductPanel.vue';
import ProductViewer from '../products/ProductViewer.vue';
import { useImport } from '../products/use-import.ts';
import { isArt, useArt } from '../products/use-art.ts';
import VariantStrip from '../products/VariantStrip.vue';
import { useCampaign, useDesk } from '../stores/index.ts';

const campaign = useCampaign();
const { bring } = useImport();
const left = ref(232);
const right = ref(304);
const page = ref<HTMLElement>();
const input = ref<HTMLInputElement>();
const desk = useDesk();
const art = useArt();
if (!campaign.products.has(desk.id)) desk.id = campaign.productIds[0] ?? '';
const product = computed(() => campaign.products.get(desk.id));

/** Pictures dropped on a product are its art; anything else is a model, with the pictures that it needs. */
async function bringFiles(files: readonly File[] | null): Promise<void> {
  if (files?.length && files.every(isArt) && product.value) {
    await art.bring(files);
    return;
  }
  const made = await bring(files ?? []);
  if (made) desk.id = made;
  if (input.value) input.value.value = '';
}
const { isOverDropZone } = useDropZone(page, (files) => void bringFiles(files));
</script>

<template>
  <div
    ref="page"
    class="products"
    :class="{ over: isOverDropZone }"
    :style="{ gridTemplateColumns: `${left}px 8px 1fr 8px ${right}px` }"
  >
    <ProductList @bring="input?.click()" />
    <PanelEdge v-model="left" name="products-left" :usual="232" side="left" />
    <div v-if="product" class="middle">
      <ProductViewer :product="product" />
      <VariantStrip />
    </div>
    <section v-else class="nothing">
      <h2>Bring in the product</h2>
      <p class="dim">
        Drop a .glb or .gltf model here. Its parts, finishes and real size are read from the file; you can correct the
        size afterwards. Without a model, make a carton, jar or card at the left.
      </p>
      <button type="button" class="chip primary" @click="input?.click()">Import model</button>
    </section>
    <PanelEdge v-model="right" name="products-right" :usual="304" side="right" />
    <ProductPanel v-if="product" :id="desk.id" :product="product" @removed="desk.id = campaign.productIds[0] ?? ''" />
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
      @change="bringFiles([...(($event.target as HTMLInputElement).files ?? [])])"
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
.middle {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 8px;
  min-width: 0;
  min-height: 0;
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
