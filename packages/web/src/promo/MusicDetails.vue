<script setup lang="ts">
import { ref } from 'vue';
import type { MusicUse } from '@tender-orbit/core/document';
import { tapTempo } from './layout.ts';
import type { Sound } from '@tender-orbit/core/audio';
import MusicLoudness from './MusicLoudness.vue';
import BeatDetails from './BeatDetails.vue';
import { usePromo } from './use-promo.ts';
import { NumberField, UiButton } from '../ui/index.ts';

const { music, track = null } = defineProps<{
  music: MusicUse;
  /** The promo's sound, as it is played. */
  track?: Sound | null;
}>();
const emit = defineEmits<{ swap: [] }>();
const { editMusic } = usePromo();
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
  <NumberField
    label="Gain"
    unit="dB"
    :value="music.gain"
    :min="-60"
    :max="24"
    :step="0.5"
    :usual="0"
    @change="(v, g) => editMusic('Change gain', { gain: v }, g)"
  />
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
  </div>
  <BeatDetails :music="music" />
</template>

<style scoped>
.buttons {
  margin: 6px 0 0 20px;
}
</style>
