<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { isPart, LAYER_KINDS, LAYERS } from '@tender-orbit/core/document';
import { useFinds } from '../actions/index.ts';
import MovesTimeline from '../moves/MovesTimeline.vue';
import { useCampaign, useRack } from '../stores/index.ts';
import { SplitPanels, TabRow, ToggleRow } from '../ui/index.ts';
import CompositeViewer from './CompositeViewer.vue';
import LayerDetails from './LayerDetails.vue';
import LayerShelf from './LayerShelf.vue';
import LightDesk from './LightDesk.vue';
import NewTake from './NewTake.vue';
import PlateRack from './PlateRack.vue';
import type { Part } from './region.ts';
import TakeList from './TakeList.vue';
import TakeViewer from './TakeViewer.vue';

/** Takes of the shot, and the composite that is made over them: plates on a rack, their values, their spans and threads. */
const campaign = useCampaign();
const rack = useRack();
const chosen = ref('');
const part = ref<Part | null>(null);
/** What the picture shows: the composite as soon as there is one. */
const shows = ref<'composite' | 'take'>(rack.layers.length > 0 ? 'composite' : 'take');
const panel = ref<'layer' | 'take'>(rack.layers.length > 0 ? 'layer' : 'take');
const take = computed(() => campaign.shotTakes.find((t) => t.id === chosen.value));

watch(
  () => campaign.shotTakes.map((t) => t.id).join(' '),
  () => {
    if (!take.value) chosen.value = campaign.shotTakes[0]?.id ?? '';
  },
  { immediate: true },
);
watch(
  () => rack.chosen,
  (id) => {
    if (!id) return;
    shows.value = 'composite';
    panel.value = 'layer';
  },
);
useFinds(() =>
  LAYER_KINDS.filter((kind) => !isPart({ kind })).map((kind) => ({
    ...{ title: `Put ${LAYERS[kind].title.toLowerCase()} on the rack`, hint: 'layer' },
    run: () => rack.add(kind),
  })),
);
watch(part, (now) => now && (shows.value = 'take'));
const SHOWS = [
  { value: 'composite', label: 'Composite' },
  { value: 'take', label: 'Take' },
] as const;
/** What stands below the picture. */
const below = ref<'rack' | 'desk'>('rack');
const BELOW = [
  { value: 'rack', label: 'Plate rack', test: 'below-rack' },
  { value: 'desk', label: 'Light desk', test: 'below-desk' },
] as const;
const PANELS = [
  { value: 'layer', label: 'Layer', test: 'panel-layer' },
  { value: 'take', label: 'New take', test: 'panel-take' },
] as const;
</script>

<template>
  <div class="composite">
    <SplitPanels name="takes" :left="230" :right="280">
      <template #left>
        <div class="left card">
          <TakeList v-model="chosen" />
          <LayerShelf />
        </div>
      </template>
      <div class="middle">
        <CompositeViewer v-if="shows === 'composite'" :take="take">
          <ToggleRow label="What is shown" :options="[...SHOWS]" :value="shows" @change="(v) => (shows = v)" />
        </CompositeViewer>
        <TakeViewer v-else v-model:part="part" :take="take">
          <ToggleRow label="What is shown" :options="[...SHOWS]" :value="shows" @change="(v) => (shows = v)" />
        </TakeViewer>
        <PlateRack v-if="below === 'rack'">
          <TabRow label="Below the picture" :tabs="BELOW" :value="below" @change="(v) => (below = v)" />
        </PlateRack>
        <LightDesk v-else :take="take">
          <TabRow label="Below the picture" :tabs="BELOW" :value="below" @change="(v) => (below = v)" />
        </LightDesk>
      </div>
      <template #right>
        <div class="right card">
          <TabRow label="Panel" :tabs="PANELS" :value="panel" @change="(v) => (panel = v)" />
          <div v-if="panel === 'layer'" class="scroll">
            <LayerDetails v-if="rack.layer" :key="rack.layer.id" :layer="rack.layer" />
            <p v-else class="dim hint">Choose a plate on the rack, or put one on it.</p>
          </div>
          <NewTake v-else v-model:part="part" @started="(id) => (chosen = id)" />
        </div>
      </template>
    </SplitPanels>
    <MovesTimeline layers class="timeline" />
  </div>
</template>

<style scoped>
.composite {
  display: grid;
  grid-template: minmax(0, 1fr) 190px / minmax(0, 1fr);
  gap: 8px;
  height: 100%;
}
.left,
.right {
  display: grid;
  height: 100%;
  min-height: 0;
}
.left {
  grid-template-rows: minmax(150px, 1fr) minmax(0, 1.4fr);
}
.right {
  grid-template-rows: auto minmax(0, 1fr);
}
.middle {
  display: grid;
  grid-template-rows: minmax(0, 1fr) 148px;
  gap: 8px;
  height: 100%;
  min-height: 0;
}
.hint {
  padding: 12px;
}
</style>
