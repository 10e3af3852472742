<script setup lang="ts">
import { mdiChevronLeft, mdiChevronRight } from '@mdi/js';
import { computed } from 'vue';
import { framesToSeconds } from '@tender-orbit/core/time';
import { useCampaign, useNotices, usePlayhead } from '../stores/index.ts';
import { IconButton, PickCard, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const playhead = usePlayhead();
const notices = useNotices();
const index = computed(() => campaign.shots.findIndex((s) => s.id === campaign.shotId));

function choose(id: string): void {
  campaign.shotId = id;
  playhead.seek(0, 1);
}
function step(by: number): void {
  const next = campaign.shots[index.value + by];
  if (next) choose(next.id);
}
</script>

<template>
  <div class="row switch">
    <IconButton :icon="mdiChevronLeft" label="Previous shot" :disabled="index <= 0" @click="step(-1)" />
    <v-menu>
      <template #activator="{ props }">
        <UiButton v-bind="props" tip="Shots" data-test="shot-switch">
          <img
            v-if="campaign.coverOf(campaign.shotId)"
            :src="campaign.coverOf(campaign.shotId)!"
            width="40"
            height="23"
            alt=""
          />
          <span class="clip">{{ index + 1 }} {{ campaign.shot?.name }}</span>
          <span class="mono dim">{{ framesToSeconds(campaign.shot?.length ?? 0, campaign.rate).toFixed(1) }} s</span>
        </UiButton>
      </template>
      <div class="sheet card">
        <PickCard
          v-for="(shot, i) in campaign.shots"
          :key="shot.id"
          class="shot"
          :on="shot.id === campaign.shotId"
          @click="choose(shot.id)"
        >
          <img v-if="campaign.coverOf(shot.id)" :src="campaign.coverOf(shot.id)!" width="128" height="72" alt="" />
          <span v-else class="blank dim">no take yet</span>
          <span class="clip">{{ i + 1 }} {{ shot.document?.name }}</span>
        </PickCard>
        <PickCard class="shot" @click="notices.guard(campaign.addShot)">
          <span class="blank">New shot</span>
        </PickCard>
        <PickCard class="shot" @click="notices.guard(campaign.duplicateShot)">
          <span class="blank">Duplicate with moves</span>
        </PickCard>
        <PickCard class="shot" @click="notices.guard(campaign.continueShot)">
          <span class="blank">From the last pose</span>
        </PickCard>
      </div>
    </v-menu>
    <IconButton
      :icon="mdiChevronRight"
      label="Next shot"
      :disabled="index >= campaign.shots.length - 1"
      @click="step(1)"
    />
  </div>
</template>

<style scoped>
.switch {
  flex: 0 1 auto;
  gap: 2px;
  overflow: hidden;
}
.chip {
  padding-left: 4px;
  max-width: 260px;
  min-width: 0;
  overflow: hidden;
}
img {
  border-radius: 4px;
  object-fit: cover;
  background: var(--surround);
}
.sheet {
  display: grid;
  grid-template-columns: repeat(3, 140px);
  gap: 8px;
  padding: 10px;
  background: var(--ink-2);
}
.shot {
  display: grid;
  gap: 4px;
  padding: 6px;
  border: 0;
  border-radius: 8px;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.shot:hover,
.shot.here {
  background: var(--celadon-deep);
}
.blank {
  display: grid;
  place-items: center;
  width: 128px;
  height: 72px;
  border: 1px dashed var(--line);
  border-radius: 4px;
}
</style>
