<script setup lang="ts">
import { placeInMusic } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { useMusic } from '../music/use-music.ts';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { FilePick, NumberField, UiButton } from '../ui/index.ts';

/** The campaign's music under this shot: chosen here or anywhere, and where in it the shot begins. */
const campaign = useCampaign();
const documents = useDocuments();
const { music, uploading, listening, bring, listen } = useMusic();
const picker = ref<InstanceType<typeof FilePick>>();
const byHand = computed(() => campaign.shot?.musicFrom ?? null);
function place(seconds: number | null, gesture = ''): void {
  documents.run('shot', campaign.shotId, placeInMusic(seconds), gesture);
}
</script>

<template>
  <div class="music">
    <template v-if="music">
      <NumberField
        label="In the music"
        unit="s"
        :step="0.1"
        :min="-3600"
        :max="36000"
        :value="byHand ?? 0"
        @change="place"
      />
      <div class="row">
        <span class="dim clip spread">{{ music.name }}{{ byHand === null ? ', by the cut' : '' }}</span>
        <UiButton v-if="byHand !== null" tip="Where its first clip in the promo has it" @click="place(null)">
          By the cut
        </UiButton>
        <UiButton v-if="!music.beats.length" :busy="listening" tip="Beats one by one, bars and parts" @click="listen">
          Find beats
        </UiButton>
      </div>
    </template>
    <UiButton v-else :busy="uploading !== null" tip="All stations show its beats" @click="picker?.open()">
      Choose music
    </UiButton>
    <FilePick
      ref="picker"
      label="Music file"
      data-test="moves-music"
      accept=".wav,.mp3,.ogg,.opus,.flac,.m4a,.aac,audio/*"
      @pick="([file]) => bring(file)"
    />
  </div>
</template>

<style scoped>
.music {
  display: grid;
  gap: 4px;
  justify-items: stretch;
}
</style>
