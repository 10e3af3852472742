<script setup lang="ts">
import type { Title } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { usePromo } from './use-promo.ts';
import { CheckField, ColourField, FieldRow, MoreFields, NumberField, SelectField } from '../ui/index.ts';

/** What a title's letters are filled with, how its lines break, and the stroke that they go along. */
const { title } = defineProps<{ title: Title }>();
const { promo, editTitle } = usePromo();
const films = computed(() => [
  { value: '', title: promo.value?.footage.length ? 'none' : 'no footage yet' },
  ...(promo.value?.footage ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const strokes = computed(() => [
  { value: '', title: promo.value?.layers.some(({ kind }) => kind === 'stroke') ? 'none' : 'no stroke layer yet' },
  ...(promo.value?.layers ?? []).flatMap((l) => (l.kind === 'stroke' ? [{ value: l.id, title: l.name }] : [])),
]);
const set = (label: string, values: Partial<Title>, gesture = ''): void => editTitle(title.id, label, values, gesture);
</script>

<template>
  <MoreFields title="Filling and lines">
    <FieldRow label="Film in letters">
      <SelectField
        label="Film in letters"
        :options="films"
        :value="title.window?.footage ?? ''"
        :disabled="films.length === 1"
        @change="(footage) => set('Show footage in letters', { window: footage ? { footage, first: 0 } : undefined })"
      />
    </FieldRow>
    <NumberField
      v-if="title.window"
      label="From frame"
      unit="f"
      :value="title.window.first"
      :min="0"
      :max="1799"
      :step="1"
      :usual="0"
      @change="(v, g) => set('Show footage in letters', { window: { ...title.window!, first: Math.round(v) } }, g)"
    />
    <CheckField
      label="Gradient"
      :value="title.fill !== undefined"
      @change="(on) => set('Fill title', { fill: on ? { colour: '#E0A63C', angle: -90 } : undefined })"
    />
    <template v-if="title.fill">
      <ColourField
        label="Goes to"
        :value="title.fill.colour"
        @change="(colour, g) => set('Fill title', { fill: { ...title.fill!, colour } }, g)"
      />
      <NumberField
        label="Direction"
        unit="deg"
        :value="title.fill.angle"
        :min="-360"
        :max="360"
        :step="5"
        :usual="0"
        @change="(angle, g) => set('Fill title', { fill: { ...title.fill!, angle } }, g)"
      />
    </template>
    <NumberField
      label="Line width"
      unit="%"
      :value="(title.measure ?? 0.92) * 100"
      :min="5"
      :max="100"
      :step="1"
      :usual="92"
      @change="(v, g) => set('Set line width', { measure: v === 92 ? undefined : v / 100 }, g)"
    />
    <CheckField
      label="Lines of a like length"
      :value="title.balanced ?? false"
      @change="(on) => set('Balance lines', { balanced: on || undefined })"
    />
    <NumberField
      label="Leading"
      unit="em"
      :value="title.leading ?? 1.15"
      :min="0.3"
      :max="5"
      :step="0.05"
      :usual="1.15"
      @change="(v, g) => set('Set leading', { leading: v === 1.15 ? undefined : v }, g)"
    />
    <CheckField
      label="Kerning"
      :value="!title.unkerned"
      @change="(on) => set('Kern title', { unkerned: on ? undefined : true })"
    />
    <FieldRow label="Along a stroke">
      <SelectField
        label="Along a stroke"
        :options="strokes"
        :value="title.along ?? ''"
        :disabled="strokes.length === 1"
        @change="(along) => set('Lay title along a stroke', { along: along || undefined })"
      />
    </FieldRow>
  </MoreFields>
</template>
