<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, type CampaignCard } from '../api/index.ts';
import { countOf } from '../controls/count-of.ts';
import { useNotices } from '../stores/index.ts';

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
  <v-dialog :model-value="doomed !== null" max-width="440" @update:model-value="doomed = null">
    <form v-if="doomed" class="card ask" data-test="delete-campaign" @submit.prevent="remove">
      <h2>Delete {{ doomed.document.name }}?</h2>
      <p>
        {{ countOf(doomed.products, 'product') }}, {{ countOf(doomed.shots, 'shot') }} and
        {{ countOf(doomed.takes, 'rendered take') }} go with it, and every file delivered from here. That cannot be
        undone.
      </p>
      <label>
        <span class="dim">Type the campaign's name to make sure</span>
        <input v-model="typed" class="field" autocomplete="off" :placeholder="doomed.document.name" />
      </label>
      <div class="row">
        <button type="submit" class="chip primary" :disabled="!certain || busy">Delete campaign</button
        ><button type="button" class="chip" @click="doomed = null">Keep it</button>
      </div>
    </form>
  </v-dialog>
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
