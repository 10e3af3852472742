<script setup lang="ts">
import { useHandlers } from '../actions/index.ts';
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
import { useCampaign, useDesk, useNotices, useStage } from '../stores/index.ts';
import {
  FieldRow,
  IconButton,
  NumberField,
  PickCard,
  SelectField,
  TabRow,
  TextField,
  ToggleRow,
  UiButton,
  confirm,
  optionsOf,
} from '../ui/index.ts';

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
const SIDES = ['Width', 'Height', 'Depth'] as const;
const UNITS = [
  { label: 'm', value: 1 },
  { label: 'cm', value: 0.01 },
  { label: 'mm', value: 0.001 },
  { label: 'in', value: 0.0254 },
];
const UNWRAPS = optionsOf<Unwrap>({ file: 'From the file', box: 'Box projection', round: 'Cylindrical projection' });
const unit = computed(() => UNITS.find(({ value }) => Math.abs(product.scale / value - 1) < 1e-6)?.value);
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
function pickUnwrap(made: Unwrap): void {
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
    </template>

    <h3>Parts</h3>
    <ul :class="{ short: tab !== 'body' }" class="scroll">
      <li v-for="(part, i) in product.parts" :key="part.index" class="row">
        <PickCard class="part" :on="i === desk.part" data-test="part" @click="desk.part = i">
          <span class="swatch" :style="{ background: swatch(findFinish(product, finishIdOf(part, desk.variant))) }" />
          <span class="clip spread">{{ part.name || `Part ${i + 1}` }}</span>
          <span class="mono dim">{{ part.triangles.toLocaleString('en') }}</span>
        </PickCard>
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
