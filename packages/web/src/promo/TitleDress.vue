<script setup lang="ts">
import { computed } from 'vue';
import { newDress, setPart, type Title, type TitleDress } from '@tender-orbit/core/document';
import { usePromo } from './use-promo.ts';
import { ColourField, MoreFields, NumberField, UiButton } from '../ui/index.ts';

/** What a title wears besides its letters: an outline, a shadow or glow, a box. */
const { title } = defineProps<{ title: Title }>();
const { run } = usePromo();
const dress = computed(() => title.dress ?? newDress());

type Amount = { [K in keyof TitleDress]: TitleDress[K] extends number ? K : never }[keyof TitleDress];
interface Row {
  key: Amount;
  label: string;
  min?: number;
  max: number;
  usual: number;
}
/** Rows of one thing, the first of which turns it on, with its colour. */
const GROUPS: ReadonlyArray<{ colour: keyof TitleDress; name: string; rows: Row[] }> = [
  { colour: 'outlineColour', name: 'Line tint', rows: [{ key: 'outline', label: 'Outline', max: 100, usual: 0 }] },
  {
    ...{ colour: 'shadowColour', name: 'Shadow tint' },
    rows: [
      { key: 'shadow', label: 'Shadow', max: 100, usual: 0 },
      { key: 'shadowBlur', label: 'Softness', max: 300, usual: 25 },
      { key: 'shadowDown', label: 'Below', min: -300, max: 300, usual: 5 },
    ],
  },
  {
    ...{ colour: 'boxColour', name: 'Box tint' },
    rows: [
      { key: 'box', label: 'Box', max: 100, usual: 0 },
      { key: 'boxPadding', label: 'Padding', max: 300, usual: 35 },
      { key: 'boxRadius', label: 'Corners', max: 300, usual: 20 },
    ],
  },
];

function set(values: Partial<TitleDress>, gesture = ''): void {
  run(setPart(title.id, 'Dress title', 'dress', { ...dress.value, ...values }), gesture);
}
</script>

<template>
  <MoreFields title="Outline, shadow, box">
    <template v-for="{ colour, name, rows } in GROUPS" :key="colour">
      <template v-for="(row, i) in rows" :key="row.key">
        <NumberField
          v-if="i === 0 || dress[rows[0].key] > 0"
          :label="row.label"
          unit="%"
          :value="dress[row.key] * 100"
          :min="row.min ?? 0"
          :max="row.max"
          :step="1"
          :usual="row.usual"
          @change="(v, g) => set({ [row.key]: v / 100 }, g)"
        />
      </template>
      <ColourField
        v-if="dress[rows[0].key] > 0"
        :label="name"
        :value="String(dress[colour])"
        @change="(v, g) => set({ [colour]: v }, g)"
      />
    </template>
    <UiButton v-if="title.dress" @click="run(setPart(title.id, 'Plain title', 'dress', null))">Plain letters</UiButton>
  </MoreFields>
</template>
