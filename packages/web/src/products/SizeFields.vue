<script setup lang="ts">
import { computed } from 'vue';
import {
  chooseUnit,
  chooseUnwrap,
  sizeBySide,
  toggleNormals,
  toggleOriginAtBase,
  type ProductDocument,
  type Unwrap,
} from '@tender-orbit/core/document';
import { METRES_IN } from '@tender-orbit/core/geometry';
import { useDesk } from '../stores/index.ts';
import PoseFields from './PoseFields.vue';
import { FieldRow, NumberField, optionsOf, SelectField, ToggleRow, UiButton } from '../ui/index.ts';

/** The real size of a model that was brought, and what is put right in it. */
const { product } = defineProps<{ product: ProductDocument }>();
const desk = useDesk();

const SIDES = ['Width', 'Height', 'Depth'] as const;
const UNITS = Object.entries(METRES_IN).map(([label, value]) => ({ label, value: value as number }));
const UNWRAPS = optionsOf<Unwrap>({ file: 'From the file', box: 'Box projection', round: 'Cylindrical projection' });
const unit = computed(() => UNITS.find(({ value }) => Math.abs(product.scale / value - 1) < 1e-6)?.value);
const unwrap = computed(
  () => product.prepare.unwraps.find((u) => u.part === product.parts[desk.part]?.index)?.unwrap ?? 'file',
);
function pickUnwrap(made: Unwrap): void {
  const { index, name } = product.parts[desk.part];
  desk.run(chooseUnwrap(index, made, name));
}
/** One side decides; the others follow, since a product has one scale. */
function setSide(axis: number, centimetres: number, gesture: string): void {
  desk.run(sizeBySide(axis, centimetres / 100), gesture);
}
</script>

<template>
  <h3>Real size</h3>
  <span class="dim clip">{{ product.fileName }}</span>
  <NumberField
    v-for="(side, axis) in SIDES"
    :key="side"
    :label="side"
    unit="cm"
    :value="product.extent[axis] * product.scale * 100"
    :min="0.01"
    :max="100000"
    :step="0.1"
    @change="(v, g) => setSide(axis, v, g)"
  />
  <div class="row units">
    <span class="dim">The file's unit is</span>
    <ToggleRow
      label="Unit of the file"
      :options="UNITS"
      :value="unit"
      @change="(scale) => desk.run(chooseUnit(scale))"
    />
  </div>
  <PoseFields v-if="product.origin?.animations.length" :product="product" :origin="product.origin" />
  <h3>Putting the model right</h3>
  <div class="row units">
    <UiButton
      :pressed="product.prepare.toBase"
      tip="It then turns and stands about the middle of its base"
      data-test="to-base"
      @click="desk.run(toggleOriginAtBase())"
    >
      Origin at base
    </UiButton>
    <UiButton
      :pressed="product.prepare.normals"
      tip="For models that look inside out or faceted"
      @click="desk.run(toggleNormals())"
    >
      Repair normals
    </UiButton>
  </div>
  <FieldRow label="UV of part">
    <SelectField label="UV of part" :options="UNWRAPS" :value="unwrap" data-test="unwrap" @change="pickUnwrap" />
  </FieldRow>
</template>

<style scoped>
h3 {
  margin-top: 8px;
}
.units {
  margin-left: 20px;
  gap: 4px;
}
</style>
