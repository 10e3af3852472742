<script setup lang="ts">
import { ownPeaks } from '@tender-orbit/core/promo';
import { computed } from 'vue';
import { musicOf } from '../music/music.ts';
import { waveOutline } from './layout.ts';
import { usePromo } from './use-promo.ts';

/** What of a film is heard with its picture, as a waveform along the foot of its clip. */
const { id, shows } = defineProps<{ id: string; /** The footage that it shows. */ shows: string }>();
const { promo } = usePromo();
const STEPS = 160;
const HIGH = 18;
const wave = computed(() => {
  const film = promo.value?.footage.find((f) => f.id === shows);
  const sound = musicOf(film?.sound);
  if (!promo.value || !film?.rate || !sound) return '';
  const heights = Array.from(ownPeaks(promo.value, id, { sound, rate: film.rate }, STEPS) ?? []);
  const loudest = heights.reduce((a, b) => Math.max(a, b), 1e-6);
  return waveOutline(
    heights.map((h) => h / loudest),
    1000,
    HIGH,
  );
});
</script>

<template>
  <svg v-if="wave" class="wave" :viewBox="`0 0 1000 ${HIGH}`" preserveAspectRatio="none" aria-hidden="true">
    <path :d="wave" />
  </svg>
</template>

<style scoped>
.wave {
  position: absolute;
  inset: auto 0 0;
  width: 100%;
  height: 18px;
  background: color-mix(in srgb, var(--ink-0) 60%, transparent);
  fill: var(--celadon);
  pointer-events: none;
}
</style>
