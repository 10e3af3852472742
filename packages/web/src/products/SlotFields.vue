<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import { computed, nextTick } from 'vue';
import {
  type ArtLook,
  changeSlot,
  deleteSlot,
  type LabelSlot,
  plainLook,
  type Projection,
} from '@tender-orbit/core/document';
import { useDesk } from '../stores/index.ts';
import {
  ColourField,
  FieldRow,
  IconButton,
  MoreFields,
  NumberField,
  SelectField,
  TextField,
  UiButton,
  optionsOf,
} from '../ui/index.ts';

const { slotData: slot } = defineProps<{ slotData: LabelSlot }>();
const desk = useDesk();
const fill = computed(() => desk.fillOf(slot.id));
const look = computed<ArtLook>(() => fill.value?.look ?? plainLook());
const placing = computed(() => desk.placing === slot.id);
const projected = computed(() => slot.projection !== 'uv');
/** Takes the label in hand on the product, or lets go of it; one that covers its whole part can only be rubbed out. */
async function handle(): Promise<void> {
  desk.placing = placing.value ? '' : slot.id;
  await nextTick();
  if (placing.value && !projected.value && fill.value) desk.brush = 'hide';
}
const BRUSHES = [
  ['hide', 'Rub out'],
  ['show', 'Bring back'],
] as const;
const NAMES = optionsOf<Projection>({ uv: 'UV, whole part', planar: 'Planar', round: 'Cylindrical' });
const sheets = computed(() => [
  { value: '', title: 'bare' },
  ...(desk.product?.sheets ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);

function set(label: string, values: Partial<LabelSlot>, gesture = ''): void {
  desk.run(changeSlot(slot.id, label, values), gesture);
}
function adjust(values: Partial<ArtLook>, gesture = ''): void {
  desk.fill(slot.id, { look: { ...look.value, ...values } }, 'Adjust art', gesture);
}
function place(axis: number, value: number, gesture: string): void {
  const centre = [...slot.centre] as LabelSlot['centre'];
  centre[axis] = value;
  set('Move label', { centre }, gesture);
}
/** Height at which the sheet keeps its own proportion. */
function keepProportion(): void {
  const sheet = desk.product?.sheets.find((s) => s.id === fill.value?.sheet);
  if (sheet)
    set('Keep the art’s proportion', { height: Number(((slot.width * sheet.height) / sheet.width).toFixed(6)) });
}
function remove(): void {
  desk.run(deleteSlot(slot.id));
}
</script>

<template>
  <fieldset data-test="slot">
    <legend class="sr-only">{{ slot.name }}</legend>
    <div class="row">
      <TextField
        class="spread"
        :value="slot.name"
        label="Name of the slot"
        maxlength="120"
        @change="(name) => name.trim() && set('Rename slot', { name: name.trim() })"
      />
      <IconButton :icon="mdiTrashCanOutline" :label="`Delete slot ${slot.name}`" @click="remove" />
    </div>
    <FieldRow label="Art">
      <SelectField
        label="Art"
        :options="sheets"
        :value="fill?.sheet ?? ''"
        data-test="slot-sheet"
        @change="(sheet) => desk.fill(slot.id, { sheet }, `Choose art for ${slot.name}`)"
      />
    </FieldRow>
    <FieldRow label="Projection">
      <SelectField
        label="Projection"
        :options="NAMES"
        :value="slot.projection"
        @change="(projection) => set('Choose projection', { projection })"
      />
    </FieldRow>
    <template v-if="slot.projection !== 'uv'">
      <NumberField
        label="Width"
        unit="mm"
        :value="slot.width * 1000"
        :min="0.1"
        :max="10000"
        :step="0.5"
        @change="(v, g) => set('Size label', { width: v / 1000 }, g)"
      />
      <NumberField
        label="Height"
        unit="mm"
        :value="slot.height * 1000"
        :min="0.1"
        :max="10000"
        :step="0.5"
        @change="(v, g) => set('Size label', { height: v / 1000 }, g)"
      />
      <NumberField
        v-if="slot.projection === 'planar'"
        label="Across"
        unit="mm"
        :value="slot.centre[0] * 1000"
        :step="0.5"
        @change="(v, g) => place(0, v / 1000, g)"
      />
      <NumberField
        label="Up"
        unit="mm"
        :value="slot.centre[1] * 1000"
        :step="0.5"
        @change="(v, g) => place(1, v / 1000, g)"
      />
      <NumberField
        label="Turn"
        unit="deg"
        :value="slot.turn"
        :step="1"
        @change="(v, g) => set('Turn label', { turn: v }, g)"
      />
      <NumberField
        label="Roll"
        unit="deg"
        :value="slot.roll"
        :step="1"
        @change="(v, g) => set('Roll label', { roll: v }, g)"
      />
      <NumberField
        label="Corners"
        unit="%"
        :value="slot.corner * 200"
        :min="0"
        :max="100"
        @change="(v, g) => set('Round label', { corner: v / 200 }, g)"
      />
    </template>
    <div class="row channels">
      <UiButton
        :pressed="placing"
        :tip="projected ? 'Press the product to put its middle there; pull a corner, a side or the ring above it' : ''"
        data-test="place-label"
        @click="handle"
      >
        {{ projected ? 'Handle on the product' : 'Rub out on the product' }}
      </UiButton>
      <template v-if="placing && fill">
        <UiButton
          v-for="[key, label] in BRUSHES"
          :key="key"
          :pressed="desk.brush === key"
          :data-test="`brush-${key}`"
          @click="desk.brush = desk.brush === key ? '' : key"
        >
          {{ label }}
        </UiButton>
      </template>
      <UiButton v-if="slot.mask?.length" @click="set('Clear mask', { mask: [] })"> Clear mask </UiButton>
    </div>
    <NumberField
      v-if="desk.brush && placing"
      label="Brush"
      unit="%"
      :value="desk.brushWidth * 100"
      :min="1"
      :max="100"
      :step="0.5"
      @change="(v) => (desk.brushWidth = v / 100)"
    />
    <MoreFields title="How the art lies and what it changes">
      <NumberField
        label="Repeat"
        :value="slot.repeat[0]"
        :min="0.01"
        :max="200"
        :step="0.1"
        @change="(v, g) => set('Repeat art', { repeat: [v, (slot.repeat[1] / slot.repeat[0]) * v] }, g)"
      />
      <NumberField
        label="Offset x"
        unit="%"
        :value="slot.offset[0] * 100"
        :step="1"
        @change="(v, g) => set('Move art', { offset: [v / 100, slot.offset[1]] }, g)"
      />
      <NumberField
        label="Offset y"
        unit="%"
        :value="slot.offset[1] * 100"
        :step="1"
        @change="(v, g) => set('Move art', { offset: [slot.offset[0], v / 100] }, g)"
      />
      <NumberField
        label="Rotation"
        unit="deg"
        :value="slot.rotation"
        :step="1"
        @change="(v, g) => set('Turn art', { rotation: v }, g)"
      />
      <div class="row channels">
        <UiButton :pressed="slot.colour" @click="set('Art changes colour', { colour: !slot.colour })">
          colour
        </UiButton>
        <UiButton
          :pressed="slot.roughness >= 0"
          @click="set('Art changes roughness', { roughness: slot.roughness >= 0 ? -1 : 0.5 })"
        >
          roughness
        </UiButton>
        <UiButton
          :pressed="slot.emboss !== 0"
          data-test="emboss"
          @click="set('Art is embossed', { emboss: slot.emboss !== 0 ? 0 : 1.5 })"
        >
          emboss
        </UiButton>
        <UiButton v-if="slot.projection !== 'uv'" :disabled="!fill" @click="keepProportion"> own proportion </UiButton>
      </div>
      <NumberField
        v-if="slot.roughness >= 0"
        label="Roughness"
        unit="%"
        :value="slot.roughness * 100"
        :min="0"
        :max="100"
        @change="(v, g) => set('Roughness of art', { roughness: v / 100 }, g)"
      />
      <NumberField
        v-if="slot.emboss !== 0"
        label="Emboss"
        :value="slot.emboss"
        :min="-20"
        :max="20"
        :step="0.1"
        @change="(v, g) => set('Emboss art', { emboss: v || 0.1 }, g)"
      />
      <template v-if="fill">
        <NumberField
          label="Black point"
          unit="%"
          :value="look.black * 100"
          :min="0"
          :max="99"
          @change="(v, g) => adjust({ black: v / 100 }, g)"
        />
        <NumberField
          label="White point"
          unit="%"
          :value="look.white * 100"
          :min="1"
          :max="100"
          @change="(v, g) => adjust({ white: v / 100 }, g)"
        />
        <ColourField label="Tint" :value="look.tint" @change="(hex, g) => adjust({ tint: hex }, g)" />
        <UiButton :pressed="look.invert" @click="adjust({ invert: !look.invert })"> Invert </UiButton>
      </template>
    </MoreFields>
  </fieldset>
</template>

<style scoped>
fieldset {
  margin: 0 0 8px;
  padding: 6px;
  border: 1px solid var(--line);
  border-radius: 8px;
}
summary {
  margin: 4px 0;
  color: var(--bone-dim);
  cursor: pointer;
}
.channels {
  flex-wrap: wrap;
  gap: 4px;
  margin: 4px 0;
}
</style>
