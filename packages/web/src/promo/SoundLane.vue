<script setup lang="ts">
import { computed } from 'vue';
import { SAMPLE_RATE, peaks } from '@tender-orbit/core/audio';
import type { PromoSound } from '@tender-orbit/core/document';
import { kitSoundOf, soundSeconds, soundSpan } from '@tender-orbit/core/promo';
import { framesToSeconds, secondsToFrames } from '@tender-orbit/core/time';
import { musicOf } from '../music/music.ts';
import { useCampaign } from '../stores/index.ts';
import { rowsOf, waveOutline } from './layout.ts';
import DraggedBar from './DraggedBar.vue';
import KeyBeads from './KeyBeads.vue';
import type { PromoDrag } from './use-promo-drag.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';

/** Sounds on the time line, in as many rows as they need: each with its wave, and a line where its accent falls. */
const { span, drag } = defineProps<{ span: number; drag: PromoDrag }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
const campaign = useCampaign();
const { promo, chosenItems } = usePromo();

const ROW = 23;
const STEPS = 120;

interface Block {
  sound: PromoSound;
  start: number;
  length: number;
  id: string;
  /** Share of the block at which its accent falls. */
  accent: number;
  wave: string;
}

function waveOf({ source }: PromoSound): string {
  const file = source.kind === 'made' ? kitSoundOf(source.sound, SAMPLE_RATE) : musicOf(source.asset);
  if (!file) return '';
  const from = source.kind === 'made' ? 0 : source.trim;
  const seconds = source.kind === 'made' ? source.sound.seconds : source.seconds;
  const heights = peaks(file, from, from + seconds, STEPS);
  const loudest = heights.reduce((a, b) => Math.max(a, b), 1e-6);
  return waveOutline(
    heights.map((h) => h / loudest),
    1000,
    20,
  );
}
const blocks = computed(() =>
  (promo.value?.sounds ?? []).map((sound): Block => {
    const { from, to } = soundSpan(sound, campaign.rate);
    const [start, end] = [from, to].map((seconds) => secondsToFrames(seconds, campaign.rate));
    const accent = (framesToSeconds(sound.at, campaign.rate) - from) / (to - from);
    return { sound, id: sound.id, start, length: end - start, accent, wave: waveOf(sound) };
  }),
);
const rows = computed(() => rowsOf(blocks.value));
const count = computed(() => Math.max(1, ...[...rows.value.values()].map((row) => row + 1)));
</script>

<template>
  <div class="lane" :style="{ height: `${count * ROW + 4}px` }" data-test="sound-lane">
    <DraggedBar
      v-for="{ sound, start, length, accent, wave } in blocks"
      :id="sound.id"
      :key="sound.id"
      kind="sound"
      class="sound"
      :class="{ off: !sound.on }"
      :label="`Sound ${sound.name}, accent on frame ${sound.at + 1}${sound.on ? '' : ', off'}`"
      :on="chosenItems.includes(sound.id)"
      :start="start"
      :length="length"
      :span="span"
      :top="rows.get(sound.id)! * ROW + 3"
      edges="end"
      data-test="sound"
      :at="sound.at"
      :lasts="soundSeconds(sound)"
      :drag="drag"
      @menu="(event, what) => emit('menu', event, what)"
    >
      <svg viewBox="0 0 1000 20" preserveAspectRatio="none" aria-hidden="true"><path :d="wave" /></svg>
      <i v-if="accent > 0.02" class="accent" :style="{ left: `${accent * 100}%` }" aria-hidden="true" />
      <span class="clip">{{ sound.name }}</span>
      <KeyBeads :thing="sound.id" :length="length" :first="start - sound.at" />
    </DraggedBar>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  overflow: hidden;
}
.sound {
  height: 20px;
  min-width: 10px;
  padding: 0 6px;
  border-radius: 5px;
  background: var(--ink-0);
  font-size: 12px;
}
.sound svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  fill: var(--celadon);
  opacity: 0.45;
  pointer-events: none;
}
.sound span {
  position: relative;
  text-shadow: 0 0 4px #000;
  pointer-events: none;
}
.accent {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--honey);
  pointer-events: none;
}
.off {
  opacity: 0.45;
}
</style>
