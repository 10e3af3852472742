<script setup lang="ts">
import { computed } from 'vue';
import { percent } from '../timeline/lane.ts';
import { usePromo } from './use-promo.ts';

/** The keys of a clip, title or layer on its bar. */
const {
  thing,
  length,
  first = 0,
} = defineProps<{
  thing: string;
  /** Frames of the bar, and the frame that its keys count from its first. */
  length: number;
  first?: number;
}>();
const { promo } = usePromo();
const frames = computed(() => [
  ...new Set(
    (promo.value?.tracks ?? [])
      .filter((t) => t.thing === thing)
      .flatMap((t) => t.keys.map((k) => k.frame - first).filter((f) => f >= 0 && f < length)),
  ),
]);
</script>

<template>
  <i
    v-for="frame in frames"
    :key="frame"
    class="key"
    :style="{ left: percent(frame + 0.5, length) }"
    aria-hidden="true"
  />
</template>

<style scoped>
.key {
  position: absolute;
  bottom: 1px;
  width: 7px;
  height: 7px;
  margin-left: -3px;
  border: 1px solid var(--ink-0);
  border-radius: 50%;
  background: var(--celadon);
  pointer-events: none;
}
</style>
