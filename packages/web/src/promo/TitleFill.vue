<script setup lang="ts">
import type { Title } from '@tender-orbit/core/document';
import { usePromo } from './use-promo.ts';
import { CheckField, ColourField, MoreFields, NumberField } from '../ui/index.ts';

/** What a title's letters are filled with, how its lines break, and the arc that they lie on. */
const { title } = defineProps<{ title: Title }>();
const { editTitle } = usePromo();
const set = (label: string, values: Partial<Title>, gesture = ''): void => editTitle(title.id, label, values, gesture);
</script>

<template>
  <MoreFields title="Gradient and lines">
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
      label="Bend"
      unit="deg"
      :value="title.bend ?? 0"
      :min="-360"
      :max="360"
      :step="5"
      :usual="0"
      @change="(v, g) => set('Bend title', { bend: v === 0 ? undefined : v }, g)"
    />
  </MoreFields>
</template>
