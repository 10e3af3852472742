<script setup lang="ts">
import { computed } from 'vue';
import { mdiPlus } from '@mdi/js';
import { metresLabel, toPolar } from '@tender-orbit/core/staging';
import { useActions, type ActionId } from '../actions/index.ts';
import { usePlayhead, useStage } from '../stores/index.ts';
import { withoutAdd } from '../set/add-menus.ts';
import ElevationArc from './ElevationArc.vue';
import PlanDisc from './PlanDisc.vue';
import { usePlan } from './use-plan.ts';
import { MenuButton } from '../ui/index.ts';

const { paths = false } = defineProps<{ /** Draws where keyed things travel. */ paths?: boolean }>();
const playhead = usePlayhead();
const stage = useStage();
/** Radius of the rim in the drawing's own units. */
const RIM = 100;
const plan = usePlan(() => paths, RIM);
const ADD: ActionId[] = [
  ...(['add.key', 'add.fill', 'add.rim', 'add.top', 'add.background'] as const),
  ...(['add.flag', 'add.bounce'] as const),
];
const actions = useActions();

/** Where the chosen thing is, in words. */
const reading = computed(() => {
  const chosen = plan.marks.value.find(({ id, raised }) => raised && id === stage.selected);
  if (!chosen) return `frame ${playhead.frame + 1}`;
  const { azimuth, elevation, distance } = toPolar(chosen.position);
  return `${Math.round(azimuth)} deg round, ${Math.round(elevation)} up, ${metresLabel(distance)}`;
});
</script>

<template>
  <section class="card plan" aria-label="Orbit plan" data-test="orbit-plan">
    <PlanDisc class="disc" :plan :rim="RIM" :paths />
    <ElevationArc class="arc" :plan />
    <div class="plus">
      <MenuButton
        small
        :icon="mdiPlus"
        label="Add to the plan"
        :lines="actions.lines(ADD, withoutAdd)"
        data-test="plan-add"
      />
    </div>
    <p class="mono dim reading clip">{{ reading }}</p>
  </section>
</template>

<style scoped>
.plus {
  position: absolute;
  top: 4px;
  left: 6px;
}
.plan {
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 74px;
  grid-template-rows: 1fr 20px;
  gap: 0 4px;
  padding: 6px 8px 2px;
}
.plan :deep(svg) {
  width: 100%;
  max-height: var(--plan-height, 262px);
  touch-action: none;
  user-select: none;
}
.arc {
  align-self: center;
}
.plan :deep(.ring) {
  fill: none;
  stroke: var(--line);
}
.plan :deep(.distance) {
  font: 9px var(--mono);
  fill: var(--bone-dim);
}
.plan :deep(.mark) {
  cursor: grab;
  outline-offset: 3px;
}
.plan :deep(.mark.lamp) {
  fill: var(--honey);
}
.plan :deep(.mark.camera) {
  fill: var(--celadon);
}
.plan :deep(.mark.product) {
  fill: var(--bone);
  fill-opacity: 0.85;
}
.plan :deep(.mark.body) {
  fill: var(--clay);
  fill-opacity: 0.28;
  stroke: var(--clay);
  stroke-width: 1.2;
}
.plan :deep(.mark.bar) {
  fill: var(--bone-dim);
  stroke: var(--bone-dim);
  stroke-width: 3;
}
.plan :deep(.mark.bar text) {
  stroke-width: 2.5px;
}
.plan :deep(.mark.off) {
  opacity: 0.4;
}
.plan :deep(.mark.chosen > circle),
.plan :deep(.mark.chosen line),
.plan :deep(.mark.chosen path),
.plan :deep(circle.mark.chosen) {
  stroke: #fff;
  stroke-width: 1.6;
}
.reading {
  grid-column: 1 / -1;
  margin: 0;
  font-size: 12px;
  text-align: center;
}
</style>
