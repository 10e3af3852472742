<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline } from '@mdi/js';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { ProductDocument } from '@tender-orbit/core/document';
import { linearToHex, type Finish } from '@tender-orbit/core/finish';
import IconButton from '../controls/IconButton.vue';
import NumberField from '../controls/NumberField.vue';
import { useCampaign, useDocuments, useNotices, useStage } from '../stores/index.ts';
import FinishFields from './FinishFields.vue';

const { id, product } = defineProps<{ id: string; product: ProductDocument }>();
const emit = defineEmits<{ removed: [] }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const stage = useStage();
const router = useRouter();
const finish = ref(0);
const asking = ref(false);
watch(
  () => id,
  () => (finish.value = 0),
);

const SIDES = ['Width', 'Height', 'Depth'] as const;
const UNITS = [
  { name: 'm', scale: 1 },
  { name: 'cm', scale: 0.01 },
  { name: 'mm', scale: 0.001 },
  { name: 'in', scale: 0.0254 },
] as const;
const usedOn = computed(() => campaign.set?.products.filter((p) => p.product === id).length ?? 0);

function edit(label: string, recipe: (draft: ProductDocument) => void, gesture = ''): void {
  documents.edit('product', id, label, (draft) => recipe(draft as ProductDocument), gesture);
}
/** One side decides; the others follow, since a product has one scale. */
function setSide(axis: number, centimetres: number, gesture: string): void {
  if (product.extent[axis] > 0)
    edit(
      'Set real size',
      (p) => void (p.scale = Number((centimetres / 100 / product.extent[axis]).toPrecision(9))),
      gesture,
    );
}
/** The colour a finish is known by: what a filling tints light with, else its own. */
function swatch(used: Finish | undefined): string {
  if (!used) return linearToHex([0.5, 0.5, 0.5]);
  return linearToHex(used.attenuationDistance > 0 ? used.attenuationColor : used.baseColor);
}
function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim();
  if (name) edit('Rename product', (p) => void (p.name = name.slice(0, 120)));
}
function stand(): void {
  stage.addProduct(id);
  void router.push(`/campaign/${campaign.id}/set`);
}
async function remove(): Promise<void> {
  asking.value = false;
  if (await notices.guard(() => campaign.removeProduct(id))) emit('removed');
}
</script>

<template>
  <section class="card scroll panel" aria-label="Product details" data-test="product-panel">
    <input class="field name" :value="product.name" aria-label="Name of the product" maxlength="120" @change="rename" />
    <span class="dim clip">{{ product.fileName }}</span>
    <button type="button" class="chip primary" data-test="to-set" @click="stand">
      {{ usedOn ? 'Put another on the set' : 'Put on the set' }}
    </button>

    <h3>Real size</h3>
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
      <button
        v-for="unit in UNITS"
        :key="unit.name"
        type="button"
        class="chip"
        :class="{ on: Math.abs(product.scale / unit.scale - 1) < 1e-6 }"
        @click="edit('Set unit of the file', (p) => void (p.scale = unit.scale))"
      >
        {{ unit.name }}
      </button>
    </div>

    <h3>Parts</h3>
    <ul>
      <li v-for="(part, i) in product.parts" :key="part.index" class="row">
        <button type="button" class="part" :class="{ on: part.finish === finish }" @click="finish = part.finish">
          <span class="swatch" :style="{ background: swatch(product.finishes[part.finish]) }" />
          <span class="clip spread">{{ part.name || `Part ${i + 1}` }}</span>
          <span class="mono dim">{{ part.triangles.toLocaleString('en') }}</span>
        </button>
        <IconButton
          :icon="part.visible ? mdiEyeOutline : mdiEyeOffOutline"
          :label="`${part.visible ? 'Hide' : 'Show'} ${part.name}`"
          @click="edit(part.visible ? 'Hide part' : 'Show part', (p) => void (p.parts[i].visible = !part.visible))"
        />
      </li>
    </ul>

    <FinishFields v-if="product.finishes[finish]" :product-id="id" :index="finish" :finish="product.finishes[finish]" />
    <button
      type="button"
      class="chip delete"
      :disabled="usedOn > 0"
      :title="usedOn ? 'It stands on the set: take it off there first' : ''"
      @click="asking = true"
    >
      Delete product
    </button>
    <v-dialog v-model="asking">
      <div class="card ask">
        <h2>Delete {{ product.name }}?</h2>
        <p>It is taken out of this campaign. Takes that were rendered with it stay as they are.</p>
        <div class="row">
          <button type="button" class="chip primary" @click="remove">Delete product</button
          ><button type="button" class="chip" @click="asking = false">Keep it</button>
        </div>
      </div>
    </v-dialog>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
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
.units {
  margin-left: 20px;
  gap: 4px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  gap: 2px;
}
.part {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
  height: 28px;
  padding: 0 6px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.part:hover {
  background: var(--ink-2);
}
.part.on {
  background: var(--celadon-deep);
}
.swatch {
  flex: none;
  width: 16px;
  height: 16px;
  border-radius: 50%;
  border: 1px solid var(--line);
}
.delete {
  justify-self: start;
  margin-top: 10px;
}
.ask {
  padding: 20px;
}
</style>
