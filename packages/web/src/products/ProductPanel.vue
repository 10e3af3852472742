<script setup lang="ts">
import { useHandlers } from '../actions/index.ts';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { renameProduct, type ProductDocument } from '@tender-orbit/core/document';
import ArtPanel from './ArtPanel.vue';
import BuilderFields from './BuilderFields.vue';
import FinishPanel from './FinishPanel.vue';
import PartList from './PartList.vue';
import SizeFields from './SizeFields.vue';
import { useCampaign, useDesk, useDocuments, useNotices, useStage } from '../stores/index.ts';
import { confirm, TabRow, TextField, UiButton } from '../ui/index.ts';

const { id, product } = defineProps<{ id: string; product: ProductDocument }>();
const emit = defineEmits<{ removed: [] }>();
const campaign = useCampaign();
const desk = useDesk();
const notices = useNotices();
const stage = useStage();
const router = useRouter();
type Tab = 'body' | 'finish' | 'art';
const TABS: Array<{ value: Tab; label: string; test: string }> = [
  { value: 'body', label: 'Body', test: 'tab-body' },
  { value: 'finish', label: 'Finish', test: 'tab-finish' },
  { value: 'art', label: 'Label art', test: 'tab-art' },
];
const tab = ref<Tab>('body');

const KINDS = {
  carton: 'Carton',
  turned: 'Turned body',
  device: 'Card or screen',
  pouch: 'Pouch',
  cutout: 'Words or logo',
} as const;
const documents = useDocuments();
/** How often it stands on a set of this campaign, whichever shot has that. */
const usedOn = computed(() =>
  campaign.setIds.reduce(
    (sum, set) => sum + (documents.get('set', set)?.products.filter((p) => p.product === id).length ?? 0),
    0,
  ),
);

function rename(text: string): void {
  const name = text.trim();
  if (name) desk.run(renameProduct(name));
}
function stand(): void {
  stage.addProduct(id);
  void router.push(`/campaign/${campaign.id}/set`);
}
async function remove(): Promise<void> {
  const sure = await confirm({
    title: `Delete ${product.name}?`,
    text: 'It is taken out of this campaign. Takes that were rendered with it stay as they are.',
    yes: 'Delete product',
    danger: true,
  });
  if (!sure) return;
  if (await notices.guard(() => campaign.removeProduct(id))) emit('removed');
}
useHandlers({
  'product.stand': stand,
  'product.delete': { run: () => void remove(), enabled: () => usedOn.value === 0 },
});
</script>

<template>
  <section class="card scroll panel" aria-label="Product details" data-test="product-panel">
    <TextField class="name" :value="product.name" label="Name of the product" maxlength="120" @change="rename" />
    <UiButton tone="primary" data-test="to-set" @click="stand">
      {{ usedOn ? 'Put another on the set' : 'Put on the set' }}
    </UiButton>
    <TabRow label="What of the product" :tabs="TABS" :value="tab" @change="(t) => (tab = t)" />

    <template v-if="tab === 'body'">
      <template v-if="product.builder">
        <h3>{{ KINDS[product.builder.kind] }}</h3>
        <BuilderFields :builder="product.builder" />
      </template>
      <template v-else>
        <SizeFields :product="product" />
      </template>
    </template>

    <h3>Parts</h3>
    <PartList :product="product" :short="tab !== 'body'" />

    <FinishPanel v-if="tab === 'finish'" />
    <ArtPanel v-else-if="tab === 'art'" />
    <div v-else class="row">
      <UiButton data-test="duplicate-product" @click="desk.duplicate()">Duplicate</UiButton>
      <UiButton
        class="delete"
        :disabled="usedOn > 0"
        :tip="usedOn ? 'It stands on the set: take it off there first' : ''"
        @click="remove"
      >
        Delete product
      </UiButton>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-auto-rows: max-content;
  align-content: start;
  gap: 6px;
  padding: 14px;
}
.name {
  font-size: 15px;
  font-weight: 640;
}
h3 {
  margin-top: 8px;
}
.delete {
  justify-self: start;
  margin-left: auto;
}
</style>
