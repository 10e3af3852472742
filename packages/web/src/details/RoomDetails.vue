<script setup lang="ts">
import { computed } from 'vue';
import {
  changeRoom,
  chooseView,
  ROOM_KINDS,
  type RoomKind,
  showRoom,
  VIEW_TRANSFORMS,
  type ViewTransform,
} from '@tender-orbit/core/document';
import FieldRow from '../controls/FieldRow.vue';
import { useCampaign, useNotices, useStage } from '../stores/index.ts';
import { storePanorama } from './panorama-files.ts';
import RoomDrawing from './RoomDrawing.vue';

const campaign = useCampaign();
const notices = useNotices();
const stage = useStage();
const set = computed(() => campaign.set!);
const room = computed(() => set.value.environment.room);

const VIEWS: Record<ViewTransform, string> = {
  neutral: 'Neutral: colours stay true',
  filmic: 'Filmic: deep shadows, soft highlights',
  plain: 'Plain: no curve',
};
const ROOMS: Record<RoomKind, string> = {
  studio: 'Plain studio',
  softboxes: 'Three softboxes',
  window: 'Window to the left',
  tent: 'Light tent',
  strips: 'Dark, two strips',
  dusk: 'Dusk',
  overcast: 'Overcast sky',
  ring: 'Ring of lamps',
  drawn: 'Drawn by me',
  file: 'Panorama file',
};

function choose(event: Event): void {
  stage.run(chooseView((event.target as HTMLSelectElement).value as ViewTransform));
}
async function bringPanorama(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (file)
    await notices.guard(async () => {
      const asset = await storePanorama(file);
      stage.run(changeRoom(`Panorama ${file.name}`.slice(0, 100), { kind: 'file', asset }));
      notices.done(`${file.name} lights the set; its mean brightness is set by the room light.`);
    });
  input.value = '';
}
</script>

<template>
  <div class="extra">
    <FieldRow label="Room">
      <select
        class="field"
        aria-label="Room"
        :value="room.kind"
        data-test="room-kind"
        @change="stage.run(changeRoom('Choose room', { kind: ($event.target as HTMLSelectElement).value as RoomKind }))"
      >
        <option v-for="kind in ROOM_KINDS" :key="kind" :value="kind" :disabled="kind === 'file' && !room.asset">
          {{ ROOMS[kind] }}
        </option>
      </select>
    </FieldRow>
    <RoomDrawing :room="room" />
    <div class="row">
      <button
        type="button"
        class="chip"
        :class="{ on: set.environment.seen }"
        :aria-pressed="set.environment.seen"
        @click="stage.run(showRoom(!set.environment.seen))"
      >
        In picture
      </button>
      <label class="chip"
        >Import .hdr, .exr
        <input type="file" accept=".hdr,.exr" class="sr-only" data-test="panorama-input" @change="bringPanorama" />
      </label>
    </div>
    <FieldRow label="View">
      <select class="field" aria-label="View" :value="set.view" @change="choose">
        <option v-for="view in VIEW_TRANSFORMS" :key="view" :value="view">{{ VIEWS[view] }}</option>
      </select>
    </FieldRow>
  </div>
</template>

<style scoped>
.extra {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  margin-bottom: 8px;
}
</style>
