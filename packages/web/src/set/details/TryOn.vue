<script setup lang="ts">
import { computed, ref } from 'vue';
import { FINISH_LIBRARY, type Finish } from '@tender-orbit/core/finish';
import type { Tableau } from '@tender-orbit/core/scene';
import { stillOf } from '../../products/stills.ts';
import { useCampaign } from '../../stores/index.ts';
import { useTableau } from '../../viewer/use-tableau.ts';
import { PickCard, ToggleRow, UiButton } from '../../ui/index.ts';

/** The shot's picture with several finishes on one surface, side by side, traced small. */
const { id } = defineProps<{ id: string }>();
const emit = defineEmits<{ pick: [finish: Finish]; close: [] }>();
const campaign = useCampaign();
const tableau = useTableau();
const GROUPS = [...new Set(FINISH_LIBRARY.map((f) => f.group))];
const group = ref<(typeof GROUPS)[number]>('Mineral');
const WIDTH = 288;
const height = computed(() => Math.round(WIDTH / campaign.aspect));
const shown = computed(() => FINISH_LIBRARY.filter((f) => f.group === group.value));

/** The set as it stands now, with this finish on the surface. */
function withFinish(finish: Finish): Tableau | null {
  const now = tableau.value;
  if (!now) return null;
  const dressed = { ...finish, doubleSided: true };
  return { ...now, surfaces: now.surfaces.map((s) => (s.id === id ? { ...s, finish: dressed } : s)) };
}
const stamp = computed(() =>
  JSON.stringify([campaign.setId, campaign.set, campaign.shot?.camera, tableau.value?.frame]),
);
function picture(finish: Finish): string | null {
  return stillOf(
    `try ${stamp.value} ${id} ${finish.name}`,
    { width: WIDTH, height: height.value, samples: 12 },
    () => withFinish(finish),
    false,
  );
}
</script>

<template>
  <section class="card try" aria-label="Try finishes on" data-test="try-strip">
    <div class="row">
      <h2>Try on</h2>
      <ToggleRow
        label="Finishes of"
        :options="GROUPS.map((g) => ({ value: g, label: g }))"
        :value="group"
        @change="(g) => (group = g)"
      />
      <span class="spread" /><UiButton @click="emit('close')">Close</UiButton>
    </div>
    <div class="strip">
      <PickCard v-for="{ finish } in shown" :key="finish.name" class="one" @click="emit('pick', finish)">
        <img v-if="picture(finish)" :src="picture(finish)!" :alt="finish.name" data-test="try-picture" />
        <span v-else class="dim wait" :style="{ height: `${height / 1.1}px` }">tracing...</span>
        <span>{{ finish.name }}</span>
      </PickCard>
    </div>
  </section>
</template>

<style scoped>
.try {
  display: grid;
  gap: 12px;
  padding: 16px;
}
.row {
  flex-wrap: wrap;
}
.strip {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 10px;
}
.one {
  display: grid;
  gap: 4px;
  padding: 4px;
  border: 0;
  border-radius: 8px;
  background: transparent;
  color: var(--bone);
  font: inherit;
  cursor: pointer;
}
.one:hover {
  background: var(--ink-2);
}
img {
  width: 100%;
  border-radius: 6px;
}
.wait {
  display: grid;
  place-items: center;
  border-radius: 6px;
  background: var(--surround);
}
</style>
