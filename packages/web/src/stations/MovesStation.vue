<script setup lang="ts">
import { ref } from 'vue';
import PanelEdge from '../controls/PanelEdge.vue';
import DetailsPanel from '../details/DetailsPanel.vue';
import OrbitPlan from '../plan/OrbitPlan.vue';
import KeyDetails from '../timeline/KeyDetails.vue';
import MovesTimeline from '../timeline/MovesTimeline.vue';
import RecipePanel from '../timeline/RecipePanel.vue';
import StageViewer from '../viewer/StageViewer.vue';

const left = ref(204);
const right = ref(320);
</script>

<template>
  <div class="moves" :style="{ gridTemplateColumns: `${left}px 8px 1fr 8px ${right}px` }">
    <RecipePanel />
    <PanelEdge v-model="left" name="moves-left" :usual="204" side="left" />
    <StageViewer />
    <PanelEdge v-model="right" name="moves-right" :usual="320" side="right" />
    <div class="side scroll"><OrbitPlan paths /><KeyDetails /><DetailsPanel keys /></div>
    <MovesTimeline class="time" />
  </div>
</template>

<style scoped>
.moves {
  display: grid;
  grid-template-rows: 1fr minmax(200px, 32%);
  row-gap: 8px;
  height: 100%;
}
.side {
  --plan-height: 196px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
}
.side > * {
  flex: none;
}
.side > :last-child {
  flex: 1 0 auto;
}
.time {
  grid-column: 1 / -1;
}
</style>
