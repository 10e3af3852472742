<script setup lang="ts">
import { computed } from 'vue';
import type { Clip } from '@tender-orbit/core/document';
import { useCampaign } from '../stores/index.ts';
import { usePromo } from './use-promo.ts';
import { FieldRow, NumberField, SelectField } from '../ui/index.ts';

const { clip } = defineProps<{ clip: Clip }>();
const campaign = useCampaign();
const { editClip } = usePromo();
const take = computed(() => campaign.takes.find((t) => t.id === clip.take));
const takes = computed(() => [
  ...(take.value ? [] : [{ value: clip.take, title: 'deleted' }]),
  ...campaign.takes.filter((t) => t.state === 'done').map((t) => ({ value: t.id, title: `${t.name} (${t.quality})` })),
]);
const beyond = computed(() => (take.value ? clip.start + clip.length - take.value.length : 0));
</script>

<template>
  <h2 class="clip">{{ take?.name ?? 'Clip without a take' }}</h2>
  <p v-if="!take" role="alert" class="why">The take was deleted: choose another.</p>
  <FieldRow label="Take">
    <SelectField
      label="Take"
      :options="takes"
      :value="clip.take"
      @change="(take) => editClip(clip.id, 'Swap take', { take })"
    />
  </FieldRow>
  <NumberField
    label="From frame"
    unit="f"
    :value="clip.start + 1"
    :min="1"
    :max="take?.length ?? 1"
    :step="1"
    :usual="1"
    @change="(v, g) => editClip(clip.id, 'Slip clip', { start: Math.round(v) - 1 }, g)"
  />
  <NumberField
    label="Length"
    unit="f"
    :value="clip.length"
    :min="1"
    :max="100000"
    :step="1"
    @change="(v, g) => editClip(clip.id, 'Change clip length', { length: Math.round(v) }, g)"
  />
  <p v-if="beyond > 0" class="dim">
    The take ends {{ beyond }} frames before this clip does; its last frame stays till then.
  </p>
</template>

<style scoped>
.why {
  margin: 0;
  color: var(--coral);
}
</style>
