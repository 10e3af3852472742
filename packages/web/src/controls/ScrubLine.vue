<script setup lang="ts">
import { mdiPause, mdiPlay } from '@mdi/js';
import { computed, ref } from 'vue';
import { rateLabel, shortTimecode } from '@tender-orbit/core/time';
import { useCampaign, usePlayhead } from '../stores/index.ts';
import { frameByKey } from '../timeline/lane.ts';
import { UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const playhead = usePlayhead();
const line = ref<SVGSVGElement>();
const length = computed(() => campaign.shot?.length ?? 1);
const share = computed(() => (length.value > 1 ? playhead.frame / (length.value - 1) : 0));
const ticks = computed(() => {
  const second = campaign.rate.num / campaign.rate.den;
  return Array.from({ length: Math.ceil(length.value / second) }, (_, i) => ({
    x: (i * second) / Math.max(1, length.value - 1),
    label: `${i} s`,
  }));
});

function seek(event: PointerEvent): void {
  if (event.buttons !== 1) return;
  const box = line.value!.getBoundingClientRect();
  playhead.seek(((event.clientX - box.left) / box.width) * (length.value - 1), length.value);
}
function onKey(event: KeyboardEvent): void {
  const to = frameByKey(event.key, playhead.frame, length.value);
  if (to === null) return;
  playhead.seek(to, length.value);
  event.preventDefault();
}
</script>

<template>
  <div class="scrub row">
    <UiButton
      class="play"
      :aria-label="playhead.playing ? 'Stop' : 'Play'"
      @click="playhead.play(length, campaign.rate)"
    >
      <svg width="18" height="18" viewBox="0 0 24 24" aria-hidden="true">
        <path :d="playhead.playing ? mdiPause : mdiPlay" fill="currentColor" />
      </svg>
    </UiButton>
    <span class="mono time">{{ shortTimecode(playhead.frame, campaign.rate) }}</span>
    <svg
      ref="line"
      class="line"
      tabindex="0"
      role="slider"
      aria-label="Playhead"
      :aria-valuenow="playhead.frame"
      aria-valuemin="0"
      :aria-valuemax="length - 1"
      @pointerdown="seek"
      @pointermove="seek"
      @keydown="onKey"
    >
      <rect y="18" width="100%" height="3" rx="1.5" fill="var(--line)" />
      <g v-for="tick in ticks" :key="tick.label">
        <line
          :x1="`${tick.x * 100}%`"
          :x2="`${tick.x * 100}%`"
          y1="8"
          y2="18"
          stroke="var(--line)"
          stroke-width="1.5"
        />
        <text :x="`${tick.x * 100}%`" dx="5" y="14" class="tick">{{ tick.label }}</text>
      </g>
      <rect y="18" :width="`${share * 100}%`" height="3" rx="1.5" fill="var(--coral)" />
      <circle :cx="`${share * 100}%`" cy="19.5" r="6" fill="var(--coral)" />
    </svg>
    <span class="mono dim">{{ length }} f @ {{ rateLabel(campaign.rate) }}</span>
  </div>
</template>

<style scoped>
.scrub {
  height: 48px;
  padding: 0 8px;
}
.play {
  width: 34px;
  height: 34px;
  padding: 0;
  border-radius: 50%;
  justify-content: center;
}
.time {
  width: 46px;
  color: var(--coral);
}
.line {
  flex: 1;
  height: 34px;
  overflow: visible;
  cursor: pointer;
  touch-action: none;
}
.tick {
  font: 12px var(--mono);
  fill: var(--bone-dim);
}
</style>
