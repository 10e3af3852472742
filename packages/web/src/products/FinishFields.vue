<script setup lang="ts">
import { hexToLinear, linearToHex, type Finish } from '@tender-orbit/core/finish';
import HexField from '../controls/HexField.vue';
import NumberField from '../controls/NumberField.vue';
import { useDocuments } from '../stores/index.ts';

const { productId, index, finish } = defineProps<{ productId: string; index: number; finish: Finish }>();
const documents = useDocuments();

type Amount = 'roughness' | 'metallic' | 'transmission' | 'clearcoat';
const AMOUNTS: Array<[Amount, string]> = [
  ['roughness', 'Roughness'],
  ['metallic', 'Metal'],
  ['transmission', 'See-through'],
  ['clearcoat', 'Clearcoat'],
];

function set(label: string, values: Partial<Finish>, gesture = ''): void {
  documents.edit(
    'product',
    productId,
    label,
    (product) => void Object.assign(product.finishes[index], values),
    gesture,
  );
}
function paint(hex: string, gesture: string): void {
  const baseColor = hexToLinear(hex);
  if (baseColor) set('Change finish colour', { baseColor }, gesture);
}
</script>

<template>
  <section aria-label="Finish">
    <h3 class="clip">Finish: {{ finish.name }}</h3>
    <HexField label="Colour" :value="linearToHex(finish.baseColor)" @change="paint" />
    <NumberField
      v-for="[key, label] in AMOUNTS"
      :key="key"
      :label="label"
      unit="%"
      :value="finish[key] * 100"
      :min="0"
      :max="100"
      :step="1"
      @change="(v, g) => set(`Change ${label.toLowerCase()}`, { [key]: v / 100 }, g)"
    />
    <NumberField
      label="Refraction"
      :value="finish.ior"
      :min="1"
      :max="4"
      :step="0.01"
      :usual="1.5"
      @change="(v, g) => set('Change refraction', { ior: v }, g)"
    />
    <p v-if="Object.keys(finish.textures).length" class="dim">
      Art: {{ Object.keys(finish.textures).length }} texture{{ Object.keys(finish.textures).length === 1 ? '' : 's' }};
      the colour multiplies it.
    </p>
  </section>
</template>

<style scoped>
h3 {
  margin: 8px 0 4px;
}
p {
  margin: 4px 0 0 20px;
}
</style>
