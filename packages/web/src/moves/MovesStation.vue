<script setup lang="ts">
import DetailsPanel from '../set/details/DetailsPanel.vue';
import OrbitPlan from '../plan/OrbitPlan.vue';
import KeyDetails from './KeyDetails.vue';
import MovesTimeline from './MovesTimeline.vue';
import RecipePanel from './RecipePanel.vue';
import ReplaceDialog from '../set/ReplaceDialog.vue';
import { useSetActions } from '../set/use-set-actions.ts';
import StageViewer from '../viewer/StageViewer.vue';
import { SplitPanels } from '../ui/index.ts';

useSetActions();
</script>

<template>
  <div class="moves">
    <SplitPanels name="moves" :left="204" :right="320">
      <template #left><RecipePanel /></template>
      <StageViewer />
      <template #right>
        <div class="side scroll"><OrbitPlan paths /><KeyDetails /><DetailsPanel keys /></div>
      </template>
    </SplitPanels>
    <MovesTimeline />
    <ReplaceDialog />
  </div>
</template>

<style scoped>
.moves {
  display: grid;
  grid-template: minmax(0, 1fr) minmax(200px, 32%) / minmax(0, 1fr);
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
</style>
