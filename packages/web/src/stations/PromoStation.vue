<script setup lang="ts">
import { useDropZone, useEventListener } from '@vueuse/core';
import { ref } from 'vue';
import { bringMusic, type MusicUse } from '@tender-orbit/core/document';
import { api, uploadFile } from '../api/index.ts';
import PanelEdge from '../controls/PanelEdge.vue';
import ProgressBar from '../controls/ProgressBar.vue';
import PromoDetails from '../promo/PromoDetails.vue';
import PromoPreview from '../promo/PromoPreview.vue';
import PromoTimeline from '../promo/PromoTimeline.vue';
import TakeShelf from '../promo/TakeShelf.vue';
import { usePlayer } from '../promo/use-player.ts';
import { usePromo } from '../promo/use-promo.ts';
import { useCampaign, useNotices } from '../stores/index.ts';

const campaign = useCampaign();
const notices = useNotices();
const player = usePlayer();
const { chosen, run } = usePromo();
const left = ref(216);
const right = ref(286);
const input = ref<HTMLInputElement>();
const page = ref<HTMLElement>();
const uploading = ref<{ name: string; share: number } | null>(null);
chosen.value = null;

async function uploadMusic(file: File | undefined): Promise<void> {
  if (!file || uploading.value) return;
  uploading.value = { name: file.name, share: 0 };
  await notices.guard(async () => {
    const { hash } = await uploadFile(file, (share) => (uploading.value = { name: file.name, share: share * 0.9 }));
    const { asset, name } = await api<Pick<MusicUse, 'asset' | 'name'>>('POST', `/campaigns/${campaign.id}/music`, {
      asset: hash,
      fileName: file.name,
    });
    run(bringMusic({ asset, name }));
    chosen.value = { kind: 'music' };
  });
  uploading.value = null;
}
useDropZone(page, (files) => void uploadMusic(files?.[0]));
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const target = event.target as HTMLElement;
  if (event.key !== ' ' || target.closest('input, textarea, select, button, [role="slider"], a')) return;
  event.preventDefault();
  player.toggle();
});
</script>

<template>
  <div ref="page" class="promo" :style="{ gridTemplateColumns: `${left}px 8px 1fr 8px ${right}px` }">
    <TakeShelf />
    <PanelEdge v-model="left" name="promo-left" :usual="216" side="left" />
    <PromoPreview />
    <PanelEdge v-model="right" name="promo-right" :usual="286" side="right" />
    <PromoDetails @music="input?.click()" />
    <PromoTimeline class="time" :player="player" @music="input?.click()" />
    <input
      ref="input"
      type="file"
      class="sr-only"
      tabindex="-1"
      aria-label="Music file"
      accept=".wav,.mp3,.ogg,.opus,.flac,.m4a,.aac,audio/*"
      data-test="music-input"
      @change="uploadMusic(($event.target as HTMLInputElement).files?.[0])"
    />
    <div v-if="uploading" class="card busy" role="status">
      <span>Bringing in {{ uploading.name }}</span>
      <ProgressBar :value="uploading.share" :label="`Uploading ${uploading.name}`" />
    </div>
  </div>
</template>

<style scoped>
.promo {
  position: relative;
  display: grid;
  grid-template-rows: 1fr auto;
  row-gap: 8px;
  height: 100%;
}
.time {
  grid-column: 1 / -1;
  min-height: 266px;
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
