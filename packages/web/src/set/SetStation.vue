<script setup lang="ts">
import ScrubLine from '../controls/ScrubLine.vue';
import DetailsPanel from './details/DetailsPanel.vue';
import OrbitPlan from '../plan/OrbitPlan.vue';
import SetList from './SetList.vue';
import ReplaceDialog from './ReplaceDialog.vue';
import { useSetActions } from './use-set-actions.ts';
import StageViewer from '../viewer/StageViewer.vue';
import { SplitPanels } from '../ui/index.ts';

useSetActions();
</script>

<template>
  <div class="set">
    <SplitPanels name="set" :left="212" :right="320">
      <template #left><SetList /></template>
      <StageViewer />
      <template #right>
        <div class="side"><OrbitPlan /><DetailsPanel /></div>
      </template>
    </SplitPanels>
    <ScrubLine class="scrub" />
    <ReplaceDialog />
  </div>
</template>

<style scoped>
.set {
  display: grid;
  grid-template: minmax(0, 1fr) 48px / minmax(0, 1fr);
  height: 100%;
}
.side {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 8px;
  min-height: 0;
}
</style>
