<script setup lang="ts">
import { readVector } from '@tender-orbit/core/composite';
import type { Layer, LayerOf } from '@tender-orbit/core/document';
import { ref } from 'vue';
import { uploadFile } from '../api/index.ts';
import { useNotices, useRack } from '../stores/index.ts';
import { FilePick, UiButton } from '../ui/index.ts';

/** The vector picture that a logo layer draws on: an SVG file from the person's machine. */
const { layer } = defineProps<{ layer: LayerOf<'logo'> }>();
const rack = useRack();
const notices = useNotices();
const picker = ref<InstanceType<typeof FilePick>>();
const busy = ref(false);

function take([file]: File[]): void {
  busy.value = true;
  void notices
    .guard(async () => {
      const text = await file.text();
      // What cannot be drawn is told before it is stored.
      const { shapes } = readVector(text, file.name);
      const { hash } = await uploadFile(new Blob([text]), () => undefined);
      const title = `${file.name} (${shapes.length === 1 ? '1 outline' : `${shapes.length} outlines`})`;
      rack.change(layer, 'Choose logo', { asset: hash, title } as Partial<Layer>);
    })
    .finally(() => (busy.value = false));
}
</script>

<template>
  <div class="row pick">
    <UiButton :disabled="busy" @click="picker?.open()">{{ layer.asset ? 'Another logo' : 'Choose logo' }}</UiButton>
    <span class="dim clip">{{ busy ? 'Bringing it...' : layer.title || 'SVG with outlines' }}</span>
    <FilePick ref="picker" label="Logo" accept=".svg,image/svg+xml" data-test="logo-file" @pick="take" />
  </div>
</template>

<style scoped>
.pick {
  gap: 8px;
  padding: 6px 0 4px 20px;
}
</style>
