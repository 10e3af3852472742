<script setup lang="ts">
import { newMove, setPart, type Clip, type ClipMove, type Placement } from '@tender-orbit/core/document';
import { usePromo } from './use-promo.ts';
import { CheckField, FieldRow, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';

/** How a clip's picture moves in the frame. */
const { clip } = defineProps<{ clip: Clip }>();
const { run } = usePromo();
const EASES = optionsOf<ClipMove['ease']>({ linear: 'evenly', smooth: 'soft start and end', land: 'soft landing' });
const FILLS = optionsOf<NonNullable<Clip['fill']> | 'bars'>({
  bars: 'between bars',
  cropped: 'cropped',
  blurred: 'over itself, blurred',
});
const setFill = (fill: NonNullable<Clip['fill']> | 'bars'): void =>
  run(setPart(clip.id, 'Fill the frame', 'fill', fill === 'bars' ? null : fill));
const SIDES = { from: 'First frame', to: 'Last frame' } as const;
const FIELDS = [
  { key: 'scale', label: 'Scale', unit: '%', per: 100, min: 1, max: 10000, step: 1, usual: 100 },
  { key: 'x', label: 'Across', unit: '%', per: 100, min: -1000, max: 1000, step: 1, usual: 0 },
  { key: 'y', label: 'Up', unit: '%', per: 100, min: -1000, max: 1000, step: 1, usual: 0 },
  { key: 'rotation', label: 'Rotation', unit: '°', per: 1, min: -3600, max: 3600, step: 1, usual: 0 },
] as const satisfies ReadonlyArray<{ key: keyof Placement } & Record<string, unknown>>;

function set(values: Partial<ClipMove>, gesture = ''): void {
  run(setPart(clip.id, 'Move picture', 'move', { ...(clip.move ?? newMove()), ...values }), gesture);
}
</script>

<template>
  <h3>Picture</h3>
  <FieldRow label="Fills">
    <SelectField label="Fills" :options="FILLS" :value="clip.fill ?? 'bars'" @change="setFill" />
  </FieldRow>
  <template v-if="clip.move">
    <template v-for="(title, side) in SIDES" :key="side">
      <h4 class="dim">{{ title }}</h4>
      <NumberField
        v-for="field in FIELDS"
        :key="field.key"
        :label="field.label"
        :unit="field.unit"
        :value="clip.move[side][field.key] * field.per"
        :min="field.min"
        :max="field.max"
        :step="field.step"
        :usual="field.usual"
        @change="(v, g) => set({ [side]: { ...clip.move![side], [field.key]: v / field.per } }, g)"
      />
    </template>
    <FieldRow label="Goes">
      <SelectField label="Goes" :options="EASES" :value="clip.move.ease" @change="(ease) => set({ ease })" />
    </FieldRow>
    <CheckField label="Never leaves a corner empty" :value="clip.move.cover" @change="(cover) => set({ cover })" />
    <UiButton class="off" @click="run(setPart(clip.id, 'Picture at rest', 'move', null))">At rest</UiButton>
  </template>
  <UiButton v-else class="off" tip="Grows by 8 % over the clip; all of it can be changed" @click="set({})">
    Slow push
  </UiButton>
</template>

<style scoped>
h4 {
  margin: 4px 0 0 20px;
  font: inherit;
}
.off {
  justify-self: start;
}
</style>
