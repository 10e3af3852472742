<script setup lang="ts">
import { computed } from 'vue';
import { beatsBetween, type BeatGrid, type FrameRate } from '@tender-orbit/core/time';
import { percent } from './lane.ts';

/** Beat lines and the playhead, laid faintly over all lanes. */
const { length, rate, grid, frame } = defineProps<{
  length: number;
  rate: FrameRate;
  grid: BeatGrid | null;
  frame: number;
}>();
const beats = computed(() => (grid ? beatsBetween(grid, rate, 0, length) : []));
</script>

<template>
  <div class="lines" aria-hidden="true">
    <i
      v-for="beat in beats"
      :key="beat.frame"
      :class="{ down: beat.beat === 1 }"
      :style="{ left: percent(beat.frame, length) }"
    />
    <i class="head" :style="{ left: percent(frame, length) }" />
  </div>
</template>

<style scoped>
.lines {
  position: absolute;
  inset: 0;
  pointer-events: none;
  z-index: 2;
}
i {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 1px;
  background: var(--honey);
  opacity: 0.13;
}
i.down {
  opacity: 0.36;
}
i.head {
  width: 2px;
  margin-left: -1px;
  background: var(--coral);
  opacity: 1;
}
</style>
