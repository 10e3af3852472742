<script setup lang="ts">
import { mdiPause, mdiPlay, mdiTrashCanOutline } from '@mdi/js';
import { computed, ref, watch } from 'vue';
import type { EffectLevel } from '@tender-orbit/core/document';
import { api, sentenceOf, type SimulationEstimate } from '../../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../../stores/index.ts';
import { durationLabel, IconButton, ProgressBar, UiButton } from '../../ui/index.ts';

/** Simulating an effect on the server, at the level that is looked at: takes at that level find it there. */
const { effect, level } = defineProps<{ effect: string; level: EffectLevel }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();

const run = computed(() =>
  campaign.simulations.find((r) => r.shot === campaign.shotId && r.effect === effect && r.level === level),
);
const busy = ref(false);
/** How long it would take, once it was asked for. */
const estimate = ref('');
watch([() => campaign.set, () => campaign.shot, () => level], () => (estimate.value = ''));

const asked = () => ({ shot: campaign.shotId, effect, level });
async function work(what: () => Promise<unknown>): Promise<void> {
  busy.value = true;
  await notices.guard(async () => {
    await what();
    await campaign.lookAgain();
  });
  busy.value = false;
}
async function measure(): Promise<void> {
  busy.value = true;
  try {
    await documents.settled();
    const { seconds } = await api<SimulationEstimate>('POST', '/simulation-runs/estimate', asked());
    estimate.value = seconds === 0 ? 'it is there already' : `about ${durationLabel(seconds)}`;
  } catch (error) {
    estimate.value = sentenceOf(error);
  }
  busy.value = false;
}
const start = () =>
  work(async () => {
    await documents.settled();
    await api('POST', '/simulation-runs', asked());
  });
const send = (what: 'stop' | 'resume') => work(() => api('POST', `/simulation-runs/${run.value!.id}/${what}`));
const remove = () => work(() => api('DELETE', `/simulation-runs/${run.value!.id}`));

const words = computed(() => {
  if (!run.value) return '';
  const { state, done, frames, secondsLeft } = run.value;
  const count = `${done} of ${frames} frames`;
  if (state === 'done') return `All ${frames} frames are on the server`;
  if (state !== 'running') return `${count}, ${state === 'stopped' ? 'paused' : 'failed'}`;
  return secondsLeft === null ? `${count}, starting` : `${count}, ${durationLabel(secondsLeft)} left`;
});
</script>

<template>
  <div role="group" aria-label="Simulation on the server" class="server" data-test="server-simulation">
    <template v-if="run">
      <div class="row">
        <span class="grow" data-test="run-words">{{ words }}</span>
        <IconButton
          v-if="run.state === 'running'"
          :icon="mdiPause"
          label="Pause"
          :disabled="busy"
          @click="send('stop')"
        />
        <IconButton
          v-else-if="run.state !== 'done'"
          :icon="mdiPlay"
          label="Go on"
          :disabled="busy"
          @click="send('resume')"
        />
        <IconButton
          :icon="mdiTrashCanOutline"
          label="Remove the simulation on the server"
          :disabled="busy"
          @click="remove"
        />
      </div>
      <ProgressBar v-if="run.state !== 'done'" :value="run.done / run.frames" label="Simulated on the server" />
      <p v-if="run.error" class="warn" role="alert">{{ run.error }}</p>
    </template>
    <div class="row">
      <UiButton :disabled="busy || run?.state === 'running'" data-test="run-start" @click="start">
        {{ run ? 'Simulate anew on the server' : 'Simulate on the server' }}
      </UiButton>
      <UiButton v-if="!run" tone="quiet" :disabled="busy" data-test="run-estimate" @click="measure">Estimate</UiButton>
    </div>
    <p v-if="estimate && !run" class="dim" role="status" data-test="run-estimated">Takes {{ estimate }}.</p>
  </div>
</template>

<style scoped>
.server {
  display: grid;
  gap: 6px;
  margin: 8px 0;
}
.row {
  display: flex;
  align-items: center;
  gap: 6px;
}
.grow {
  flex: 1;
}
.warn {
  margin: 0;
  color: var(--coral);
}
p {
  margin: 0;
}
</style>
