<script setup lang="ts">
import { computed } from 'vue';
import { newTransition, setPart, type Clip, type Transition, type TransitionKind } from '@tender-orbit/core/document';
import { secondsToFrames } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { usePromo } from './use-promo.ts';
import { ColourField, FieldRow, NumberField, SelectField, optionsOf } from '../ui/index.ts';

/** How a clip comes after the one before it. */
const { clip } = defineProps<{ clip: Clip }>();
const campaign = useCampaign();
const { grid, run } = usePromo();
const KINDS = optionsOf<TransitionKind | 'cut'>({
  cut: 'cut',
  dissolve: 'dissolve',
  dip: 'dip to colour',
  flash: 'flash',
  wipe: 'wipe',
  iris: 'iris',
  luma: 'luma wipe',
  push: 'push',
  slide: 'slide over',
  zoom: 'zoom through',
  whip: 'whip',
  leak: 'light leak',
});
const SIDES = optionsOf<'0' | '90' | '180' | '270'>({
  0: 'to the right',
  90: 'upwards',
  180: 'to the left',
  270: 'downwards',
});
const sided = computed(() => clip.into && ['push', 'slide', 'whip'].includes(clip.into.kind));
/** Which kinds ask for more than how long they take. */
const ASKED: Record<'angle' | 'softness' | 'colour', readonly TransitionKind[]> = {
  angle: ['wipe', 'leak'],
  softness: ['wipe', 'iris', 'luma'],
  colour: ['dip', 'leak'],
};
const has = (what: keyof typeof ASKED): boolean => clip.into !== null && ASKED[what].includes(clip.into!.kind);
/** What light that leaks in looks like; a dip goes to black. */
const LEAKING = '#FFB066';
/** Half a beat, or a third of a second where there are none. */
const usual = computed(() =>
  Math.max(2, Math.round(secondsToFrames(grid.value ? 30 / grid.value.tempo : 1 / 3, campaign.rate))),
);

function choose(kind: TransitionKind | 'cut'): void {
  const plain = newTransition(kind === 'cut' ? 'dissolve' : kind, usual.value);
  const into = kind === 'cut' ? null : { ...(clip.into ?? plain), kind };
  if (into && kind === 'leak' && into.colour === plain.colour) into.colour = LEAKING;
  run(setPart(clip.id, kind === 'cut' ? 'Cut' : 'Change transition', 'into', into));
}
function set(values: Partial<Transition>, gesture = ''): void {
  if (clip.into) run(setPart(clip.id, 'Change transition', 'into', { ...clip.into, ...values }), gesture);
}
</script>

<template>
  <FieldRow label="Comes by">
    <SelectField label="Comes by" :options="KINDS" :value="clip.into?.kind ?? 'cut'" @change="choose" />
  </FieldRow>
  <template v-if="clip.into">
    <NumberField
      label="over"
      unit="f"
      :value="clip.into.frames"
      :min="1"
      :max="1000"
      :step="1"
      :usual="usual"
      @change="(v, g) => set({ frames: Math.round(v) }, g)"
    />
    <FieldRow v-if="sided" label="Direction">
      <SelectField
        label="Direction"
        :options="SIDES"
        :value="String((((Math.round(clip.into.angle / 90) % 4) + 4) % 4) * 90) as '0'"
        @change="(side) => set({ angle: Number(side) })"
      />
    </FieldRow>
    <NumberField
      v-if="has('angle')"
      label="Direction"
      unit="°"
      :value="clip.into.angle"
      :min="-360"
      :max="360"
      :step="5"
      :usual="0"
      @change="(v, g) => set({ angle: v }, g)"
    />
    <NumberField
      v-if="has('softness')"
      label="Softness"
      unit="%"
      :value="clip.into.softness * 100"
      :min="0"
      :max="100"
      :step="1"
      :usual="10"
      @change="(v, g) => set({ softness: v / 100 }, g)"
    />
    <ColourField
      v-if="has('colour')"
      label="Colour"
      :value="clip.into.colour"
      @change="(colour, g) => set({ colour }, g)"
    />
  </template>
</template>
