<script setup lang="ts">
import { computed } from 'vue';
import type { Arrival, ArrivalKind, Title } from '@tender-orbit/core/document';
import { TITLE_FONTS } from '@tender-orbit/core/promo';
import FieldRow from '../controls/FieldRow.vue';
import HexField from '../controls/HexField.vue';
import NumberField from '../controls/NumberField.vue';
import { usePromo } from './use-promo.ts';

const { title } = defineProps<{ title: Title }>();
const { editTitle } = usePromo();
const LONGEST = 2000;
const tooLong = computed(() => title.text.length > LONGEST);

function set(label: string, values: Partial<Title>, gesture = ''): void {
  editTitle(title.id, label, values, gesture);
}
function setArrival(side: 'arrive' | 'leave', values: Partial<Arrival>, gesture = ''): void {
  set(side === 'arrive' ? 'Change arrival' : 'Change leaving', { [side]: { ...title[side], ...values } }, gesture);
}
const value = (event: Event): string => (event.target as HTMLSelectElement).value;
const KINDS: Array<[ArrivalKind, string]> = [
  ['none', 'at once'],
  ['fade', 'fade'],
  ['rise', 'rise'],
  ['slide', 'slide'],
];
const ALIGNS: Array<[Title['align'], string]> = [
  ['left', 'Left'],
  ['centre', 'Centre'],
  ['right', 'Right'],
];
</script>

<template>
  <h2>Title</h2>
  <textarea
    class="field"
    rows="3"
    :value="title.text"
    aria-label="Title text"
    :aria-invalid="tooLong"
    data-test="title-text"
    @input="set('Write title', { text: value($event) }, `write-${title.id}`)"
  />
  <p v-if="tooLong" role="alert" class="why">
    {{ title.text.length }} characters are too many for a title: shorten it to {{ LONGEST }}. It is kept here, but not
    saved until then.
  </p>
  <FieldRow label="Font">
    <select class="field" :value="title.font" @change="set('Choose font', { font: value($event) })">
      <option v-for="font in TITLE_FONTS" :key="font.id" :value="font.id">{{ font.label }}</option>
    </select>
  </FieldRow>
  <NumberField
    label="Size"
    unit="px"
    :value="title.size"
    :min="4"
    :max="2000"
    :step="1"
    @change="(v, g) => set('Change title size', { size: v }, g)"
  />
  <NumberField
    label="Tracking"
    unit="em"
    :value="title.tracking"
    :min="-0.5"
    :max="5"
    :step="0.01"
    :usual="0"
    @change="(v, g) => set('Change tracking', { tracking: v }, g)"
  />
  <HexField label="Colour" :value="title.colour" @change="(v, g) => set('Colour title', { colour: v }, g)" />
  <NumberField
    label="Across"
    unit="%"
    :value="title.x * 100"
    :min="-100"
    :max="200"
    :step="1"
    :usual="50"
    @change="(v, g) => set('Move title', { x: v / 100 }, g)"
  />
  <NumberField
    label="Down"
    unit="%"
    :value="title.y * 100"
    :min="-100"
    :max="200"
    :step="1"
    :usual="80"
    @change="(v, g) => set('Move title', { y: v / 100 }, g)"
  />
  <div class="row aligns" role="radiogroup" aria-label="Alignment">
    <button
      v-for="[align, label] in ALIGNS"
      :key="align"
      type="button"
      role="radio"
      class="chip"
      :class="{ on: title.align === align }"
      :aria-checked="title.align === align"
      @click="set('Align title', { align })"
    >
      {{ label }}
    </button>
  </div>
  <NumberField
    label="Starts at"
    unit="f"
    :value="title.start"
    :min="0"
    :max="100000"
    :step="1"
    @change="(v, g) => set('Move title', { start: Math.round(v) }, g)"
  />
  <NumberField
    label="Stays for"
    unit="f"
    :value="title.length"
    :min="1"
    :max="100000"
    :step="1"
    @change="(v, g) => set('Change title length', { length: Math.round(v) }, g)"
  />
  <template v-for="side in ['arrive', 'leave'] as const" :key="side">
    <FieldRow :label="side === 'arrive' ? 'Arrives by' : 'Leaves by'">
      <select
        class="field"
        :value="title[side].kind"
        @change="setArrival(side, { kind: value($event) as ArrivalKind })"
      >
        <option v-for="[kind, label] in KINDS" :key="kind" :value="kind">{{ label }}</option>
      </select>
    </FieldRow>
    <NumberField
      v-if="title[side].kind !== 'none'"
      :label="side === 'arrive' ? 'within' : 'over'"
      unit="f"
      :value="title[side].frames"
      :min="0"
      :max="1000"
      :step="1"
      @change="(v, g) => setArrival(side, { frames: Math.round(v) }, g)"
    />
  </template>
</template>

<style scoped>
.aligns {
  margin-left: 20px;
}
.why {
  margin: 0;
  color: var(--coral);
  font-size: 12px;
}
</style>
