<script setup lang="ts">
import { changeLength, movedThings, renameShot } from '@tender-orbit/core/document';
import { mdiTrashCanOutline } from '@mdi/js';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { framesToSeconds, secondsToFrames } from '@tender-orbit/core/time';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { IconButton, NumberField, PickCard, TextField, openContextMenu, type MenuLines } from '../ui/index.ts';

const { shotId, number } = defineProps<{ shotId: string; number: number }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const router = useRouter();
const shot = computed(() => documents.get('shot', shotId));
const cover = computed(() => campaign.coverOf(shotId));
const camera = computed(() => campaign.set?.cameras.find((c) => c.id === shot.value?.camera)?.name ?? 'no camera');

function setSeconds(seconds: number, gesture: string): void {
  const length = secondsToFrames(seconds, campaign.rate);
  documents.run('shot', shotId, changeLength(length), gesture);
}
function rename(text: string): void {
  const name = text.trim();
  if (name) documents.run('shot', shotId, renameShot(name));
}
function openSet(): void {
  campaign.shotId = shotId;
  void router.push(`/campaign/${campaign.id}/set`);
}
const lines = computed<MenuLines>(() => [
  { title: 'Open on the set', run: openSet },
  null,
  {
    title: 'Delete shot',
    icon: mdiTrashCanOutline,
    disabled: campaign.shots.length < 2,
    run: () => void notices.guard(() => campaign.removeShot(shotId)),
  },
]);
</script>

<template>
  <article
    v-if="shot"
    class="board"
    :aria-label="`Shot ${number}, ${shot.name}`"
    @contextmenu="openContextMenu($event, lines)"
  >
    <PickCard class="picture" :label="cover ? `Open ${shot.name} on the set` : undefined" @click="openSet">
      <img v-if="cover" :src="cover" alt="" />
      <span v-else class="dim">No picture yet: open the set</span>
    </PickCard>
    <div class="row">
      <span class="mono dim">{{ number }}</span>
      <TextField
        class="name spread"
        :value="shot.name"
        :label="`Name of shot ${number}`"
        maxlength="120"
        @change="rename"
      />
      <IconButton
        :icon="mdiTrashCanOutline"
        :label="`Delete ${shot.name}`"
        :disabled="campaign.shots.length < 2"
        @click="notices.guard(() => campaign.removeShot(shotId))"
      />
    </div>
    <NumberField
      label="Length"
      :value="framesToSeconds(shot.length, campaign.rate)"
      unit="s"
      :min="0.04"
      :max="600"
      :step="0.1"
      @change="setSeconds"
    />
    <span class="dim facts">{{ camera }} camera, {{ shot.length }} frames, {{ movedThings(shot).length }} moving</span>
  </article>
</template>

<style scoped>
.board {
  display: grid;
  gap: 6px;
  padding: 10px;
  border-radius: 10px;
  background: var(--ink-0);
}
.picture {
  display: grid;
  place-items: center;
  aspect-ratio: 16 / 9;
  padding: 0;
  border: 0;
  border-radius: 6px;
  overflow: hidden;
  background: var(--surround);
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.picture img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.name {
  font-weight: 600;
}
.facts {
  padding-left: 20px;
  font-size: 12px;
}
</style>
