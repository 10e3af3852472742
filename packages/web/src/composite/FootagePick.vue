<script setup lang="ts">
import type { Film, Layer, LayerOf } from '@tender-orbit/core/document';
import { ref } from 'vue';
import { bringFilm, bringSequence } from '../api/index.ts';
import { useCampaign, useNotices, useRack } from '../stores/index.ts';
import { FilePick, NumberField, UiButton } from '../ui/index.ts';

/** The film that footage shows: a video file, or pictures in the order of their numbers at a stated rate. */
const { layer } = defineProps<{ layer: LayerOf<'footage'> }>();
const campaign = useCampaign();
const rack = useRack();
const notices = useNotices();
const picker = ref<InstanceType<typeof FilePick>>();
/** What is being done; empty when nothing is. */
const busy = ref('');
/** Pixels of the longer side that films are kept at. */
const LONGEST = 1920;

const isPicture = (file: File): boolean => file.type.startsWith('image/') && file.type !== 'image/gif';
const rate = (): number => campaign.rate.num / campaign.rate.den;

function take(files: File[]): void {
  const pictures = files.filter(isPicture);
  const [first] = files;
  busy.value = 'Bringing it...';
  const tell = (share: number): void =>
    void (busy.value = share < 1 ? `${Math.round(share * 100)} %` : 'Reading it...');
  void notices
    .guard(async () => {
      const film: Film =
        pictures.length > 1
          ? await bringSequence(campaign.id, pictures, LONGEST, tell).then(({ list, frames }) => ({
              ...{ list, frames: frames.length, rate: rate(), name: pictures[0].name },
            }))
          : await bringFilm(campaign.id, first, { longest: LONGEST }, tell).then(({ list, frames, rate: own }) => ({
              ...{ list, frames: frames.length, rate: own, name: first.name },
            }));
      rack.change(layer, 'Choose footage', { film } as Partial<Layer>);
    })
    .finally(() => (busy.value = ''));
}
function setRate(value: number): void {
  rack.change(layer, 'Change rate of footage', { film: { ...layer.film!, rate: value } } as Partial<Layer>);
}
</script>

<template>
  <div class="row pick">
    <UiButton :disabled="busy !== ''" data-test="footage-pick" @click="picker?.open()">{{
      layer.film ? 'Another film' : 'Choose film'
    }}</UiButton>
    <span class="dim clip" :title="layer.film?.name">{{
      busy || layer.film?.name || 'MP4, MOV, WebM, GIF or pictures'
    }}</span>
    <FilePick
      ref="picker"
      label="Footage"
      accept="video/*,.mov,.mkv,.gif,image/*"
      multiple
      data-test="footage-input"
      @pick="take"
    />
  </div>
  <template v-if="layer.film">
    <NumberField
      label="Its rate"
      unit="/s"
      :step="1"
      :min="0.1"
      :max="120"
      :value="layer.film.rate"
      @change="setRate"
    />
    <p class="dim length">{{ layer.film.frames }} frames, {{ (layer.film.frames / layer.film.rate).toFixed(1) }} s</p>
  </template>
</template>

<style scoped>
.pick {
  gap: 8px;
  padding: 6px 0 4px 20px;
}
.length {
  margin: 2px 0 4px 20px;
}
</style>
