<script setup lang="ts">
import { useActions } from '../actions/index.ts';
import { countOf } from '../controls/count-of.ts';
import { lengthWords } from '../controls/size-words.ts';
import ThingGlyph from '../things/ThingGlyph.vue';
import { useCampaign, useDesk } from '../stores/index.ts';
import { variantPicture } from './looks.ts';
import MakeOne from './MakeOne.vue';
import { useImport } from './use-import.ts';
import { PickCard, ProgressBar, UiButton, openContextMenu } from '../ui/index.ts';

const emit = defineEmits<{ bring: [] }>();
const campaign = useCampaign();
const desk = useDesk();
const { state } = useImport();
const actions = useActions();
/** What can be done with a product, which is taken in hand by it. */
function openMenu(event: MouseEvent, id: string): void {
  desk.id = id;
  openContextMenu(event, actions.lines(['product.stand', 'product.duplicate', 'variant.add', null, 'product.delete']));
}
</script>

<template>
  <nav class="card scroll list" aria-label="Products">
    <div class="row">
      <h2>Products</h2>
      <span class="spread" /><UiButton tone="primary" data-test="import" @click="emit('bring')">
        Import model
      </UiButton>
    </div>
    <PickCard
      v-for="[id, product] in campaign.products"
      :key="id"
      class="product"
      :on="id === desk.id"
      data-test="product"
      @contextmenu="openMenu($event, id)"
      @click="desk.id = id"
    >
      <img
        v-if="variantPicture(product, '', 88)"
        :src="variantPicture(product, '', 88)!"
        width="44"
        height="44"
        alt=""
      />
      <span v-else class="blank"><ThingGlyph kind="product" /></span>
      <span class="text">
        <span class="clip">{{ product.name }}</span>
        <span class="dim clip"
          >{{ lengthWords(product.extent[1] * product.scale) }}, {{ countOf(product.variants.length, 'variant') }}</span
        >
      </span>
    </PickCard>
    <div v-if="state" class="busy" role="status">
      <span class="clip">{{ state.share < 1 ? `Uploading ${state.name}` : `Reading ${state.name}` }}</span>
      <ProgressBar :value="state.share" :label="`Importing ${state.name}`" />
    </div>
    <MakeOne />
    <p class="dim drop">Drop a model here: .glb, .usdz, .stl or .ply, or a .gltf or .obj with its files.</p>
  </nav>
</template>

<style scoped>
.list {
  padding: 12px 10px;
}
.product {
  display: flex;
  align-items: center;
  gap: 10px;
  width: 100%;
  margin-top: 8px;
  padding: 6px;
  border: 0;
  border-radius: 8px;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.product:hover {
  background: var(--ink-2);
}
.product.chosen {
  background: var(--celadon-deep);
}
img,
.blank {
  flex: none;
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  border-radius: 6px;
  background: var(--surround);
}
.text {
  display: grid;
  min-width: 0;
}
.busy {
  display: grid;
  gap: 6px;
  margin: 12px 6px;
}
.drop {
  margin: 14px 0 0;
  padding: 12px;
  border: 1px dashed var(--line);
  border-radius: 8px;
}
</style>
