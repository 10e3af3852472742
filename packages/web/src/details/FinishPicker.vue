<script setup lang="ts">
import { FINISH_LIBRARY, linearToHex, type Finish } from '@tender-orbit/core/finish';
import { ballOf } from '../products/looks.ts';

/** Ready finishes as lit balls, by group. */
const emit = defineEmits<{ pick: [finish: Finish] }>();
const groups = [...new Set(FINISH_LIBRARY.map((f) => f.group))];
/** Stands for a ball while it is being traced. */
function plain(f: Finish): string {
  return linearToHex(f.attenuationDistance > 0 ? f.attenuationColor : f.baseColor);
}
</script>

<template>
  <div class="library" data-test="finish-library">
    <template v-for="group in groups" :key="group">
      <h4>{{ group }}</h4>
      <div class="balls">
        <button
          v-for="{ finish } in FINISH_LIBRARY.filter((e) => e.group === group)"
          :key="finish.name"
          type="button"
          class="ball"
          @click="emit('pick', finish)"
        >
          <img v-if="ballOf(finish)" :src="ballOf(finish)!" width="44" height="44" alt="" />
          <span v-else class="disc" :style="{ background: plain(finish) }" />
          <span class="clip">{{ finish.name }}</span>
        </button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.library {
  margin: 6px -6px;
  padding: 2px 6px;
  border-radius: 8px;
  background: var(--ink-0);
}
h4 {
  margin: 6px 0 0;
  font-weight: 560;
  color: var(--bone-dim);
}
.balls {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 4px;
}
.ball {
  display: grid;
  justify-items: center;
  gap: 3px;
  min-width: 0;
  padding: 5px 2px 3px;
  border: 0;
  border-radius: 8px;
  background: transparent;
  color: var(--bone-dim);
  font: inherit;
  font-size: 12px;
  cursor: pointer;
}
.ball:hover {
  background: var(--ink-2);
}
.ball .clip {
  max-width: 100%;
}
img,
.disc {
  width: 44px;
  height: 44px;
  border-radius: 50%;
}
</style>
