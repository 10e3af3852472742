<script setup lang="ts">
import { computed } from 'vue';
import { newPace, setPart, type Clip, type Pace } from '@tender-orbit/core/document';
import { pacePoints, paceToFit } from '@tender-orbit/core/promo';
import PacePoints from './PacePoints.vue';
import RenderedPace from './RenderedPace.vue';
import { usePromo } from './use-promo.ts';
import { CheckField, FieldRow, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';

/** How fast a clip plays its take. */
const { clip, takeLength } = defineProps<{ clip: Clip; takeLength: number }>();
const { run } = usePromo();
const pace = computed(() => clip.pace ?? newPace());
const BETWEEN = optionsOf<Pace['between']>({
  ...{ blend: 'mixed', compensated: 'motion-compensated', nearest: 'the nearest', rendered: 'rendered' },
});

function set(values: Partial<Pace>, gesture = ''): void {
  run(setPart(clip.id, 'Change pace', 'pace', { ...pace.value, ...values }), gesture);
}
/** Plays all of the take that is left from the clip's first frame. */
const fit = (): void => set(paceToFit(clip, takeLength - clip.start));
/** By points, beginning with the speeds that there are; or by the two ends of these. */
function byPoints(on: boolean): void {
  if (on) return set({ points: [...pacePoints({ length: clip.length, pace: pace.value })] });
  const { points: _points, ...ends } = pace.value;
  run(setPart(clip.id, 'Change pace', 'pace', ends));
}
</script>

<template>
  <h3>Pace</h3>
  <CheckField label="Speed by points" :value="pace.points !== undefined" @change="byPoints" />
  <PacePoints v-if="pace.points" :clip="clip" />
  <template v-else>
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
  </template>
  <template v-if="clip.pace">
    <FieldRow label="In between">
      <SelectField
        label="In between"
        :options="BETWEEN"
        :value="pace.between"
        @change="(between) => set({ between })"
      />
    </FieldRow>
    <RenderedPace v-if="pace.between === 'rendered'" :clip="clip" :take-length="takeLength" />
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
