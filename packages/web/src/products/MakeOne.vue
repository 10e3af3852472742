<script setup lang="ts">
import { ref } from 'vue';
import { type Builder, freshName } from '@tender-orbit/core/document';
import { newBuilder, TURNED_PRESETS } from '@tender-orbit/core/product';
import { useCampaign, useDesk } from '../stores/index.ts';
import FromPhoto from './FromPhoto.vue';
import WordsOrLogo from './WordsOrLogo.vue';

const desk = useDesk();
const campaign = useCampaign();
const dialog = ref<'' | 'words' | 'photo'>('');

const TURNED: Array<[keyof typeof TURNED_PRESETS, string]> = [
  ['jar', 'Jar'],
  ['bottle', 'Bottle'],
  ['tin', 'Tin'],
  ['dipper', 'Dipper (solid)'],
];
function make(name: string, builder: Builder): void {
  dialog.value = '';
  const names = [...campaign.products.values()].map((p) => p.name);
  void desk.make(freshName(names, name), JSON.parse(JSON.stringify(builder)) as Builder);
}
</script>

<template>
  <section aria-label="Make one">
    <h3>Make one</h3>
    <div class="grid">
      <button type="button" class="chip" data-test="make-carton" @click="make('Carton', newBuilder('carton'))">
        Carton
      </button>
      <v-menu>
        <template #activator="{ props }">
          <button type="button" class="chip" v-bind="props" data-test="make-turned">Turned body</button>
        </template>
        <v-list density="compact" bg-color="surface-bright">
          <v-list-item
            v-for="[key, label] in TURNED"
            :key="key"
            :title="label"
            @click="make(label.replace(/ \(.*/, ''), TURNED_PRESETS[key])"
          />
        </v-list>
      </v-menu>
      <button type="button" class="chip" data-test="make-device" @click="make('Card', newBuilder('device'))">
        Card, screen
      </button>
      <v-menu>
        <template #activator="{ props }">
          <button type="button" class="chip" v-bind="props" data-test="make-pouch">Pouch</button>
        </template>
        <v-list density="compact" bg-color="surface-bright">
          <v-list-item title="Stand-up pouch" @click="make('Pouch', newBuilder('pouch'))" />
          <v-list-item
            title="Sachet"
            @click="
              make('Sachet', {
                kind: 'pouch',
                width: 0.08,
                height: 0.1,
                thickness: 0.016,
                seal: 0.008,
                standing: false,
              })
            "
          />
        </v-list>
      </v-menu>
      <button type="button" class="chip" data-test="make-words" @click="dialog = 'words'">Words, logo</button>
      <button type="button" class="chip" data-test="make-photo" @click="dialog = 'photo'">From a photo</button>
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
