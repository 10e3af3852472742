<script setup lang="ts">
import { ref } from 'vue';
import PanelEdge from '../controls/PanelEdge.vue';
import ScrubLine from '../controls/ScrubLine.vue';
import DetailsPanel from '../details/DetailsPanel.vue';
import OrbitPlan from '../plan/OrbitPlan.vue';
import SetList from '../setlist/SetList.vue';
import StageViewer from '../viewer/StageViewer.vue';

const left = ref(212);
const right = ref(320);
</script>

<template>
  <div class="set" :style="{ gridTemplateColumns: `${left}px 8px 1fr 8px ${right}px` }">
    <SetList />
    <PanelEdge v-model="left" name="set-left" :usual="212" side="left" />
    <StageViewer />
    <PanelEdge v-model="right" name="set-right" :usual="320" side="right" />
    <div class="side"><OrbitPlan /><DetailsPanel /></div>
    <ScrubLine class="scrub" />
  </div>
</template>

<style scoped>
.set {
  display: grid;
  grid-template-rows: 1fr 48px;
  height: 100%;
}
.side {
  display: grid;
  grid-template-rows: auto 1fr;
  gap: 8px;
  min-height: 0;
}
.scrub {
  grid-column: 1 / -1;
}
</style>
