<script setup lang="ts">
import { setPart, type Clip } from '@tender-orbit/core/document';
import { handlesOf, renderTimes } from '@tender-orbit/core/promo';
import { computed, ref } from 'vue';
import { api } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { durationLabel, ProgressBar, UiButton } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** In-betweens of a clip that are rendered: its shot at just the times that its pace asks for, as its take was rendered. */
const { clip, takeLength } = defineProps<{ clip: Clip; takeLength: number }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const { promo, run } = usePromo();
const starting = ref(false);
const source = computed(() => campaign.takes.find((t) => t.id === clip.take));
const rendered = computed(() => clip.pace?.rendered);
const take = computed(() => campaign.takes.find((t) => t.id === rendered.value?.take));
const wanted = computed(() => {
  const { before, after } = handlesOf(promo.value!, clip.id);
  return renderTimes(clip, takeLength, before, after);
});
/** Frames of the clip as it is now that were not rendered. */
const missing = computed(() => {
  // A take that is gone shows none of them.
  const times = new Set(take.value ? rendered.value?.times.map((time) => time.toFixed(2)) : []);
  return wanted.value.filter((time) => !times.has(time.toFixed(2))).length;
});
async function start(): Promise<void> {
  starting.value = true;
  await notices.guard(async () => {
    await documents.settled();
    const times = wanted.value;
    const { id } = await api<{ id: string }>('POST', `/takes/${clip.take}/times`, { times });
    const before = rendered.value?.take;
    run(setPart(clip.id, 'Render in-betweens', 'pace', { ...clip.pace!, rendered: { take: id, times } }));
    // What a pace of before had rendered is of no use, unless another clip shows it.
    const shown = promo.value!.clips.some((c) => c.id !== clip.id && c.pace?.rendered?.take === before);
    if (before && !shown) await api('DELETE', `/takes/${before}`).catch(() => undefined);
    await campaign.lookAgain();
  });
  starting.value = false;
}
const call = (what: 'stop' | 'resume'): void =>
  void notices.guard(async () => {
    await api('POST', `/takes/${take.value!.id}/${what}`);
    await campaign.lookAgain();
  });
</script>

<template>
  <p v-if="!source" class="dim">Only takes of a shot are rendered anew; other clips are blended.</p>
  <template v-else>
    <template v-if="take && take.state !== 'done'">
      <ProgressBar :value="take.done.length / take.length" label="In-betweens" />
      <p class="dim">
        {{ take.done.length }} of {{ take.length }} rendered{{
          take.secondsLeft ? `, ${durationLabel(take.secondsLeft)} left` : ''
        }}; blended till then.
      </p>
      <p v-if="take.error" role="alert" class="why">{{ take.error }}</p>
      <UiButton v-if="take.state === 'rendering'" @click="call('stop')">Pause</UiButton>
      <UiButton v-else @click="call('resume')">Go on</UiButton>
    </template>
    <p v-else-if="take && missing === 0" class="dim">All {{ take.length }} frames are rendered at their own times.</p>
    <p v-else-if="take" class="dim">{{ missing }} of {{ wanted.length }} frames are new since; they are blended.</p>
    <UiButton
      v-if="missing > 0"
      :disabled="starting || wanted.length === 0"
      tip="Renders the shot at just these times, as the take was rendered"
      data-test="render-times"
      @click="start"
    >
      Render {{ wanted.length }} {{ wanted.length === 1 ? 'frame' : 'frames' }}
    </UiButton>
  </template>
</template>

<style scoped>
.why {
  margin: 0;
  color: var(--coral);
}
p {
  margin: 2px 0;
}
</style>
