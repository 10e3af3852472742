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
</script>

<template>
  <HexField v-if="surface" label="Colour" :value="surface.colour" @change="paint" />
</template>
