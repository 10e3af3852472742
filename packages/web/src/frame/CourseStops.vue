<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useCourseFacts } from './course-facts.ts';
import { STATIONS } from './stations.ts';

/** The stations in working order, each with its fact and how far its work is. */
const { root } = defineProps<{ /** Address of the campaign. */ root: string }>();
const route = useRoute();
const facts = useCourseFacts();
const current = computed(() => route.path.split('/').pop());
const RING = 2 * Math.PI * 6;
</script>

<template>
  <nav class="course" aria-label="Stations">
    <router-link
      v-for="stop in STATIONS"
      :key="stop.path"
      :to="`${root}/${stop.path}`"
      class="stop"
      :class="{ here: current === stop.path }"
      :aria-current="current === stop.path ? 'page' : undefined"
    >
      <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true">
        <circle
          r="6"
          :fill="(facts[stop.path]?.done ?? 0) >= 1 ? 'var(--celadon)' : 'var(--ink-0)'"
          stroke="var(--line)"
          stroke-width="2.5"
        />
        <circle
          v-if="facts[stop.path]?.done"
          r="6"
          fill="none"
          stroke="var(--celadon)"
          stroke-width="2.5"
          :stroke-dasharray="`${RING * (facts[stop.path]?.done ?? 0)} ${RING}`"
          transform="rotate(-90)"
        />
        <circle v-if="current === stop.path" r="11.5" fill="none" stroke="var(--bone)" stroke-width="1.3" />
      </svg>
      <span class="name">{{ stop.name }}</span>
      <span class="fact clip">{{ facts[stop.path]?.text ?? '' }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.course {
  position: relative;
  display: flex;
  justify-content: center;
  width: 100%;
  max-width: 850px;
  margin: 0 auto;
}
.course::before {
  content: '';
  position: absolute;
  top: 12px;
  left: 8%;
  right: 8%;
  height: 2px;
  background: var(--line);
}
.stop {
  position: relative;
  flex: 0 1 118px;
  min-width: 0;
  display: grid;
  justify-items: center;
  color: #cfc7db;
  text-decoration: none;
  border-radius: 8px;
}
.stop:hover .name {
  color: #fff;
}
.name {
  line-height: 15px;
}
.here .name {
  color: var(--bone);
  font-weight: 660;
}
.fact {
  font-size: 12px;
  line-height: 15px;
  color: var(--bone-dim);
  max-width: 100%;
}
</style>
