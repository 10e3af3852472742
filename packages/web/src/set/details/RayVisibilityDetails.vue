<script setup lang="ts">
import { computed } from 'vue';
import { type RayVisibility, type SetDocument, setProperties } from '@tender-orbit/core/document';
import { useCampaign, useStage } from '../../stores/index.ts';
import { UiButton } from '../../ui/index.ts';

/** Which rays meet a thing. A thing that only reflections see doubles the product without being in the picture. */
const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const find = (set: SetDocument) => [...set.products, ...set.surfaces].find((t) => t.id === id);
const thing = computed(() => campaign.set && find(campaign.set as SetDocument));

const KINDS: Array<[keyof RayVisibility, string]> = [
  ['camera', 'Camera'],
  ['reflections', 'Reflections'],
  ['shadows', 'Shadows'],
  ['lighting', 'Bounced light'],
];

function flip(kind: keyof RayVisibility, name: string): void {
  const on = !thing.value!.rayVisibility[kind];
  const label = `${on ? 'Show' : 'Hide'} ${thing.value!.name}: ${name.toLowerCase()}`;
  stage.run(setProperties(id, { [`rayVisibility.${kind}`]: on }, label));
}
</script>

<template>
  <fieldset v-if="thing" class="ray-visibility">
    <legend>Ray visibility</legend>
    <UiButton
      v-for="[kind, label] in KINDS"
      :key="kind"
      :pressed="thing.rayVisibility[kind]"
      @click="flip(kind, label)"
    >
      {{ label }}
    </UiButton>
  </fieldset>
</template>

<style scoped>
.ray-visibility {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0 0 8px;
  padding: 0;
  border: 0;
}
legend {
  margin: 4px 0 4px 20px;
  font-weight: 600;
}
</style>
