<script setup lang="ts">
import { shortened } from '@tender-orbit/core/text';
import { computed, ref } from 'vue';
import { changeRoom, chooseView, type RoomKind, showRoom, type ViewTransform } from '@tender-orbit/core/document';
import { PANORAMA_SHAPE, type PanoramaMade } from '@tender-orbit/core/contract';
import type { PanoramaFit } from '@tender-orbit/core/interchange';
import { api, ApiProblem, uploadFile } from '../../api/index.ts';
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

/** A panorama that is not all round, which waits for a choice. */
const odd = ref<{ asset: string; fileName: string } | null>(null);
const busy = ref(false);

async function bringPanorama(file: File): Promise<void> {
  odd.value = null;
  busy.value = true;
  await notices.guard(async () => {
    const { hash } = await uploadFile(file, () => undefined);
    await take({ asset: hash, fileName: file.name });
  });
  busy.value = false;
}
/** Has it made into one that lights can use. */
async function take(
  file: { asset: string; fileName: string },
  fit: PanoramaFit | '' = '',
  mirror = false,
): Promise<void> {
  try {
    const { asset } = await api<PanoramaMade>('POST', '/panoramas', { ...file, fit, mirror });
    odd.value = null;
    source.value = { ...file, fit, mirror };
    stage.run(changeRoom(shortened(`Panorama ${file.fileName}`, 100), { kind: 'file', asset }));
    notices.done(`${file.fileName} lights the set; its mean brightness is set by the room light.`);
  } catch (error) {
    if (!(error instanceof ApiProblem) || error.code !== PANORAMA_SHAPE) throw error;
    odd.value = file;
  }
}
async function choose(fit: PanoramaFit): Promise<void> {
  const file = odd.value!;
  await notices.guard(() => take(file, fit));
}
/** What the room was made of since this panel is open, so that it can be turned round. */
const source = ref<{ asset: string; fileName: string; fit: PanoramaFit | ''; mirror: boolean } | null>(null);
async function mirror(): Promise<void> {
  const { fit, mirror: before, ...file } = source.value!;
  await notices.guard(() => take(file, fit, !before));
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
      <UiButton :disabled="busy" @click="picker?.open()">Import panorama</UiButton>
      <UiButton v-if="source && room.kind === 'file'" :pressed="source.mirror" @click="mirror">Mirror</UiButton>
      <FilePick
        ref="picker"
        label="Panorama file"
        accept=".hdr,.exr,.jpg,.jpeg,.png,.tif,.tiff"
        data-test="panorama-input"
        @pick="([file]) => bringPanorama(file)"
      />
    </div>
    <div v-if="odd" class="odd" role="status" data-test="panorama-fit">
      <span>{{ odd.fileName }} is not twice as wide as it is high, as a panorama all round is.</span>
      <div class="row">
        <UiButton tip="It was squeezed: its edges are the poles" @click="choose('stretch')">Stretch it</UiButton>
        <UiButton tip="It is a part: what is missing runs on from its edges" @click="choose('fill')">
          Fill the rest
        </UiButton>
      </div>
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
.odd {
  display: grid;
  gap: 6px;
  padding: 8px 10px;
  border: 1px solid var(--line);
  border-radius: 8px;
}
</style>
