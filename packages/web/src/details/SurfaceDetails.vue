<script setup lang="ts">
import { computed } from 'vue';
import HexField from '../controls/HexField.vue';
import { useCampaign, useDocuments } from '../stores/index.ts';

const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const documents = useDocuments();
const surface = computed(() => campaign.set?.surfaces.find((s) => s.id === id));

function paint(colour: string, gesture: string): void {
  documents.edit(
    'set',
    campaign.setId,
    `Paint ${surface.value?.name}`,
    (set) => void (set.surfaces.find((s) => s.id === id)!.colour = colour),
    gesture,
  );
}
function catchShadows(): void {
  documents.edit('set', campaign.setId, `Shadows only on ${surface.value?.name}`, (set) => {
    const found = set.surfaces.find((s) => s.id === id)!;
    if (found.kind === 'sweep') found.catcher = !found.catcher;
  });
}
</script>

<template>
  <template v-if="surface">
    <HexField label="Colour" :value="surface.colour" @change="paint" />
    <button
      v-if="surface.kind === 'sweep'"
      type="button"
      class="chip only"
      :class="{ on: surface.catcher }"
      :aria-pressed="surface.catcher"
      title="The picture keeps only the shadows and mirror images that fall on it"
      @click="catchShadows"
    >
      Shadows only
    </button>
  </template>
</template>

<style scoped>
.only {
  margin: 6px 0;
}
</style>
