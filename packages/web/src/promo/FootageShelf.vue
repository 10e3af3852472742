<script setup lang="ts">
import { mdiLayersPlus, mdiTrashCanOutline } from '@mdi/js';
import { ref } from 'vue';
import { removeFootage } from '@tender-orbit/core/document';
import { FilePick, IconButton, PickCard, ProgressBar, UiButton } from '../ui/index.ts';
import { useFootage } from './use-footage.ts';
import { usePromo } from './use-promo.ts';

/** Films and pictures that were brought in, to be put into the cut or over it. */
const { promo, run } = usePromo();
const { bringing, bring, addToCut, addOver } = useFootage();
const picker = ref<InstanceType<typeof FilePick>>();
const facts = ({ frames, rate }: { frames: number; rate: number }): string =>
  frames === 1 ? 'still' : `${(frames / rate).toFixed(1)} s at ${Number(rate.toFixed(2))}`;
</script>

<template>
  <p class="dim hint">Press to add at the end, or lay it over the picture at the playhead.</p>
  <div v-for="footage in promo?.footage" :key="footage.id" class="row item" data-test="footage">
    <PickCard class="name" :tip="`Add ${footage.name} at the end`" data-test="footage-clip" @click="addToCut(footage)">
      <img :src="`/api/assets/${footage.poster}`" width="64" height="36" alt="" />
      <span class="text"
        ><span class="clip">{{ footage.name }}</span
        ><span class="mono dim">{{ facts(footage) }}</span></span
      >
    </PickCard>
    <span class="buttons">
      <IconButton
        small
        :icon="mdiLayersPlus"
        :label="`Lay ${footage.name} over the picture`"
        data-test="footage-over"
        @click="addOver(footage)"
      />
      <IconButton
        small
        :icon="mdiTrashCanOutline"
        :label="`Remove ${footage.name}`"
        @click="run(removeFootage(footage.id))"
      />
    </span>
  </div>
  <template v-if="bringing">
    <span role="status" class="clip">Bringing in {{ bringing.name }}</span>
    <ProgressBar :value="bringing.share" :label="`Uploading ${bringing.name}`" />
  </template>
  <UiButton :disabled="bringing !== null" data-test="bring-footage" @click="picker?.open()">Bring in footage</UiButton>
  <p class="dim hint">MP4, MOV, WebM, GIF, numbered pictures, or one picture.</p>
  <FilePick
    ref="picker"
    label="Footage"
    accept="video/*,.mov,.mkv,.gif,image/*,.svg"
    multiple
    data-test="promo-footage-input"
    @pick="bring"
  />
</template>

<style scoped>
.hint {
  margin: 0;
}
.item {
  gap: 2px;
}
.name {
  flex: 1;
  display: flex;
  gap: 8px;
  min-width: 0;
  padding: 4px;
  border-radius: 6px;
  color: var(--bone);
  font: inherit;
  text-align: left;
}
.name:hover {
  background: var(--ink-2);
}
.text {
  display: grid;
  align-content: center;
  min-width: 0;
}
.buttons {
  display: grid;
}
img {
  flex: none;
  border-radius: 4px;
  object-fit: contain;
  background: var(--ink-0);
}
</style>
