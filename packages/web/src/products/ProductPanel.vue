<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline } from '@mdi/js';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import {
  chooseUnit,
  chooseUnwrap,
  findFinish,
  finishIdOf,
  type ProductDocument,
  renameProduct,
  showPart,
  sizeBySide,
  toggleNormals,
  toggleOriginAtBase,
  type Unwrap,
} from '@tender-orbit/core/document';
import { linearToHex, type Finish } from '@tender-orbit/core/finish';
import ArtPanel from './ArtPanel.vue';
import BuilderFields from './BuilderFields.vue';
import FinishPanel from './FinishPanel.vue';
import FieldRow from '../controls/FieldRow.vue';
import IconButton from '../controls/IconButton.vue';
import NumberField from '../controls/NumberField.vue';
import { useCampaign, useDesk, useNotices, useStage } from '../stores/index.ts';

const { id, product } = defineProps<{ id: string; product: ProductDocument }>();
const emit = defineEmits<{ removed: [] }>();
const campaign = useCampaign();
const desk = useDesk();
const notices = useNotices();
const stage = useStage();
const router = useRouter();
type Tab = 'body' | 'finish' | 'art';
const TABS: Array<[Tab, string]> = [
  ['body', 'Body'],
  ['finish', 'Finish'],
  ['art', 'Label art'],
];
const tab = ref<Tab>('body');
const asking = ref(false);

const KINDS = {
  carton: 'Carton',
  turned: 'Turned body',
  device: 'Card or screen',
  pouch: 'Pouch',
  cutout: 'Words or logo',
} as const;
const SIDES = ['Width', 'Height', 'Depth'] as const;
const UNITS = [
  { name: 'm', scale: 1 },
  { name: 'cm', scale: 0.01 },
  { name: 'mm', scale: 0.001 },
  { name: 'in', scale: 0.0254 },
] as const;
const usedOn = computed(() => campaign.set?.products.filter((p) => p.product === id).length ?? 0);

/** Whether a part is seen in the variant in hand. */
function shown(index: number): boolean {
  const part = product.parts.find((p) => p.index === index)!;
  return part.visible && !desk.variant?.hidden.includes(index);
}
function toggle(i: number): void {
  const { index, name } = product.parts[i];
  desk.run(showPart(index, desk.variant!.id, !shown(index), name));
}
const unwrap = computed(
  () => product.prepare.unwraps.find((u) => u.part === product.parts[desk.part]?.index)?.unwrap ?? 'file',
);
function pickUnwrap(event: Event): void {
  const made = (event.target as HTMLSelectElement).value as Unwrap;
  const { index, name } = product.parts[desk.part];
  desk.run(chooseUnwrap(index, made, name));
}
/** One side decides; the others follow, since a product has one scale. */
function setSide(axis: number, centimetres: number, gesture: string): void {
  desk.run(sizeBySide(axis, centimetres / 100), gesture);
}
/** The colour a finish is known by: what a filling tints light with, else its own. */
function swatch(used: Finish | undefined): string {
  if (!used) return linearToHex([0.5, 0.5, 0.5]);
  return linearToHex(used.attenuationDistance > 0 ? used.attenuationColor : used.baseColor);
}
function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim();
  if (name) desk.run(renameProduct(name));
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
    <button type="button" class="chip primary" data-test="to-set" @click="stand">
      {{ usedOn ? 'Put another on the set' : 'Put on the set' }}
    </button>
    <div class="row tabs" role="tablist" aria-label="What of the product">
      <button
        v-for="[key, label] in TABS"
        :key="key"
        type="button"
        role="tab"
        class="chip"
        :class="{ on: tab === key }"
        :aria-selected="tab === key"
        :data-test="`tab-${key}`"
        @click="tab = key"
      >
        {{ label }}
      </button>
    </div>

    <template v-if="tab === 'body'">
      <template v-if="product.builder">
        <h3>{{ KINDS[product.builder.kind] }}</h3>
        <BuilderFields :builder="product.builder" />
      </template>
      <template v-else>
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
          <button
            v-for="unit in UNITS"
            :key="unit.name"
            type="button"
            class="chip"
            :class="{ on: Math.abs(product.scale / unit.scale - 1) < 1e-6 }"
            @click="desk.run(chooseUnit(unit.scale))"
          >
            {{ unit.name }}
          </button>
        </div>
        <h3>Putting the model right</h3>
        <div class="row units">
          <button
            type="button"
            class="chip"
            :class="{ on: product.prepare.toBase }"
            :aria-pressed="product.prepare.toBase"
            title="It then turns and stands about the middle of its base"
            data-test="to-base"
            @click="desk.run(toggleOriginAtBase())"
          >
            Origin at base
          </button>
          <button
            type="button"
            class="chip"
            :class="{ on: product.prepare.normals }"
            :aria-pressed="product.prepare.normals"
            title="For models that look inside out or faceted"
            @click="desk.run(toggleNormals())"
          >
            Repair normals
          </button>
        </div>
        <FieldRow label="Uv of part">
          <select class="field" :value="unwrap" data-test="unwrap" @change="pickUnwrap">
            <option value="file">from the file</option>
            <option value="box">thrown from six sides</option>
            <option value="round">wrapped round</option>
          </select>
        </FieldRow>
      </template>
    </template>

    <h3>Parts</h3>
    <ul :class="{ short: tab !== 'body' }" class="scroll">
      <li v-for="(part, i) in product.parts" :key="part.index" class="row">
        <button
          type="button"
          class="part"
          :class="{ on: i === desk.part }"
          :aria-pressed="i === desk.part"
          data-test="part"
          @click="desk.part = i"
        >
          <span class="swatch" :style="{ background: swatch(findFinish(product, finishIdOf(part, desk.variant))) }" />
          <span class="clip spread">{{ part.name || `Part ${i + 1}` }}</span>
          <span class="mono dim">{{ part.triangles.toLocaleString('en') }}</span>
        </button>
        <IconButton
          :icon="shown(part.index) ? mdiEyeOutline : mdiEyeOffOutline"
          :label="`${shown(part.index) ? 'Hide' : 'Show'} ${part.name}`"
          @click="toggle(i)"
        />
      </li>
    </ul>

    <FinishPanel v-if="tab === 'finish'" />
    <ArtPanel v-else-if="tab === 'art'" />
    <div v-else class="row">
      <button type="button" class="chip" data-test="duplicate-product" @click="desk.duplicate()">Duplicate</button>
      <button
        type="button"
        class="chip delete"
        :disabled="usedOn > 0"
        :title="usedOn ? 'It stands on the set: take it off there first' : ''"
        @click="asking = true"
      >
        Delete product
      </button>
    </div>
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
.units {
  margin-left: 20px;
  gap: 4px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
ul.short {
  max-height: 172px;
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
  margin-left: auto;
}
.tabs {
  margin-top: 6px;
  gap: 4px;
}
.ask {
  padding: 20px;
}
</style>
