<script setup lang="ts">
import { doubled, halved, offBeat, shifted, throughTwo, twoThirds, type CountedBeats } from '@tender-orbit/core/audio';
import type { MusicUse } from '@tender-orbit/core/document';
import { fileSeconds } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { computed, ref, toRaw } from 'vue';
import { useMusic } from '../music/use-music.ts';
import { useCampaign } from '../stores/index.ts';
import { NumberField, UiButton } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** The beats of the music: found by listening, and put right by one press each. */
const { music } = defineProps<{ music: MusicUse }>();
const campaign = useCampaign();
const { frame } = usePromo();
const { listening, listen, count } = useMusic();
const found = computed(() => music.beats.length > 1);
const counted = (): CountedBeats => {
  const { beats, beatsPerBar, downbeat } = toRaw(music);
  return { beats: [...beats], beatsPerBar, downbeat };
};
const CORRECTIONS: ReadonlyArray<{ title: string; tip: string; make: (c: CountedBeats) => CountedBeats }> = [
  { title: 'Half', tip: 'Every other beat counts', make: halved },
  { title: 'Double', tip: 'One more beat between every two', make: doubled },
  { title: 'Two thirds', tip: 'Two beats for every three', make: twoThirds },
  { title: 'Off-beat', tip: 'All beats half a beat later', make: offBeat },
  { title: 'Bar a beat later', tip: 'The next beat begins the bar', make: (c) => shifted(c, 1) },
];
/** The first of two beats that a person sets, seconds into the music. */
const first = ref<number | null>(null);
const between = ref(4);
const here = (): number => fileSeconds(music, framesToSeconds(frame.value, campaign.rate) + music.trim);
function setBeat(): void {
  if (first.value === null) {
    first.value = here();
    return;
  }
  const [from, to] = [first.value, here()];
  first.value = null;
  if (Math.abs(to - from) < 0.1) return;
  const last = music.beats.at(-1) ?? 0;
  count('Set beats by two points', throughTwo(from, to, between.value, Math.max(last, to) + 0.5));
}
</script>

<template>
  <div class="beats" aria-label="Beats" role="group">
    <p class="dim">
      {{
        found
          ? `${music.beats.length} beats, ${music.tempo} bpm, ${music.beatsPerBar} in a bar`
          : 'Beats are even, by tempo and first beat.'
      }}
    </p>
    <div class="row wrap">
      <UiButton tone="primary" :busy="listening" data-test="find-beats" @click="listen">
        {{ found ? 'Find beats again' : 'Find beats' }}
      </UiButton>
      <template v-if="found">
        <UiButton
          v-for="{ title, tip, make } in CORRECTIONS"
          :key="title"
          :tip="tip"
          @click="count(title, make(counted()))"
        >
          {{ title }}
        </UiButton>
      </template>
    </div>
    <div class="row wrap">
      <UiButton tip="Put the playhead on a beat, press, go to a later one, press again" @click="setBeat">
        {{ first === null ? 'Beat here' : 'And here' }}
      </UiButton>
      <NumberField
        v-if="first !== null"
        label="Beats between"
        :step="1"
        :min="1"
        :max="1000"
        :value="between"
        @change="(v) => (between = Math.round(v))"
      />
    </div>
  </div>
</template>

<style scoped>
.beats {
  display: grid;
  gap: 6px;
  margin: 8px 0 0 20px;
}
p {
  margin: 0;
}
.wrap {
  flex-wrap: wrap;
}
</style>
