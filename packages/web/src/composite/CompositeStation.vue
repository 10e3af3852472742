<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import ScrubLine from '../controls/ScrubLine.vue';
import { useCampaign } from '../stores/index.ts';
import NewTake from './NewTake.vue';
import type { Part } from './region.ts';
import TakeList from './TakeList.vue';
import TakeViewer from './TakeViewer.vue';
import { SplitPanels } from '../ui/index.ts';

const campaign = useCampaign();
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
  <div class="composite">
    <SplitPanels name="takes" :left="250" :right="270">
      <template #left><TakeList v-model="chosen" /></template>
      <TakeViewer v-model:part="part" :take="take" />
      <template #right><NewTake v-model:part="part" @started="(id) => (chosen = id)" /></template>
    </SplitPanels>
    <ScrubLine class="scrub" />
  </div>
</template>

<style scoped>
.composite {
  display: grid;
  grid-template: minmax(0, 1fr) 48px / minmax(0, 1fr);
  height: 100%;
}
</style>
