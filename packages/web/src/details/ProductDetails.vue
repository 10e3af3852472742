<script setup lang="ts">
import { seatProduct, standOn, chooseVariant, swapProduct } from '@tender-orbit/core/document';
import { computed } from 'vue';
import FieldRow from '../controls/FieldRow.vue';
import { useCampaign, useStage } from '../stores/index.ts';
import RepeatProduct from './RepeatProduct.vue';

const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const item = computed(() => campaign.set?.products.find((p) => p.id === id));
const size = computed(() => {
  const product = item.value && campaign.products.get(item.value.product);
  return product
    ? product.extent.map((e) => Number((e * product.scale * item.value!.scale * 100).toFixed(1))).join(' x ')
    : '';
});

function seat(): void {
  stage.run(seatProduct(id, !item.value!.seated));
}
const variants = computed(() => campaign.products.get(item.value?.product ?? '')?.variants ?? []);
/** What it can stand on: bodies and other products. */
const grounds = computed(() => [
  ...(campaign.set?.surfaces.filter((s) => s.kind === 'block') ?? []),
  ...(campaign.set?.products.filter((p) => p.id !== id) ?? []),
]);
function standOnThing(event: Event): void {
  stage.run(standOn(id, (event.target as HTMLSelectElement).value));
}
function show(event: Event): void {
  stage.run(chooseVariant(id, (event.target as HTMLSelectElement).value));
}
function choose(event: Event): void {
  stage.run(swapProduct(id, (event.target as HTMLSelectElement).value));
}
</script>

<template>
  <div v-if="item" class="extra">
    <FieldRow label="Product">
      <select class="field" :value="item.product" @change="choose">
        <option v-for="[key, product] in campaign.products" :key="key" :value="key">{{ product?.name }}</option>
      </select>
    </FieldRow>
    <FieldRow v-if="variants.length > 1" label="Variant">
      <select class="field" :value="item.variant || variants[0].id" data-test="set-variant" @change="show">
        <option v-for="v in variants" :key="v.id" :value="v.id">{{ v.name }}</option>
      </select>
    </FieldRow>
    <FieldRow v-if="item.seated && grounds.length" label="Stands on">
      <select class="field" :value="item.standsOn" data-test="stands-on" @change="standOnThing">
        <option value="">the floor</option>
        <option v-for="g in grounds" :key="g.id" :value="g.id">{{ g.name }}</option>
      </select>
    </FieldRow>
    <FieldRow label="Size"
      ><span class="mono dim">{{ size }} cm</span></FieldRow
    >
    <div class="row buttons">
      <button
        type="button"
        class="chip"
        :class="{ on: item.seated }"
        :aria-pressed="item.seated"
        data-test="seat"
        @click="seat"
      >
        {{ item.seated ? 'Seated' : 'Seat it' }}
      </button>
      <router-link class="chip" :to="`/campaign/${campaign.id}/products`">Open product</router-link>
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
