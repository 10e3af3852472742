<script setup lang="ts">
import { byteWords } from '../controls/byte-words.ts';
import { framesText } from './frames-text.ts';
import { mdiPause, mdiPlay, mdiRefresh, mdiTrashCanOutline } from '@mdi/js';
import { shownTakes } from '@tender-orbit/core/promo';
import { computed } from 'vue';
import { api, frameUrl, type TakeSummary } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import {
  confirm,
  durationLabel,
  IconButton,
  openContextMenu,
  PickCard,
  ProgressBar,
  SortList,
  type MenuLine,
} from '../ui/index.ts';

const chosen = defineModel<string>({ required: true });
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const takes = computed(() => campaign.shotTakes);

function state(take: TakeSummary): string {
  if (take.state === 'done') return 'ready';
  if (take.state === 'stopped') return `paused at ${take.done.length} of ${take.length}`;
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
async function again(take: TakeSummary): Promise<void> {
  await notices.guard(async () => {
    await documents.settled();
    const { id } = await api<{ id: string }>('POST', `/takes/${take.id}/again`);
    await campaign.lookAgain();
    chosen.value = id;
  });
}
function order(list: readonly TakeSummary[]): void {
  call(() => api('PUT', `/campaigns/${campaign.id}/takes/order`, { takes: list.map(({ id }) => id) }));
}
async function remove(take: TakeSummary): Promise<void> {
  const sure = await confirm({
    title: `Delete ${take.name}?`,
    text: `Its ${take.done.length} rendered frames are deleted with it; that cannot be undone.`,
    yes: 'Delete take',
    danger: true,
  });
  if (sure) call(() => api('DELETE', `/takes/${take.id}`));
}
const usedIn = (take: string): boolean =>
  campaign.promo !== undefined &&
  [campaign.promo, ...Object.values(campaign.cuts)].some((cut) => shownTakes(cut).includes(take));
/** What can be done with a take: its buttons, and its context menu. */
function linesOf(take: TakeSummary) {
  const { id, name } = take;
  const used = usedIn(id);
  return [
    ...(take.state === 'rendering'
      ? [
          {
            ...{ title: 'Pause', tip: `Pause ${name}; finished frames stay`, icon: mdiPause },
            run: () => call(() => api('POST', `/takes/${id}/stop`)),
          },
        ]
      : []),
    ...(take.state === 'stopped' || take.state === 'failed'
      ? [
          {
            ...{ title: 'Go on', tip: `Go on with ${name}`, icon: mdiPlay },
            run: () => call(() => api('POST', `/takes/${id}/resume`)),
          },
        ]
      : []),
    {
      ...{ title: 'Bring up to date', icon: mdiRefresh },
      tip: `Render ${name} again as the shot is now: only frames that have changed, or are new, take time`,
      run: () => void again(take),
    },
    {
      ...{ title: 'Delete take', icon: mdiTrashCanOutline, disabled: used, danger: true },
      tip: used ? `${name} is used in the promo: take it out there first` : `Delete ${name}`,
      run: () => void remove(take),
    },
  ] as Array<MenuLine & { tip: string; icon: string; danger?: boolean }>;
}
function openMenu(event: MouseEvent, take: TakeSummary): void {
  chosen.value = take.id;
  openContextMenu(event, linesOf(take));
}
</script>

<template>
  <section class="card scroll takes" aria-label="Takes" data-test="takes">
    <div class="row">
      <h2>Takes</h2>
      <span class="spread" /><span class="dim">drag to order</span>
    </div>
    <SortList v-slot="{ item: take }" :items="takes" @order="order">
      <article
        class="take"
        :class="{ here: take.id === chosen }"
        data-test="take"
        @contextmenu="openMenu($event, take)"
      >
        <PickCard class="pick" :on="take.id === chosen" @click="chosen = take.id">
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
            <span v-if="take.frames" class="clip small">{{ framesText(take.frames) }}</span>
            <span class="clip small" :class="take.state"
              >{{ state(take) }}<template v-if="take.bytes > 0">, {{ byteWords(take.bytes) }}</template></span
            >
          </span>
        </PickCard>
        <ProgressBar
          v-if="take.state !== 'done'"
          :value="take.done.length / take.length"
          :label="`Frames of ${take.name}`"
        />
        <p v-if="take.error" role="alert" class="error">{{ take.error }}</p>
        <div v-if="take.id === chosen" class="row actions">
          <template v-for="line in linesOf(take)" :key="line.title">
            <span v-if="line.danger" class="spread" />
            <IconButton :icon="line.icon" :label="line.tip" :disabled="line.disabled" @click="line.run" />
          </template>
        </div>
      </article>
    </SortList>
    <p v-if="takes.length === 0" class="dim">
      No take of this shot yet. Choose a quality on the right and start one: clay shows the staging in minutes.
    </p>
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
