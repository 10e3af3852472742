<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import PanelEdge from '../controls/PanelEdge.vue';
import ScrubLine from '../controls/ScrubLine.vue';
import { useCampaign } from '../stores/index.ts';
import NewTake from '../takes/NewTake.vue';
import type { Part } from '../takes/region.ts';
import TakeList from '../takes/TakeList.vue';
import TakeViewer from '../takes/TakeViewer.vue';

const campaign = useCampaign();
const left = ref(250);
const right = ref(270);
const chosen = ref('');
const part = ref<Part | null>(null);
const take = computed(() => campaign.shotTakes.find((t) => t.id === chosen.value));

watch(
  () => campaign.shotTakes.map((t) => t.id).join(' '),
  () => {
    if (!take.value) chosen.value = campaign.shotTakes[0]?.id ?? '';
  },
  { immediate: true },
);
</script>

<template>
  <div class="composite" :style="{ gridTemplateColumns: `${left}px 8px 1fr 8px ${right}px` }">
    <TakeList v-model="chosen" />
    <PanelEdge v-model="left" name="takes-left" :usual="250" side="left" />
    <TakeViewer v-model:part="part" :take="take" />
    <PanelEdge v-model="right" name="takes-right" :usual="270" side="right" />
    <NewTake v-model:part="part" @started="(id) => (chosen = id)" />
    <ScrubLine class="scrub" />
  </div>
</template>

<style scoped>
.composite {
  display: grid;
  grid-template-rows: 1fr 48px;
  height: 100%;
}
.scrub {
  grid-column: 1 / -1;
}
</style>
