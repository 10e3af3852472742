<script setup lang="ts">
import { FINISH_LIBRARY, type Finish } from '@tender-orbit/core/finish';
import FinishBall from '../../products/FinishBall.vue';

/** Ready finishes as lit balls, by group. */
const emit = defineEmits<{ pick: [finish: Finish] }>();
const groups = [...new Set(FINISH_LIBRARY.map((f) => f.group))];
</script>

<template>
  <div class="library" data-test="finish-library">
    <template v-for="group in groups" :key="group">
      <h4>{{ group }}</h4>
      <div class="balls">
        <FinishBall
          v-for="{ finish } in FINISH_LIBRARY.filter((e) => e.group === group)"
          :key="finish.name"
          :finish="finish"
          @click="emit('pick', finish)"
        />
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
</style>
