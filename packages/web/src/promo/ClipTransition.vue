<script setup lang="ts">
import { computed } from 'vue';
import {
  changeClips,
  newTransition,
  setPart,
  type Clip,
  type Transition,
  type TransitionKind,
} from '@tender-orbit/core/document';
import { placedClips, rollCut } from '@tender-orbit/core/promo';
import { beatsBetween, secondsToFrames } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { usePromo } from './use-promo.ts';
import { ColourField, FieldRow, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';

/** How a clip comes after the one before it. */
const { clip } = defineProps<{ clip: Clip }>();
const campaign = useCampaign();
const { promo, grid, run } = usePromo();
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
  fly: 'fly past',
  whip: 'whip',
  leak: 'light leak',
  smoke: 'smoke',
  logo: 'through a logo',
});
const logos = computed(() => (promo.value?.footage ?? []).map(({ id, name }) => ({ value: id, title: name })));
const logo = computed(() => logos.value.find(({ value }) => value === clip.into?.logo)?.value ?? '');
const SIDES = optionsOf<'0' | '90' | '180' | '270'>({
  0: 'to the right',
  90: 'upwards',
  180: 'to the left',
  270: 'downwards',
});
const sided = computed(() => clip.into && ['push', 'slide', 'whip'].includes(clip.into.kind));
/** Which kinds ask for more than how long they take. */
const ASKED: Record<'angle' | 'softness' | 'colour', readonly TransitionKind[]> = {
  angle: ['wipe', 'leak', 'smoke', 'iris', 'fly'],
  softness: ['wipe', 'iris', 'luma', 'smoke'],
  colour: ['dip', 'leak', 'smoke'],
};
const has = (what: keyof typeof ASKED): boolean => clip.into !== null && ASKED[what].includes(clip.into!.kind);
/** What light that leaks in looks like; a dip goes to black. */
const LEAKING = '#FFB066';
const SMOKE = '#D9D2DC';
const SHAPES = optionsOf<NonNullable<Transition['shape']>>({
  circle: 'circle',
  hexagon: 'hexagon',
  diamond: 'diamond',
  star: 'star',
});
/** Half a beat, or a third of a second where there are none. */
const usual = computed(() =>
  Math.max(2, Math.round(secondsToFrames(grid.value ? 30 / grid.value.tempo : 1 / 3, campaign.rate))),
);

function choose(kind: TransitionKind | 'cut'): void {
  const plain = newTransition(kind === 'cut' ? 'dissolve' : kind, usual.value);
  const into = kind === 'cut' ? null : { ...(clip.into ?? plain), kind };
  if (into && kind === 'leak' && into.colour === plain.colour) into.colour = LEAKING;
  if (into && kind === 'smoke' && into.colour === plain.colour) into.colour = SMOKE;
  run(setPart(clip.id, kind === 'cut' ? 'Cut' : 'Change transition', 'into', into));
}
/** Lengths in beats and bars, where there are any. */
const lengths = computed(() => {
  if (!grid.value) return [];
  const beat = secondsToFrames(60 / grid.value.tempo, campaign.rate);
  const all = [
    ['Half a beat', beat / 2],
    ['A beat', beat],
    ['A bar', beat * grid.value.beatsPerBar],
  ] as const;
  return all.map(([title, frames]) => ({ title, frames: Math.max(1, Math.round(frames)) }));
});
const cut = computed(() => placedClips(promo.value!).find((p) => p.clip.id === clip.id)?.from ?? 0);
/** The beat that is nearest to the cut, if it is not on it. */
const beat = computed(() => {
  if (!grid.value) return null;
  const about = secondsToFrames(60 / grid.value.tempo, campaign.rate);
  const near = beatsBetween(grid.value, campaign.rate, Math.max(0, cut.value - about), cut.value + about);
  const off = near.map(({ frame }) => frame - cut.value).sort((a, b) => Math.abs(a) - Math.abs(b));
  return off.length > 0 && off[0] !== 0 ? off[0] : null;
});
const toBeat = (): void => run(changeClips('Cut on the beat', rollCut(promo.value!, clip.id, beat.value!)));
function set(values: Partial<Transition>, gesture = ''): void {
  if (clip.into) run(setPart(clip.id, 'Change transition', 'into', { ...clip.into, ...values }), gesture);
}
</script>

<template>
  <UiButton
    v-if="beat !== null"
    tip="Moves the cut to the nearest beat; all others stay"
    data-test="cut-to-beat"
    @click="toBeat"
    >Cut to the beat, {{ beat > 0 ? '+' : '' }}{{ beat }} f</UiButton
  >
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
    <div v-if="lengths.length > 0" class="row">
      <UiButton
        v-for="length in lengths"
        :key="length.title"
        :pressed="clip.into.frames === length.frames"
        @click="set({ frames: length.frames })"
        >{{ length.title }}</UiButton
      >
    </div>
    <FieldRow v-if="clip.into.kind === 'iris'" label="Opens in">
      <SelectField
        label="Opens in"
        :options="SHAPES"
        :value="clip.into.shape ?? 'circle'"
        @change="(shape) => set({ shape })"
      />
    </FieldRow>
    <template v-if="clip.into.kind === 'logo'">
      <FieldRow label="Logo">
        <SelectField label="Logo" :options="logos" :value="logo" @change="(to) => set({ logo: to })" />
      </FieldRow>
      <p v-if="!logo" class="dim why">
        {{
          logos.length > 0
            ? 'Choose the picture whose shape the clip is seen through; till then it dissolves.'
            : 'Bring in a picture of the logo under Footage: a PNG that is clear round it, or an SVG. Till then the clip dissolves.'
        }}
      </p>
    </template>
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
    <NumberField
      v-if="clip.into.kind === 'smoke'"
      label="Seed"
      :value="clip.into.seed ?? 1"
      :min="0"
      :max="1000000"
      :step="1"
      @change="(v, g) => set({ seed: Math.round(v) }, g)"
    />
    <ColourField
      v-if="has('colour')"
      label="Colour"
      :value="clip.into.colour"
      @change="(colour, g) => set({ colour }, g)"
    />
  </template>
</template>

<style scoped>
.why {
  margin: 0;
}
</style>
