<script setup lang="ts">
import { computed } from 'vue';
import { useEffects } from '../effects/index.ts';

/** Which frames of an effect are simulated, and which are waited for. */
const { id, length } = defineProps<{ id: string; length: number }>();
const effects = useEffects();
const ripe = computed(() => effects.ripe(id));
/** Runs of frames that are alike. */
const runs = computed(() => {
  const found: Array<{ from: number; to: number; ripe: boolean }> = [];
  ripe.value.forEach((is, frame) => {
    const last = found.at(-1);
    if (last?.ripe === is) last.to = frame + 1;
    else found.push({ from: frame, to: frame + 1, ripe: is });
  });
  return found;
});
const share = computed(() => Math.round(effects.share(id) * 100));
const title = computed(() => {
  const problem = effects.problems.get(id);
  if (problem) return problem;
  return share.value === 100
    ? `Simulated, ${effects.levelOf(id)}`
    : `${share.value} % simulated, ${effects.levelOf(id)}`;
});
</script>

<template>
  <div class="ribbon" role="img" :aria-label="title" :title="title" data-test="ripeness">
    <span
      v-for="run in runs"
      :key="run.from"
      :class="{ ripe: run.ripe }"
      :style="{ left: `${(run.from / length) * 100}%`, width: `${((run.to - run.from) / length) * 100}%` }"
    />
  </div>
</template>

<style scoped>
.ribbon {
  position: absolute;
  inset: 9px 0;
  pointer-events: auto;
}
span {
  position: absolute;
  top: 0;
  bottom: 0;
  background: repeating-linear-gradient(115deg, var(--line) 0 3px, transparent 3px 6px);
}
.ripe {
  background: var(--violet);
  opacity: 0.75;
}
</style>
