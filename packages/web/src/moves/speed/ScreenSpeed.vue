<script setup lang="ts">
import { computed } from 'vue';
import { percent } from '../../timeline/lane.ts';
import { useScreenSpeed, useSpeedWatch } from './use-screen-speed.ts';

/** How fast the product goes over the picture, frame by frame, and where it strobes. */
const { length } = defineProps<{ length: number }>();
const { speeds, strobing } = useScreenSpeed();
useSpeedWatch();
/** Height of the drawing in its own units. */
const HIGH = 100;
/** Room above the highest value. */
const HEAD = 1.15;
const top = computed(() => Math.max(0.002, ...speeds.value.map(({ speed }) => speed)) * HEAD);
const x = (frame: number): string => ((frame / length) * 1000).toFixed(2);
const y = (value: number): string => (HIGH - (Math.min(value, top.value) / top.value) * HIGH).toFixed(2);
const line = computed(() => speeds.value.map(({ speed }, f) => `${x(f + 0.5)},${y(speed)}`).join(' '));
/** The speed at which it would begin to strobe; out of sight where the shutter leaves no gap. */
const limit = computed(() =>
  speeds.value
    .map(({ speed, gap, feature }, f) => {
      const share = speed > 0 ? gap / speed : 0;
      return `${x(f + 0.5)},${y(share > 0 ? feature / share : Infinity)}`;
    })
    .join(' '),
);
</script>

<template>
  <div class="speed" data-test="screen-speed">
    <i
      v-for="{ from, to, worst } in strobing"
      :key="from"
      class="strobe"
      :style="{ left: percent(from, length), width: percent(to - from, length) }"
      :title="`Strobes: it jumps ${worst.toFixed(1)} times its own feature while the shutter is closed`"
    />
    <svg :viewBox="`0 0 1000 ${HIGH}`" preserveAspectRatio="none" aria-hidden="true">
      <polyline class="limit" :points="limit" />
      <polyline class="line" :points="line" />
    </svg>
  </div>
</template>

<style scoped>
.speed {
  position: relative;
  height: 72px;
  background: var(--ink-0);
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.line,
.limit {
  fill: none;
  stroke: var(--bone);
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
.limit {
  stroke: var(--coral);
  stroke-dasharray: 4 4;
  stroke-width: 1;
}
.strobe {
  position: absolute;
  top: 0;
  bottom: 0;
  background: color-mix(in srgb, var(--coral) 26%, transparent);
}
</style>
