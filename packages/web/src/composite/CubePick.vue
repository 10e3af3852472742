<script setup lang="ts">
import { until } from '@vueuse/core';
import { colourMatch, colourStatistics, readCube, writeCube } from '@tender-orbit/core/composite';
import type { Layer, LayerOf } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { ref } from 'vue';
import { uploadFile } from '../api/index.ts';
import { pixelsOfFile } from '../products/art-files.ts';
import { useNotices, useRack } from '../stores/index.ts';
import { FilePick, UiButton } from '../ui/index.ts';

/** The table of colours that a layer takes all below through: a cube file, or one that matches another picture's colours. */
const { layer } = defineProps<{ layer: LayerOf<'lut'> }>();
const rack = useRack();
const notices = useNotices();
const picker = ref<InstanceType<typeof FilePick>>();
const example = ref<InstanceType<typeof FilePick>>();
const busy = ref(false);
/** Points along a side of a table that matches colours, pixels that the picture to match is brought down to. */
const SIZE = 33;
const EDGE = 400;
/** How long the picture without the table is waited for, ms. */
const WAIT = 8000;

function working(work: () => Promise<void>): void {
  busy.value = true;
  void notices.guard(work).finally(() => (busy.value = false));
}
async function store(text: string, title: string, label: string, gesture = ''): Promise<void> {
  const { hash } = await uploadFile(new Blob([text]), () => undefined);
  rack.change(layer, label, { asset: hash, title, coded: 'display' } as Partial<Layer>, gesture);
}
function take([file]: File[]): void {
  working(async () => {
    const text = await file.text();
    // What cannot be used is told before it is stored.
    const { dimensions, size } = readCube(text, file.name);
    const points = dimensions === 3 ? `${size} x ${size} x ${size}` : `${size} points`;
    await store(text, `${file.name} (${points})`, 'Choose LUT');
  });
}
/** Brings the colours of the picture at the playhead to those of another picture. */
function match([file]: File[]): void {
  working(async () => {
    const gesture = `match-${Date.now()}`;
    const wanted = colourStatistics(await pixelsOfFile(file, EDGE));
    if (layer.asset) {
      // What the table did before does not count.
      const before = rack.picture;
      rack.change(layer, 'Match colours', { asset: '' } as Partial<Layer>, gesture);
      await until(() => rack.picture !== before).toBe(true, { timeout: WAIT });
    }
    const { picture } = rack;
    if (!picture)
      throw new Problem(
        'match/no-picture',
        'There is no picture at the playhead to match: render a take first.',
        'Take',
      );
    const title = `Match ${file.name}`;
    const text = writeCube(title, SIZE, colourMatch(colourStatistics(picture), wanted));
    await store(text, title, 'Match colours', gesture);
  });
}
</script>

<template>
  <div class="row pick">
    <UiButton :disabled="busy" @click="picker?.open()">{{ layer.asset ? 'Another LUT' : 'Choose LUT' }}</UiButton>
    <UiButton :disabled="busy" tip="Bring colours to those of another picture" @click="example?.open()">
      Match picture
    </UiButton>
    <FilePick ref="picker" label="LUT" accept=".cube" data-test="cube-input" @pick="take" />
    <FilePick ref="example" label="Picture to match" accept="image/*" data-test="match-input" @pick="match" />
  </div>
  <p class="dim title">{{ busy ? 'Working it out...' : layer.title || 'A .cube file, 1D or 3D' }}</p>
</template>

<style scoped>
.pick {
  gap: 8px;
  padding: 6px 0 0 20px;
}
.title {
  margin: 4px 0 6px 20px;
  overflow-wrap: anywhere;
}
</style>
