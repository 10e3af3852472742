<script setup lang="ts">
import { computed } from 'vue';
import { usePlayhead } from '../stores/index.ts';
import { useTrail } from '../things/use-trail.ts';
import PlanDot from './PlanDot.vue';

/** Keyed places of the chosen thing on its way, from above. */
const { scale } = defineProps<{ scale: number }>();
const playhead = usePlayhead();
const { trail, put } = useTrail();
const dots = computed(() =>
  (trail.value?.keys ?? []).map((frame) => ({ frame, at: trail.value!.points[Math.round(frame)] })),
);
</script>

<template>
  <PlanDot
    v-for="{ frame, at } in dots"
    :key="frame"
    :class="{ here: Math.abs(frame - playhead.frame) < 0.5 }"
    :x="at[0]"
    :z="at[2]"
    :scale="scale"
    :size="3"
    square
    :name="`Key at frame ${Math.round(frame) + 1}`"
    data-test="trail-key"
    @put="(x, z, gesture) => put(frame, [x, at[1], z], gesture)"
  />
</template>
