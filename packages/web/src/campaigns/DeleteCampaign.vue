<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, type CampaignCard } from '../api/index.ts';
import { countOf } from '../controls/count-of.ts';
import { useNotices } from '../stores/index.ts';
import { DialogCard, StackField, TextField, UiButton } from '../ui/index.ts';

/** The campaign to be deleted; null closes the question. */
const doomed = defineModel<CampaignCard | null>({ required: true });
const emit = defineEmits<{ deleted: [id: string] }>();
const notices = useNotices();
const typed = ref('');
const busy = ref(false);
watch(doomed, () => (typed.value = ''));

const certain = computed(() => typed.value.trim() === doomed.value?.document.name.trim());

async function remove(): Promise<void> {
  const card = doomed.value;
  if (!card || !certain.value) return;
  busy.value = true;
  const done = await notices.guard(() => api('DELETE', `/campaigns/${card.id}`));
  busy.value = false;
  if (!done) return;
  doomed.value = null;
  emit('deleted', card.id);
}
</script>

<template>
  <DialogCard
    :open="doomed !== null"
    :title="`Delete ${doomed?.document.name}?`"
    :width="440"
    data-test="delete-campaign"
    @close="doomed = null"
  >
    <form v-if="doomed" id="delete-campaign" class="ask" @submit.prevent="remove">
      <p>
        {{ countOf(doomed.products, 'product') }}, {{ countOf(doomed.shots, 'shot') }} and
        {{ countOf(doomed.takes, 'rendered take') }} go with it, and every file delivered from here. That cannot be
        undone.
      </p>
      <StackField label="Type the campaign's name to make sure">
        <TextField
          label="Type the campaign's name to make sure"
          :value="typed"
          autocomplete="off"
          :placeholder="doomed.document.name"
          @typed="(text) => (typed = text)"
        />
      </StackField>
    </form>
    <template #end>
      <UiButton @click="doomed = null">Keep it</UiButton>
      <UiButton type="submit" form="delete-campaign" tone="danger" :disabled="!certain" :busy="busy">
        Delete campaign
      </UiButton>
    </template>
  </DialogCard>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 12px;
  padding: 20px;
}
label {
  display: grid;
  gap: 6px;
}
</style>
