<script setup lang="ts">
import DetailsPanel from '../set/details/DetailsPanel.vue';
import OrbitPlan from '../plan/OrbitPlan.vue';
import KeyDetails from './KeyDetails.vue';
import MovesTimeline from './MovesTimeline.vue';
import DropDialog from './DropDialog.vue';
import ShatterDialog from './ShatterDialog.vue';
import MotionDialog from './MotionDialog.vue';
import PathDetails from './PathDetails.vue';
import RecipeDetails from './recipes/RecipeDetails.vue';
import RecipeGallery from './recipes/RecipeGallery.vue';
import RuleDetails from './rules/RuleDetails.vue';
import ReplaceDialog from '../set/ReplaceDialog.vue';
import { useSetActions } from '../set/use-set-actions.ts';
import { useFilm } from '../viewer/film.ts';
import StageViewer from '../viewer/StageViewer.vue';
import { useShotSound } from '../music/use-shot-sound.ts';
import { useShotMusic } from './use-shot-beats.ts';
import { useKeyActions } from './use-key-tools.ts';
import { useMovesActions } from './use-moves-versions.ts';
import { onBeforeUnmount, watch } from 'vue';
import { useCampaign, usePlayhead, useStage } from '../stores/index.ts';
import { usePathDrawing } from '../things/use-path-drawing.ts';
import { SplitPanels } from '../ui/index.ts';

useSetActions();
useKeyActions();
useMovesActions();
useShotSound(useShotMusic());
const stage = useStage();
const campaign = useCampaign();
const playhead = usePlayhead();
const pen = usePathDrawing();
// What is played round belongs to a shot.
watch(
  () => campaign.shotId,
  () => playhead.loop(null, 1),
);
const film = useFilm();
// Elsewhere nobody would see that changes become keys.
onBeforeUnmount(() => {
  stage.recording = false;
  pen.drawing.value = false;
  playhead.loop(null, 1);
  // Its frames are kept: they are there again at once.
  film.wanted = false;
});
</script>

<template>
  <div class="moves">
    <SplitPanels name="moves" :left="244" :right="320">
      <template #left><RecipeGallery /></template>
      <StageViewer marks />
      <template #right>
        <div class="side scroll">
          <OrbitPlan paths /><RecipeDetails /><RuleDetails /><PathDetails /><KeyDetails /><DetailsPanel keys />
        </div>
      </template>
    </SplitPanels>
    <MovesTimeline />
    <ReplaceDialog />
    <MotionDialog />
    <DropDialog />
    <ShatterDialog />
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
