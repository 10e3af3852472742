<script setup lang="ts">
import { ref } from 'vue';
import { TabRow } from '../ui/index.ts';
import LayerShelf from '../composite/LayerShelf.vue';
import CutShelf from './CutShelf.vue';
import FootageShelf from './FootageShelf.vue';
import SoundShelf from './SoundShelf.vue';
import TakeShelf from './TakeShelf.vue';

/** What a promo is made of: pictures and sounds to add. */
const emit = defineEmits<{ file: [] }>();
const TABS = [
  { value: 'takes', label: 'Takes' },
  { value: 'footage', label: 'Footage', test: 'shelf-footage' },
  { value: 'layers', label: 'Layers', test: 'shelf-layers' },
  { value: 'sounds', label: 'Sounds', test: 'shelf-sounds' },
] as const;
const tab = ref<(typeof TABS)[number]['value']>('takes');
</script>

<template>
  <section class="card scroll shelf" aria-label="To add">
    <TabRow label="To add" :tabs="TABS" :value="tab" @change="(to) => (tab = to)" />
    <template v-if="tab === 'takes'"><TakeShelf /><CutShelf /></template>
    <FootageShelf v-else-if="tab === 'footage'" />
    <LayerShelf v-else-if="tab === 'layers'" class="layers" />
    <SoundShelf v-else @file="emit('file')" />
  </section>
</template>

<style scoped>
.shelf {
  display: grid;
  align-content: start;
  gap: 8px;
  padding: 12px;
}
.layers {
  padding: 0;
  border: 0;
}
</style>
