<script setup lang="ts">
import { useHandlers } from '../actions/index.ts';
import { useDropZone } from '@vueuse/core';
import { computed, ref } from 'vue';
import ImportReport from './ImportReport.vue';
import { MODEL_ACCEPT } from './model-kinds.ts';
import ProductList from './ProductList.vue';
import ProductPanel from './ProductPanel.vue';
import ProductViewer from './ProductViewer.vue';
import { useImport } from './use-import.ts';
import { isArt, useArt } from './use-art.ts';
import VariantStrip from './VariantStrip.vue';
import { useCampaign, useDesk } from '../stores/index.ts';
import { FilePick, SplitPanels, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const { bring } = useImport();
const page = ref<HTMLElement>();
const picker = ref<InstanceType<typeof FilePick>>();
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
}
const { isOverDropZone } = useDropZone(page, (files) => void bringFiles(files));
useHandlers({
  'product.import': () => picker.value?.open(),
  'product.duplicate': { run: () => void desk.duplicate(), enabled: () => product.value !== undefined },
  'variant.add': { run: () => desk.addVariant(), enabled: () => product.value !== undefined },
});
</script>

<template>
  <div ref="page" class="products" :class="{ over: isOverDropZone }">
    <SplitPanels name="products" :left="232" :right="304">
      <template #left><ProductList @bring="picker?.open()" /></template>
      <div v-if="product" class="middle">
        <ImportReport />
        <ProductViewer :product="product" />
        <VariantStrip />
      </div>
      <section v-else class="nothing">
        <h2>Bring in the product</h2>
        <p class="dim">
          Drop a model here: glTF, USD, OBJ, STL or PLY. Its parts, finishes and real size are read from the file; you
          can correct the size afterwards. Without a model, make a carton, jar or card at the left.
        </p>
        <UiButton tone="primary" @click="picker?.open()">Import model</UiButton>
      </section>
      <template #right
        ><ProductPanel
          v-if="product"
          :id="desk.id"
          :product="product"
          @removed="desk.id = campaign.productIds[0] ?? ''" />
        <section v-else class="card"
      /></template>
    </SplitPanels>
    <FilePick
      ref="picker"
      label="Model files"
      multiple
      :accept="MODEL_ACCEPT"
      data-test="model-input"
      @pick="bringFiles"
    />
  </div>
</template>

<style scoped>
.products {
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
  height: 100%;
  border-radius: 10px;
}
.middle {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
  min-height: 0;
}
.middle > :deep(.viewer) {
  flex: 1;
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
