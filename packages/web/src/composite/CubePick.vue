<script setup lang="ts">
import { readCube } from '@tender-orbit/core/composite';
import type { Layer, LayerOf } from '@tender-orbit/core/document';
import { ref } from 'vue';
import { uploadFile } from '../api/index.ts';
import { useNotices, useRack } from '../stores/index.ts';
import { FilePick, UiButton } from '../ui/index.ts';

/** The table of colours that a layer takes all below through: a cube file. */
const { layer } = defineProps<{ layer: LayerOf<'lut'> }>();
const rack = useRack();
const notices = useNotices();
const picker = ref<InstanceType<typeof FilePick>>();
const busy = ref(false);

function take([file]: File[]): void {
  busy.value = true;
  void notices
    .guard(async () => {
      // What cannot be used is told before it is stored.
      const { dimensions, size } = readCube(await file.text(), file.name);
      const { hash } = await uploadFile(file, () => undefined);
      const title = `${file.name} (${dimensions === 3 ? `${size} x ${size} x ${size}` : `${size} points`})`;
      rack.change(layer, 'Choose table', { asset: hash, title } as Partial<Layer>);
    })
    .finally(() => (busy.value = false));
}
</script>

<template>
  <div class="row pick">
    <UiButton :disabled="busy" @click="picker?.open()">{{ layer.asset ? 'Another table' : 'Choose table' }}</UiButton>
    <span class="dim clip" :title="layer.title">{{ layer.title || 'A .cube file, 1D or 3D' }}</span>
    <FilePick ref="picker" label="Colour table" accept=".cube" data-test="cube-input" @pick="take" />
  </div>
</template>

<style scoped>
.pick {
  gap: 8px;
  padding: 6px 0 4px 20px;
}
</style>
