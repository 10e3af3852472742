<script setup lang="ts">
import { computed } from 'vue';
import { newPace, setPart, type Clip, type Pace } from '@tender-orbit/core/document';
import { paceToFit } from '@tender-orbit/core/promo';
import { usePromo } from './use-promo.ts';
import { CheckField, FieldRow, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';

/** How fast a clip plays its take. */
const { clip, takeLength } = defineProps<{ clip: Clip; takeLength: number }>();
const { run } = usePromo();
const pace = computed(() => clip.pace ?? newPace());
const BETWEEN = optionsOf<Pace['between']>({ blend: 'mixed', nearest: 'the nearest' });

function set(values: Partial<Pace>, gesture = ''): void {
  run(setPart(clip.id, 'Change pace', 'pace', { ...pace.value, ...values }), gesture);
}
/** Plays all of the take that is left from the clip's first frame. */
function fit(): void {
  const speed = paceToFit(clip.length, takeLength - clip.start);
  set({ from: speed, to: speed });
}
</script>

<template>
  <h3>Pace</h3>
  <NumberField
    label="At the start"
    unit="%"
    :value="pace.from * 100"
    :min="0"
    :max="10000"
    :step="5"
    :usual="100"
    @change="
      (v, g) =>
        set(clip.pace && clip.pace.from !== clip.pace.to ? { from: v / 100 } : { from: v / 100, to: v / 100 }, g)
    "
  />
  <NumberField
    label="At the end"
    unit="%"
    :value="pace.to * 100"
    :min="0"
    :max="10000"
    :step="5"
    :usual="100"
    @change="(v, g) => set({ to: v / 100 }, g)"
  />
  <template v-if="clip.pace">
    <FieldRow label="In between">
      <SelectField
        label="In between"
        :options="BETWEEN"
        :value="pace.between"
        @change="(between) => set({ between })"
      />
    </FieldRow>
    <CheckField label="Backwards" :value="pace.reverse" @change="(reverse) => set({ reverse })" />
  </template>
  <div class="row">
    <UiButton :disabled="takeLength <= clip.start" tip="Plays the rest of the take within this clip" @click="fit">
      Fit the take
    </UiButton>
    <UiButton v-if="clip.pace" @click="run(setPart(clip.id, 'Natural pace', 'pace', null))">Natural</UiButton>
    <UiButton v-else @click="set({ reverse: true })">Backwards</UiButton>
  </div>
</template>
