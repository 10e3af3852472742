<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import { computed, nextTick } from 'vue';
import { changeSlot, deleteSlot, type LabelSlot, type Projection } from '@tender-orbit/core/document';
import SlotArt from './SlotArt.vue';
import { useDesk } from '../stores/index.ts';
import { FieldRow, IconButton, NumberField, SelectField, TextField, UiButton, optionsOf } from '../ui/index.ts';

const { slotData: slot } = defineProps<{ slotData: LabelSlot }>();
const desk = useDesk();
const fill = computed(() => desk.fillOf(slot.id));
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
function place(axis: number, value: number, gesture: string): void {
  const centre = [...slot.centre] as LabelSlot['centre'];
  centre[axis] = value;
  set('Move label', { centre }, gesture);
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
    <SlotArt :slot-data="slot" :fill="fill" />
  </fieldset>
</template>

<style scoped>
fieldset {
  margin: 0 0 8px;
  padding: 6px;
  border: 1px solid var(--line);
  border-radius: 8px;
}
.channels {
  flex-wrap: wrap;
  gap: 4px;
  margin: 4px 0;
}
</style>
