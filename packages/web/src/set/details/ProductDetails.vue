<script setup lang="ts">
import { keptComputed } from '../../controls/kept.ts';
import { sizeWords } from '../../controls/size-words.ts';
import { seatProduct, standOn, chooseVariant } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { surfaceTraits } from '@tender-orbit/core/scene';
import { useCampaign, useStage } from '../../stores/index.ts';
import { useReplace } from '../use-replace.ts';
import RepeatProduct from './RepeatProduct.vue';
import { FieldRow, SelectField, UiButton } from '../../ui/index.ts';

const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const item = computed(() => campaign.set?.products.find((p) => p.id === id));
const size = computed(() => {
  const product = item.value && campaign.products.get(item.value.product);
  return product ? sizeWords(product.extent, product.scale * item.value!.scale) : '';
});

function seat(): void {
  stage.run(seatProduct(id, !item.value!.seated));
}
const variants = keptComputed(() =>
  (campaign.products.get(item.value?.product ?? '')?.variants ?? []).map((v) => ({ value: v.id, title: v.name })),
);
/** What it can stand on: bodies and other products. */
const grounds = keptComputed(() => {
  const bodies = campaign.set?.surfaces.filter((s) => surfaceTraits(s).body) ?? [];
  const others = campaign.set?.products.filter((p) => p.id !== id) ?? [];
  return [
    { value: '', title: 'the floor' },
    ...[...bodies, ...others].map((thing) => ({ value: thing.id, title: thing.name })),
  ];
});
const replace = useReplace();
</script>

<template>
  <div v-if="item" class="extra">
    <FieldRow label="Product">
      <UiButton class="replace" tip="Place, moves, lights and cuts stay" data-test="swap" @click="replace.ask(id)">
        {{ campaign.products.get(item.product)?.name ?? 'deleted' }}
      </UiButton>
    </FieldRow>
    <FieldRow v-if="variants.length > 1" label="Variant">
      <SelectField
        label="Variant"
        :options="variants"
        :value="item.variant || variants[0].value"
        data-test="set-variant"
        @change="(variant) => stage.run(chooseVariant(id, variant))"
      />
    </FieldRow>
    <FieldRow v-if="item.seated && grounds.length > 1" label="Stands on">
      <SelectField
        label="Stands on"
        :options="grounds"
        :value="item.standsOn"
        data-test="stands-on"
        @change="(ground) => stage.run(standOn(id, ground))"
      />
    </FieldRow>
    <FieldRow label="Size"
      ><span class="mono dim">{{ size }}</span></FieldRow
    >
    <div class="row buttons">
      <UiButton :pressed="item.seated" data-test="seat" @click="seat">
        {{ item.seated ? 'Seated' : 'Seat it' }}
      </UiButton>
      <UiButton :to="`/campaign/${campaign.id}/products`">Open product</UiButton>
      <RepeatProduct :id="id" />
    </div>
  </div>
</template>

<style scoped>
.buttons {
  flex-wrap: wrap;
  margin: 6px 0 8px;
}
</style>
