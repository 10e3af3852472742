<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';
import { type Builder, freshName } from '@tender-orbit/core/document';
import { newBuilder, TURNED_PRESETS } from '@tender-orbit/core/product';
import { useCampaign, useDesk } from '../stores/index.ts';
import { MenuButton, UiButton } from '../ui/index.ts';

const desk = useDesk();
const campaign = useCampaign();
/** Tracing photos and outlines of letters: loaded when they are asked for. */
const FromPhoto = defineAsyncComponent(() => import('./FromPhoto.vue'));
const WordsOrLogo = defineAsyncComponent(() => import('./WordsOrLogo.vue'));
const dialog = ref<'' | 'words' | 'photo'>('');

const TURNED: Array<[keyof typeof TURNED_PRESETS, string]> = [
  ['jar', 'Jar'],
  ['bottle', 'Bottle'],
  ['tin', 'Tin'],
  ['bowl', 'Bowl'],
  ['dipper', 'Dipper (solid)'],
];
function make(name: string, builder: Builder): void {
  dialog.value = '';
  const names = [...campaign.products.values()].map((p) => p.name);
  void desk.make(freshName(names, name), JSON.parse(JSON.stringify(builder)) as Builder);
}
const turned = TURNED.map(([key, label]) => ({
  title: label,
  run: () => make(label.replace(/ \(.*/, ''), TURNED_PRESETS[key]),
}));
const SACHET: Builder = {
  ...{ kind: 'pouch', width: 0.08, height: 0.1, thickness: 0.016, seal: 0.008, standing: false },
};
const pouches = [
  { title: 'Stand-up pouch', run: () => make('Pouch', newBuilder('pouch')) },
  { title: 'Sachet', run: () => make('Sachet', SACHET) },
];
</script>

<template>
  <section aria-label="Make one">
    <h3>Make one</h3>
    <div class="grid">
      <UiButton data-test="make-carton" @click="make('Carton', newBuilder('carton'))"> Carton </UiButton>
      <MenuButton :lines="turned" data-test="make-turned">Turned body</MenuButton>
      <UiButton data-test="make-device" @click="make('Card', newBuilder('device'))"> Card, screen </UiButton>
      <MenuButton :lines="pouches" data-test="make-pouch">Pouch</MenuButton>
      <UiButton data-test="make-words" @click="dialog = 'words'">Words, logo</UiButton>
      <UiButton data-test="make-photo" @click="dialog = 'photo'">From a photo</UiButton>
    </div>
    <v-dialog :model-value="dialog !== ''" max-width="620" @update:model-value="dialog = ''">
      <WordsOrLogo v-if="dialog === 'words'" @make="make" @close="dialog = ''" />
      <FromPhoto v-else-if="dialog === 'photo'" @make="make" @close="dialog = ''" />
    </v-dialog>
  </section>
</template>

<style scoped>
section {
  margin-top: 16px;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  margin-top: 8px;
}
.chip {
  justify-content: center;
  padding: 3px 4px;
}
</style>
