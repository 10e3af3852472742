<script setup lang="ts">
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
  const seated = !item.value!.seated;
  stage.change(seated ? 'Seat on the floor' : 'Let go of the floor', (set) => {
    const product = set.products.find((p) => p.id === id)!;
    product.seated = seated;
    if (seated) product.position[1] = 0;
  });
}
const variants = computed(() => campaign.products.get(item.value?.product ?? '')?.variants ?? []);
/** What it can stand on: bodies and other products. */
const grounds = computed(() => [
  ...(campaign.set?.surfaces.filter((s) => s.kind === 'block') ?? []),
  ...(campaign.set?.products.filter((p) => p.id !== id) ?? []),
]);
function standOn(event: Event): void {
  const ground = (event.target as HTMLSelectElement).value;
  stage.change('Stand on another thing', (set) => {
    const product = set.products.find((p) => p.id === id)!;
    product.standsOn = ground;
    const block = set.surfaces.find((s) => s.id === ground);
    // It comes over what it is to stand on, unless it is there already.
    if (
      block?.kind === 'block' &&
      Math.hypot(block.position[0] - product.position[0], block.position[2] - product.position[2]) > block.width / 2
    )
      product.position = [block.position[0], product.position[1], block.position[2]];
  });
}
function chooseVariant(event: Event): void {
  const variant = (event.target as HTMLSelectElement).value;
  stage.change('Choose variant', (set) => void (set.products.find((p) => p.id === id)!.variant = variant));
}
function choose(event: Event): void {
  const product = (event.target as HTMLSelectElement).value;
  stage.change(
    'Swap product',
    (set) =>
      void Object.assign(
        set.products.find((p) => p.id === id)!,
        { product, variant: '' },
      ),
  );
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
      <select class="field" :value="item.variant || variants[0].id" data-test="set-variant" @change="chooseVariant">
        <option v-for="v in variants" :key="v.id" :value="v.id">{{ v.name }}</option>
      </select>
    </FieldRow>
    <FieldRow v-if="item.seated && grounds.length" label="Stands on">
      <select class="field" :value="item.standsOn" data-test="stands-on" @change="standOn">
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
