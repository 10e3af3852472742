<script setup lang="ts">
import { peaks, peaksBetween } from '@tender-orbit/core/audio';
import { framesToSeconds } from '@tender-orbit/core/time';
import { computed } from 'vue';
import { musicOf, peaksOf } from '../music/music.ts';
import { useCampaign } from '../stores/index.ts';
import { PickCard } from '../ui/index.ts';
import { waveOutline } from './layout.ts';
import type { PromoPlayer } from './use-player.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';

/** What is heard, as a waveform, under the name of the music. */
const { player } = defineProps<{ player: PromoPlayer }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>]; music: []; make: [] }>();
const campaign = useCampaign();
const { promo, chosen, length } = usePromo();
const STEPS = 900;
const wave = computed(() => {
  const music = promo.value?.music;
  if (!music) return '';
  const seconds = framesToSeconds(length.value, campaign.rate);
  // Until the music is here what is mixed is all but it.
  const track = musicOf(music.asset) ? player.track.value : null;
  // Peaks are of the file: what is edited waits until it is heard.
  const file = track || music.pieces || music.stretch ? undefined : peaksOf(music.peaks);
  if (!track && !file) return '';
  const heights = track
    ? peaks(track, 0, seconds, STEPS)
    : peaksBetween(file!, music.trim, music.trim + seconds, STEPS);
  // Quiet music still fills its lane; fades stay visible.
  const loudest = heights.reduce((a, b) => Math.max(a, b), 1e-6);
  return waveOutline(
    heights.map((h) => h / loudest),
    1000,
    48,
  );
});
</script>

<template>
  <div class="lane">
    <PickCard
      v-if="promo?.music"
      class="music"
      :on="chosen?.kind === 'music'"
      :label="`Music ${promo.music.name}`"
      @click="chosen = { kind: 'music' }"
      @contextmenu="emit('menu', $event, { kind: 'music' })"
    >
      <svg viewBox="0 0 1000 48" preserveAspectRatio="none" aria-hidden="true">
        <path :d="wave" fill="var(--honey)" fill-opacity="0.75" />
      </svg>
      <span class="clip name">{{ promo.music.name }}</span>
    </PickCard>
    <div v-else class="row none">
      <PickCard class="add dim" data-test="add-music" @click="emit('music')">
        Add music: wav, mp3, ogg, flac or m4a
      </PickCard>
      <PickCard class="add dim" data-test="make-music-lane" @click="emit('make')">Make music for this promo</PickCard>
    </div>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  height: 58px;
  box-shadow: inset 0 -1px var(--ink-0);
}
.music {
  position: absolute;
  inset: 4px 0;
  padding: 0;
  border: 1px solid transparent;
  border-radius: 6px;
  background: var(--ink-0);
  color: var(--bone);
  font: inherit;
  text-align: left;
  overflow: hidden;
}
.music svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.music .name {
  position: absolute;
  left: 8px;
  top: 2px;
  font-size: 12px;
  text-shadow: 0 0 4px #000;
}
.none {
  position: absolute;
  inset: 4px 0;
  align-items: stretch;
}
.add {
  flex: 1;
  border: 1px dashed var(--line);
  text-align: center;
}
</style>
