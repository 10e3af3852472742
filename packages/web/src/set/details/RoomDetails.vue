<script setup lang="ts">
import { shortened } from '@tender-orbit/core/text';
import { computed, ref } from 'vue';
import { changeRoom, chooseView, type RoomKind, showRoom, type ViewTransform } from '@tender-orbit/core/document';
import { useCampaign, useNotices, useStage } from '../../stores/index.ts';
import RoomDrawing from './RoomDrawing.vue';
import { FieldRow, FilePick, SelectField, UiButton, optionsOf } from '../../ui/index.ts';

const campaign = useCampaign();
const notices = useNotices();
const stage = useStage();
const set = computed(() => campaign.set!);
const room = computed(() => set.value.environment.room);

const VIEWS = optionsOf<ViewTransform>({
  neutral: 'Neutral: colours stay true',
  filmic: 'Filmic: deep shadows, soft highlights',
  plain: 'Plain: no curve',
});
const ROOMS = optionsOf<RoomKind>({
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
});
const rooms = computed(() => ROOMS.map((o) => ({ ...o, disabled: o.value === 'file' && !room.value.asset })));
const picker = ref<InstanceType<typeof FilePick>>();

async function bringPanorama(file: File): Promise<void> {
  await notices.guard(async () => {
    const { storePanorama } = await import('./panorama-files.ts');
    const asset = await storePanorama(file);
    stage.run(changeRoom(shortened(`Panorama ${file.name}`, 100), { kind: 'file', asset }));
    notices.done(`${file.name} lights the set; its mean brightness is set by the room light.`);
  });
}
</script>

<template>
  <div class="extra">
    <FieldRow label="Room">
      <SelectField
        label="Room"
        :options="rooms"
        :value="room.kind"
        data-test="room-kind"
        @change="(kind) => stage.run(changeRoom('Choose room', { kind }))"
      />
    </FieldRow>
    <RoomDrawing :room="room" />
    <div class="row">
      <UiButton :pressed="set.environment.seen" @click="stage.run(showRoom(!set.environment.seen))">
        In picture
      </UiButton>
      <UiButton @click="picker?.open()">Import .hdr, .exr</UiButton>
      <FilePick
        ref="picker"
        label="Panorama file"
        accept=".hdr,.exr"
        data-test="panorama-input"
        @pick="([file]) => bringPanorama(file)"
      />
    </div>
    <FieldRow label="View">
      <SelectField label="View" :options="VIEWS" :value="set.view" @change="(view) => stage.run(chooseView(view))" />
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
