<script setup lang="ts">
import { type SoundStems } from '@tender-orbit/core/promo';
import { changeStrip, clearMixer, newMixer, type Mixer } from '@tender-orbit/core/document';
import { loudnessCourse, type Sound, type Strip } from '@tender-orbit/core/audio';
import { framesToSeconds } from '@tender-orbit/core/time';
import { computed } from 'vue';
import { useCampaign } from '../stores/index.ts';
import { MoreFields, NumberField, ProgressBar, UiButton } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** The rows that the promo's sound goes through: level at the playhead, gain, pan, tone, compression, hall. */
const { stems } = defineProps<{ stems: SoundStems | null }>();
const campaign = useCampaign();
const { promo, frame, run } = usePromo();
const mixer = computed(() => promo.value?.mixer ?? newMixer());
const ROWS: ReadonlyArray<{ row: keyof Mixer; title: string; of: keyof SoundStems }> = [
  { row: 'music', title: 'Music', of: 'music' },
  { row: 'sounds', title: 'Sounds', of: 'sounds' },
  { row: 'all', title: 'Both together', of: 'out' },
];
interface StripNumber {
  label: string;
  unit: string;
  at: Exclude<keyof Strip, 'muted'>;
  min: number;
  max: number;
  step: number;
  usual: number;
  factor?: number;
}
const MAIN: readonly StripNumber[] = [
  { label: 'Gain', unit: 'dB', at: 'gain', min: -60, max: 24, step: 0.5, usual: 0 },
  { label: 'Pan', unit: '%', at: 'pan', min: -100, max: 100, step: 1, usual: 0, factor: 100 },
];
const TONES: readonly StripNumber[] = [
  { label: 'Low, 150 Hz', unit: 'dB', at: 'low', min: -18, max: 18, step: 0.5, usual: 0 },
  { label: 'Middle, 1 kHz', unit: 'dB', at: 'middle', min: -18, max: 18, step: 0.5, usual: 0 },
  { label: 'High, 6 kHz', unit: 'dB', at: 'high', min: -18, max: 18, step: 0.5, usual: 0 },
  { label: 'Threshold', unit: 'dB', at: 'threshold', min: -60, max: 0, step: 1, usual: 0 },
  { label: 'Ratio', unit: ': 1', at: 'ratio', min: 1, max: 20, step: 0.5, usual: 3 },
  { label: 'Attack', unit: 'ms', at: 'attack', min: 0.1, max: 1000, step: 1, usual: 10, factor: 1000 },
  { label: 'Release', unit: 'ms', at: 'release', min: 5, max: 5000, step: 5, usual: 150, factor: 1000 },
  { label: 'Hall', unit: '%', at: 'hall', min: 0, max: 100, step: 1, usual: 0, factor: 100 },
];

/** Seconds that a meter looks at, and the lowest level that it shows. */
const WINDOW = 0.1;
const LOWEST = -60;
/** The highest peak about the playhead of a channel, dBFS. */
function levelOf(sound: Sound | undefined, side: 'left' | 'right'): number {
  if (!sound) return LOWEST;
  const at = Math.round(framesToSeconds(frame.value, campaign.rate) * sound.sampleRate);
  let most = 0;
  for (const v of sound[side].subarray(at, at + Math.round(WINDOW * sound.sampleRate)))
    if (v > most || -v > most) most = Math.abs(v);
  return Math.max(LOWEST, 20 * Math.log10(Math.max(1e-6, most)));
}
const levels = computed(() =>
  ROWS.map(({ of }) => (['left', 'right'] as const).map((side) => levelOf(stems?.[of], side))),
);
/** Loudness of all of it as it goes on, and at the playhead. */
const course = computed(() => (stems && stems.out.left.length > 0 ? loudnessCourse(stems.out) : null));
const loudness = computed(() => {
  if (!course.value) return null;
  const at = Math.floor(framesToSeconds(frame.value, campaign.rate) * 10);
  const of = (values: Float32Array): string => {
    const value = values[Math.min(at, values.length - 1)];
    return Number.isFinite(value) ? `${value.toFixed(1)} LUFS` : 'silent';
  };
  return { momentary: of(course.value.momentary), shortTerm: of(course.value.shortTerm) };
});
const share = (level: number): number => 1 - level / LOWEST;
const told = (pair: readonly number[]): string => {
  const most = Math.max(...pair);
  return most <= LOWEST ? 'silent' : `${most.toFixed(1)} dB`;
};
const set = (row: keyof Mixer, { at, label, factor = 1 }: StripNumber, value: number, gesture: string): void =>
  run(changeStrip(row, `Change ${label.toLowerCase()} of the mixer`, { [at]: value / factor }), gesture);
</script>

<template>
  <div class="row">
    <h2>Mixer</h2>
    <span class="spread" />
    <UiButton v-if="promo?.mixer" @click="run(clearMixer())">As it comes</UiButton>
  </div>
  <section v-for="({ row, title }, i) in ROWS" :key="row" :aria-label="title" :data-test="`strip-${row}`">
    <div class="row">
      <h3>{{ title }}</h3>
      <span class="spread" />
      <span class="mono dim">{{ told(levels[i]) }}</span>
      <UiButton
        v-if="row !== 'all'"
        :pressed="mixer[row].muted"
        @click="run(changeStrip(row, 'Mute', { muted: !mixer[row].muted }))"
        >Mute</UiButton
      >
    </div>
    <ProgressBar
      v-for="(level, side) in levels[i]"
      :key="side"
      :value="share(level)"
      :label="`${side === 0 ? 'Left' : 'Right'} of ${title.toLowerCase()}, ${level.toFixed(0)} dB`"
    />
    <dl v-if="row === 'all' && loudness" class="mono dim" aria-label="Loudness at the playhead">
      <dt>Momentary, 400 ms</dt>
      <dd>{{ loudness.momentary }}</dd>
      <dt>Short-term, 3 s</dt>
      <dd>{{ loudness.shortTerm }}</dd>
    </dl>
    <NumberField
      v-for="field in MAIN"
      :key="field.at"
      v-bind="field"
      :value="mixer[row][field.at] * (field.factor ?? 1)"
      @change="(v, g) => set(row, field, v, g)"
    />
    <MoreFields title="Tone, compression and hall">
      <NumberField
        v-for="field in TONES"
        :key="field.at"
        v-bind="field"
        :value="mixer[row][field.at] * (field.factor ?? 1)"
        @change="(v, g) => set(row, field, v, g)"
      />
    </MoreFields>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 3px;
  padding-top: 6px;
}
h3 {
  margin: 0;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
  margin: 2px 0;
  font-size: 12px;
}
dd {
  margin: 0;
}
</style>
