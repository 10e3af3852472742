<script setup lang="ts">
import { mdiPause, mdiPlay, mdiTrashCanOutline } from '@mdi/js';
import { computed, ref } from 'vue';
import { api, frameUrl, type TakeSummary } from '../api/index.ts';
import IconButton from '../controls/IconButton.vue';
import ProgressBar from '../controls/ProgressBar.vue';
import { useCampaign, useNotices } from '../stores/index.ts';
import { durationLabel } from './duration.ts';

const chosen = defineModel<string>({ required: true });
const campaign = useCampaign();
const notices = useNotices();
const doomed = ref<TakeSummary | null>(null);
const takes = computed(() => campaign.shotTakes);

function state(take: TakeSummary): string {
  if (take.state === 'done') return 'ready';
  if (take.state === 'stopped') return `stopped at ${take.done.length} of ${take.length}`;
  if (take.state === 'failed') return 'failed';
  const left = take.secondsLeft;
  return `${take.done.length} of ${take.length}${left === null ? ', starting' : `, ${durationLabel(left)} left`}`;
}
function call(work: () => Promise<unknown>): void {
  void notices.guard(async () => {
    await work();
    await campaign.lookAgain();
  });
}
function remove(): void {
  const take = doomed.value!;
  doomed.value = null;
  call(() => api('DELETE', `/takes/${take.id}`));
}
const usedIn = (take: string): boolean => campaign.promo?.clips.some((c) => c.take === take) ?? false;
</script>

<template>
  <section class="card scroll takes" aria-label="Takes" data-test="takes">
    <div class="row">
      <h2>Takes</h2>
      <span class="spread" /><span class="dim">newest first</span>
    </div>
    <article v-for="take in takes" :key="take.id" class="take" :class="{ here: take.id === chosen }" data-test="take">
      <button type="button" class="pick" :aria-pressed="take.id === chosen" @click="chosen = take.id">
        <img
          v-if="take.done.length"
          :src="frameUrl(take.id, take.done[take.done.length >> 1])"
          width="72"
          height="41"
          alt=""
        />
        <span v-else class="blank" />
        <span class="text">
          <span class="clip">{{ take.name }}</span>
          <span class="mono dim clip">{{ take.quality }} {{ take.width }} x {{ take.height }}</span>
          <span class="clip small" :class="take.state">{{ state(take) }}</span>
        </span>
      </button>
      <ProgressBar
        v-if="take.state !== 'done'"
        :value="take.done.length / take.length"
        :label="`Frames of ${take.name}`"
      />
      <p v-if="take.error" role="alert" class="error">{{ take.error }}</p>
      <div v-if="take.id === chosen" class="row actions">
        <IconButton
          v-if="take.state === 'rendering'"
          :icon="mdiPause"
          :label="`Stop ${take.name}; finished frames stay`"
          @click="call(() => api('POST', `/takes/${take.id}/stop`))"
        />
        <IconButton
          v-if="take.state === 'stopped' || take.state === 'failed'"
          :icon="mdiPlay"
          :label="`Go on with ${take.name}`"
          @click="call(() => api('POST', `/takes/${take.id}/resume`))"
        />
        <span class="spread" />
        <IconButton
          :icon="mdiTrashCanOutline"
          :label="
            usedIn(take.id) ? `${take.name} is used in the promo: take it out there first` : `Delete ${take.name}`
          "
          :disabled="usedIn(take.id)"
          @click="doomed = take"
        />
      </div>
    </article>
    <p v-if="takes.length === 0" class="dim">
      No take of this shot yet. Choose a quality on the right and start one: clay shows the staging in minutes.
    </p>
    <v-dialog :model-value="doomed !== null" @update:model-value="doomed = null">
      <div class="card ask">
        <h2>Delete {{ doomed?.name }}?</h2>
        <p>Its {{ doomed?.done.length }} rendered frames are deleted with it; that cannot be undone.</p>
        <div class="row">
          <button type="button" class="chip primary" @click="remove">Delete take</button
          ><button type="button" class="chip" @click="doomed = null">Keep it</button>
        </div>
      </div>
    </v-dialog>
  </section>
</template>

<style scoped>
.takes {
  padding: 12px 10px;
}
.take {
  margin-top: 8px;
  padding: 6px;
  border-radius: 8px;
}
.take:hover {
  background: var(--ink-2);
}
.take.here {
  background: var(--celadon-deep);
}
.pick {
  display: flex;
  gap: 10px;
  width: 100%;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
img,
.blank {
  flex: none;
  width: 72px;
  height: 41px;
  border-radius: 4px;
  object-fit: cover;
  background: var(--surround);
}
.text {
  display: grid;
  min-width: 0;
}
.small {
  font-size: 12px;
  color: var(--bone-dim);
}
.small.rendering {
  color: var(--honey);
}
.small.failed,
.error {
  color: var(--coral);
}
.error {
  margin: 4px 0;
  font-size: 12px;
}
.ask {
  padding: 20px;
}
</style>
