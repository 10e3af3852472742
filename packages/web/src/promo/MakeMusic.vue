<script setup lang="ts">
import { mdiPlay, mdiStop } from '@mdi/js';
import { computed, ref, shallowRef, watch } from 'vue';
import {
  ENERGIES,
  MOODS,
  MUSIC_STYLES,
  peaks,
  TRACK_LIMITS,
  type Energy,
  type MoodName,
  type MusicStyle,
  type TrackPlan,
} from '@tender-orbit/core/audio';
import { promoLength } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { makeMusic, type MadeMusic } from '../music/make-music.ts';
import { useMusic } from '../music/use-music.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { DialogCard, FieldRow, IconButton, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';
import { waveOutline } from './layout.ts';
import { useAudition } from './use-audition.ts';
import { usePromo } from './use-promo.ts';

/** Music made for the promo: how it is to be, heard before it is taken. */
const { open } = defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const campaign = useCampaign();
const notices = useNotices();
const { promo, chosen } = usePromo();
const { uploading, bring } = useMusic();
const audition = useAudition();

const named = <V extends string>(values: readonly V[]) =>
  values.map((value) => ({ value, title: value.replace(/^./, (letter) => letter.toUpperCase()) }));
const STYLES = optionsOf<MusicStyle>({ heath: 'Heath: mallets and brushes', pulse: 'Pulse: plucked, with a beat' });
const style = ref<MusicStyle>(MUSIC_STYLES[0]);
const mood = ref<MoodName>('warm');
const energy = ref<Energy>('build and drop');
const tempo = ref(96);
const seconds = ref(15);
const seed = ref(1);
const made = shallowRef<MadeMusic | null>(null);
const working = ref(false);
let wanted: AbortController | null = null;

watch(
  () => open,
  (now) => {
    audition.stop();
    if (!now || !promo.value) {
      wanted?.abort();
      return;
    }
    const there = framesToSeconds(promoLength(promo.value), campaign.rate);
    if (there >= TRACK_LIMITS.seconds[0]) seconds.value = Math.round(there * 1000) / 1000;
  },
);
const plan = computed((): TrackPlan => ({
  ...{ style: style.value, mood: mood.value, energy: energy.value },
  ...{ tempo: tempo.value, seconds: seconds.value, seed: seed.value },
}));
watch(plan, () => {
  made.value = null;
  wanted?.abort();
  audition.stop();
});
const bars = computed(() => Math.max(2, Math.round((seconds.value * tempo.value) / 240)));
const wave = computed(() => {
  if (!made.value) return '';
  const { sound } = made.value.made;
  const heights = peaks(sound, 0, sound.left.length / sound.sampleRate, 400);
  return waveOutline([...heights], 400, 40);
});

/** Makes what is asked for, if it is not there. */
async function make(): Promise<MadeMusic | null> {
  if (made.value) return made.value;
  wanted?.abort();
  const own = (wanted = new AbortController());
  working.value = true;
  try {
    return (made.value = await makeMusic(plan.value, own.signal));
  } catch (error) {
    if (!own.signal.aborted) notices.problem(error);
    return null;
  } finally {
    if (wanted === own) working.value = false;
  }
}
async function listen(): Promise<void> {
  if (audition.playing.value) {
    audition.stop();
    return;
  }
  const music = await make();
  if (music) audition.play(music.made.sound);
}
async function take(): Promise<void> {
  const music = await make();
  if (!music) return;
  audition.stop();
  const { tempo: exact, beats, sections } = music.made;
  const name = `${mood.value} ${style.value} ${seed.value}`.replace(/^./, (letter) => letter.toUpperCase());
  const file = new File([music.wav as Uint8Array<ArrayBuffer>], `${name}.wav`, { type: 'audio/wav' });
  // Its beats are known: nobody needs to listen for them.
  await bring(file, {
    ...{ tempo: Number(exact.toFixed(2)), beats, sections, beatsPerBar: 4, downbeat: 0, firstBeat: 0, fadeOut: 0 },
  });
  if (promo.value?.music) chosen.value = { kind: 'music' };
  emit('close');
}
</script>

<template>
  <DialogCard :open="open" title="Make music" data-test="make-music" @close="emit('close')">
    <FieldRow label="Style"
      ><SelectField label="Style" :options="STYLES" :value="style" @change="(v) => (style = v)"
    /></FieldRow>
    <FieldRow label="Mood"
      ><SelectField label="Mood" :options="named(MOODS)" :value="mood" @change="(v) => (mood = v)"
    /></FieldRow>
    <FieldRow label="Energy"
      ><SelectField label="Energy" :options="named(ENERGIES)" :value="energy" @change="(v) => (energy = v)"
    /></FieldRow>
    <NumberField
      label="Tempo"
      unit="bpm"
      :value="tempo"
      :min="TRACK_LIMITS.tempo[0]"
      :max="TRACK_LIMITS.tempo[1]"
      :step="1"
      :usual="96"
      @change="(v) => (tempo = v)"
    />
    <NumberField
      label="Length"
      unit="s"
      :value="seconds"
      :min="TRACK_LIMITS.seconds[0]"
      :max="TRACK_LIMITS.seconds[1]"
      :step="0.5"
      @change="(v) => (seconds = v)"
    />
    <NumberField label="Seed" :value="seed" :min="0" :max="9999" :step="1" @change="(v) => (seed = Math.round(v))" />
    <p class="dim">
      {{ bars }} bars at {{ ((bars * 240) / seconds).toFixed(1) }} bpm fill that length; the last one ends it and rings
      out.
    </p>
    <div class="heard">
      <IconButton
        :icon="audition.playing.value ? mdiStop : mdiPlay"
        :label="audition.playing.value ? 'Stop' : 'Listen'"
        data-test="listen"
        @click="listen"
      />
      <svg v-if="wave" viewBox="0 0 400 40" preserveAspectRatio="none" aria-hidden="true">
        <path :d="wave" fill="var(--honey)" />
      </svg>
      <span v-else class="dim" role="status">{{ working ? 'Making it...' : 'Listen to make it' }}</span>
    </div>
    <template #end>
      <UiButton @click="seed = seed + 1">Another</UiButton>
      <UiButton tone="primary" :disabled="working || uploading !== null" data-test="take-music" @click="take">{{
        uploading ? 'Bringing it in...' : 'Use it'
      }}</UiButton>
    </template>
  </DialogCard>
</template>

<style scoped>
.heard {
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: 10px;
  height: 44px;
}
svg {
  width: 100%;
  height: 40px;
}
</style>
