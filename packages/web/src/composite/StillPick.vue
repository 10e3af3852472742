<script setup lang="ts">
import type { Layer, LayerOf } from '@tender-orbit/core/document';
import { ref } from 'vue';
import { bringPictureFile } from '../api/index.ts';
import { useNotices, useRack } from '../stores/index.ts';
import { FilePick, UiButton } from '../ui/index.ts';

/** The picture file that a still shows: brought from the person's machine. */
const { layer } = defineProps<{ layer: LayerOf<'still'> }>();
const rack = useRack();
const notices = useNotices();
const picker = ref<InstanceType<typeof FilePick>>();
const busy = ref(false);

function take([file]: File[]): void {
  busy.value = true;
  void notices
    .guard(async () => {
      const { asset } = await bringPictureFile(file);
      rack.change(layer, 'Choose still', { asset } as Partial<Layer>);
    })
    .finally(() => (busy.value = false));
}
</script>

<template>
  <div class="row pick">
    <UiButton :disabled="busy" @click="picker?.open()">{{
      layer.asset ? 'Another picture' : 'Choose picture'
    }}</UiButton>
    <span class="dim">{{ busy ? 'Bringing it...' : layer.asset ? '' : 'PNG, JPEG, WebP or SVG' }}</span>
    <FilePick ref="picker" label="Still" accept="image/*,.svg" @pick="take" />
  </div>
</template>

<style scoped>
.pick {
  gap: 8px;
  padding: 6px 0 4px 20px;
}
</style>
