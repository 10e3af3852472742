<script setup lang="ts">
import { computed, ref, toRaw } from 'vue';
import { LOW_PASS, MUSIC_PROPERTIES, MUSIC_THING, type MusicUse } from '@tender-orbit/core/document';
import { fitMusic, keyedValues, loopMusic } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { musicOf } from '../music/music.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import KeyEase from './KeyEase.vue';
import KeyedFields from './KeyedFields.vue';
import { tapTempo } from './layout.ts';
import type { Sound } from '@tender-orbit/core/audio';
import MusicLoudness from './MusicLoudness.vue';
import BeatDetails from './BeatDetails.vue';
import { useKeyedValues } from './use-keyed-values.ts';
import { usePromo } from './use-promo.ts';
import { NumberField, UiButton } from '../ui/index.ts';

const { music, track = null } = defineProps<{
  music: MusicUse;
  /** The promo's sound, as it is played. */
  track?: Sound | null;
}>();
const emit = defineEmits<{ swap: []; make: [] }>();
const { promo, frame, length, editMusic } = usePromo();
const campaign = useCampaign();
const notices = useNotices();
const file = computed(() => musicOf(music.asset));

type MusicValues = Record<keyof typeof MUSIC_PROPERTIES, number>;
const keys = useKeyedValues<MusicValues>({
  ...{ thing: () => MUSIC_THING, noun: 'music', properties: MUSIC_PROPERTIES },
  span: () => ({ start: 0, length: length.value }),
  values: () => {
    const own = { gain: music.gain, lowPass: music.lowPass ?? LOW_PASS.most };
    const tracks = (promo.value?.tracks ?? []).filter((t) => t.thing === MUSIC_THING);
    return keyedValues(own, tracks, MUSIC_PROPERTIES, toRaw(promo.value!));
  },
  // Open at its end a low-pass is none.
  plain: (label, { lowPass, ...rest }, gesture) =>
    editMusic(
      label,
      { ...rest, ...(lowPass !== undefined && { lowPass: lowPass >= LOW_PASS.most ? undefined : lowPass }) },
      gesture,
    ),
});
/** Cuts or repeats bars until the music ends with the cut, or begins again and again until it is over. */
function fit(label: string, by: typeof fitMusic, loops?: true): void {
  if (!file.value) return;
  try {
    const pieces = by(toRaw(music), file.value, framesToSeconds(length.value, campaign.rate));
    editMusic(label, { pieces: pieces ?? undefined, loops: pieces ? loops : undefined });
    if (!pieces) notices.done('The music is as long as the cut already.');
  } catch (error) {
    notices.problem(error);
  }
}
const taps = ref<number[]>([]);

/** Four taps give a tempo; a pause of two seconds begins anew. */
function tap(): void {
  const now = performance.now();
  taps.value = [...(now - (taps.value.at(-1) ?? -1e9) > 2000 ? [] : taps.value), now].slice(-16);
  const tempo = tapTempo(taps.value);
  if (tempo > 0) editMusic('Tap tempo', { tempo: Math.min(400, tempo), beats: [] }, `tap-${taps.value[0]}`);
}
</script>

<template>
  <h2 class="clip">{{ music.name }}</h2>
  <NumberField
    label="Starts at"
    unit="s"
    :value="music.trim"
    :min="0"
    :max="36000"
    :step="0.1"
    :usual="0"
    @change="(v, g) => editMusic('Trim music', { trim: v }, g)"
  />
  <KeyedFields :of="keys" :properties="MUSIC_PROPERTIES" :paths="['gain', 'lowPass']" />
  <KeyEase :thing="MUSIC_THING" :frame="frame" />
  <NumberField
    label="Stretch"
    unit="%"
    :value="(music.stretch ?? 1) * 100"
    :min="50"
    :max="200"
    :step="1"
    :usual="100"
    @change="(v, g) => editMusic('Stretch music', { stretch: v === 100 ? undefined : v / 100 }, g)"
  />
  <div class="row buttons">
    <UiButton
      :disabled="!file"
      tip="Whole bars are cut out or played again where they sound alike, so that it ends with the cut"
      data-test="fit-music"
      @click="fit('Fit music to the cut', fitMusic)"
      >Fit to the cut</UiButton
    >
    <UiButton
      :disabled="!file"
      tip="It begins again at its first bar each time that it is over, until the cut is, however long that becomes"
      :pressed="music.loops === true"
      data-test="loop-music"
      @click="fit('Loop music', loopMusic, true)"
      >Loop</UiButton
    >
    <UiButton v-if="music.pieces" @click="editMusic('Whole music', { pieces: undefined, loops: undefined })"
      >All of it</UiButton
    >
  </div>
  <NumberField
    label="Fade in"
    unit="s"
    :value="music.fadeIn"
    :min="0"
    :max="600"
    :step="0.1"
    :usual="0"
    @change="(v, g) => editMusic('Fade in', { fadeIn: v }, g)"
  />
  <NumberField
    v-if="!music.ring"
    label="Fade out"
    unit="s"
    :value="music.fadeOut"
    :min="0"
    :max="600"
    :step="0.1"
    :usual="1"
    @change="(v, g) => editMusic('Fade out', { fadeOut: v }, g)"
  />
  <NumberField
    label="Rings out"
    unit="s"
    :value="music.ring ?? 0"
    :min="0"
    :max="20"
    :step="0.1"
    :usual="0"
    @change="(v, g) => editMusic('Ring out', { ring: v }, g)"
  />
  <MusicLoudness :music="music" :track="track" />
  <NumberField
    label="Tempo"
    unit="bpm"
    :value="music.tempo"
    :min="0"
    :max="400"
    :step="0.1"
    @change="(v, g) => editMusic('Set tempo', { tempo: v, beats: [] }, g)"
  />
  <NumberField
    label="First beat"
    unit="s"
    :value="music.firstBeat"
    :min="-60"
    :max="3600"
    :step="0.01"
    :usual="0"
    @change="(v, g) => editMusic('Set first beat', { firstBeat: v, beats: [] }, g)"
  />
  <div class="row buttons">
    <UiButton tip="Press on the beat, four times or more" @click="tap">Tap the beat</UiButton>
    <UiButton @click="emit('swap')">Change music</UiButton>
    <UiButton data-test="make-other-music" @click="emit('make')">Make music</UiButton>
  </div>
  <BeatDetails :music="music" />
</template>

<style scoped>
.buttons {
  flex-wrap: wrap;
  margin: 6px 0 0 20px;
}
</style>
