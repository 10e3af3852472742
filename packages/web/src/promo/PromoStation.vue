<script setup lang="ts">
import { groupOf } from '@tender-orbit/core/document';
import { useHandlers } from '../actions/index.ts';
import { useDropZone } from '@vueuse/core';
import { onBeforeUnmount, ref, watch } from 'vue';
import MakeMusic from './MakeMusic.vue';
import PromoDetails from './PromoDetails.vue';
import type { FrameReady } from '../workers/preview-worker.ts';
import PromoPreview from './PromoPreview.vue';
import PromoTimeline from './PromoTimeline.vue';
import PromoShelf from './PromoShelf.vue';
import { useCuts } from './use-cuts.ts';
import { usePlayer } from './use-player.ts';
import { usePromo } from './use-promo.ts';
import { useSplit } from './use-split.ts';
import { useMusic } from '../music/use-music.ts';
import { useCampaign, useRack } from '../stores/index.ts';
import { FilePick, ProgressBar, SplitPanels } from '../ui/index.ts';

const campaign = useCampaign();
const player = usePlayer();
const work = usePromo();
const { chosen, frame, length, bound, addTitle, addCaptions, addSoundFile, soundTheCut, removeChosen } = work;
const rack = useRack();
const { splittable, split } = useSplit();
const { nest } = useCuts();
const picker = ref<InstanceType<typeof FilePick>>();
const soundFile = ref<InstanceType<typeof FilePick>>();
const captions = ref<InstanceType<typeof FilePick>>();
const page = ref<HTMLElement>();
const making = ref(false);
const { uploading, bring } = useMusic();
chosen.value = null;
rack.workOnPromo(() => frame.value);
onBeforeUnmount(() => rack.workOnPromo(null));
// A layer is in hand here and on the rack alike.
watch(
  () => rack.chosen,
  (id) => {
    if (id) chosen.value = { kind: 'layer', id };
  },
);
watch(chosen, (now) => (rack.chosen = now?.kind === 'layer' ? now.id : ''));
/** Frames whose picture is in memory. */
const ready = ref<FrameReady[]>([]);

async function uploadMusic(file: File | undefined): Promise<void> {
  await bring(file);
  if (campaign.promo?.music) chosen.value = { kind: 'music' };
}
useDropZone(page, (files) => void uploadMusic(files?.[0]));
useHandlers({
  'time.play': () => player.toggle(),
  'time.next': () => player.seek(frame.value + 1),
  'time.previous': () => player.seek(frame.value - 1),
  'time.start': () => player.seek(0),
  'time.end': () => player.seek(length.value - 1),
  'time.loop-from': () => bound({ from: frame.value }),
  'time.loop-to': () => bound({ to: frame.value + 1 }),
  'time.loop-all': () => bound(null),
  'thing.none': () => (chosen.value = null),
  'promo.marker': work.addMarker,
  'promo.duplicate': { run: work.duplicateChosen, enabled: () => ['clip', 'title'].includes(chosen.value?.kind ?? '') },
  'promo.hide': { run: work.toggleChosen, enabled: () => work.chosenClips.value.length > 0 },
  'promo.copy': { run: work.copyAttributes, enabled: () => chosen.value?.kind === 'clip' },
  'promo.paste': { run: () => work.pasteAttributes(), enabled: () => work.canPaste.value },
  'promo.title': addTitle,
  'promo.captions': () => captions.value?.open(),
  'promo.music': () => picker.value?.open(),
  'promo.make-music': () => (making.value = true),
  'promo.sound-file': () => soundFile.value?.open(),
  'promo.sound-cut': soundTheCut,
  'promo.group': { run: work.groupChosen, enabled: () => work.chosenItems.value.length > 1 },
  'promo.nest': { run: () => void nest(), enabled: () => work.chosenClips.value.length > 0 },
  'promo.ungroup': {
    run: work.ungroupChosen,
    enabled: () => work.chosenItems.value.some((id) => campaign.promo && groupOf(campaign.promo, id)),
  },
  'promo.split': { run: split, enabled: () => splittable.value },
  'promo.delete': { run: removeChosen, enabled: () => chosen.value !== null },
});
</script>

<template>
  <div ref="page" class="promo">
    <SplitPanels name="promo" :left="272" :right="286">
      <template #left><PromoShelf @file="soundFile?.open()" /></template>
      <PromoPreview :playing="player.playing.value" @ready="(frames) => (ready = frames)" />
      <template #right
        ><PromoDetails
          :track="player.track.value"
          :stems="player.stems.value"
          @music="picker?.open()"
          @make="making = true"
          @captions="captions?.open()"
      /></template>
    </SplitPanels>
    <PromoTimeline class="time" :player="player" :ready="ready" @music="picker?.open()" @make="making = true" />
    <FilePick
      ref="picker"
      label="Music file"
      accept=".wav,.mp3,.ogg,.opus,.flac,.m4a,.aac,audio/*"
      data-test="music-input"
      @pick="([file]) => uploadMusic(file)"
    />
    <FilePick
      ref="soundFile"
      label="Sound file"
      accept=".wav,.mp3,.ogg,.opus,.flac,.m4a,.aac,audio/*"
      data-test="sound-input"
      @pick="([file]) => addSoundFile(file)"
    />
    <FilePick
      ref="captions"
      label="Captions file"
      accept=".vtt,.srt,text/vtt,application/x-subrip"
      data-test="captions-input"
      @pick="([file]) => addCaptions(file)"
    />
    <MakeMusic :open="making" @close="making = false" />
    <div v-if="uploading && !making" class="card busy" role="status">
      <span>Bringing in {{ uploading.name }}</span>
      <ProgressBar :value="uploading.share" :label="`Uploading ${uploading.name}`" />
    </div>
  </div>
</template>

<style scoped>
.promo {
  position: relative;
  display: grid;
  grid-template: minmax(0, 1fr) auto / minmax(0, 1fr);
  row-gap: 8px;
  height: 100%;
}
.time {
  min-height: 266px;
  max-height: 352px;
}
.busy {
  position: absolute;
  left: 50%;
  bottom: 290px;
  display: grid;
  gap: 8px;
  width: 280px;
  margin-left: -140px;
  padding: 12px 16px;
  background: var(--ink-2);
}
</style>
