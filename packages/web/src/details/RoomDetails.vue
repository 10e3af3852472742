<script setup lang="ts">
import { computed } from 'vue';
import { VIEW_TRANSFORMS, type ViewTransform } from '@tender-orbit/core/document';
import FieldRow from '../controls/FieldRow.vue';
import { useCampaign, useStage } from '../stores/index.ts';

const campaign = useCampaign();
const stage = useStage();
const set = computed(() => campaign.set!);

const VIEWS: Record<ViewTransform, string> = {
  neutral: 'Neutral: colours stay true',
  filmic: 'Filmic: deep shadows, soft highlights',
  plain: 'Plain: no curve',
};

function show(seen: boolean): void {
  stage.change(seen ? 'Show the room' : 'Hide the room', (s) => void (s.environment.seen = seen));
}
function choose(event: Event): void {
  const view = (event.target as HTMLSelectElement).value as ViewTransform;
  stage.change('Change view', (s) => void (s.view = view));
}
</script>

<template>
  <div class="extra">
    <button
      type="button"
      class="chip"
      :class="{ on: set.environment.seen }"
      :aria-pressed="set.environment.seen"
      @click="show(!set.environment.seen)"
    >
      In picture
    </button>
    <FieldRow label="View">
      <select class="field" aria-label="View" :value="set.view" @change="choose">
        <option v-for="view in VIEW_TRANSFORMS" :key="view" :value="view">{{ VIEWS[view] }}</option>
      </select>
    </FieldRow>
  </div>
</template>

<style scoped>
.extra {
  display: grid;
  justify-items: start;
  gap: 6px;
  margin-bottom: 8px;
}
</style>
