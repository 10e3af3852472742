<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue';
import type { Builder } from '@tender-orbit/core/document';
import { traceSilhouette, TURNED_PRESETS } from '@tender-orbit/core/product';
import { sentenceOf } from '../api/index.ts';
import { pixelsOfFile } from './art-files.ts';
import { FilePick, NumberField, PickCard, UiButton } from '../ui/index.ts';

const emit = defineEmits<{ make: [name: string, builder: Builder]; close: [] }>();
/** Edge that a photo is brought down to: edges are found to a fraction of a pixel. */
const EDGE = 700;
const pixels = shallowRef<ImageData>();
const photo = ref('');
const picker = ref<InstanceType<typeof FilePick>>();
const height = ref(12);
const threshold = ref(18);
const wall = ref(2.4);
const wrong = ref('');

async function readPhoto(file: File): Promise<void> {
  wrong.value = '';
  try {
    pixels.value = await pixelsOfFile(file, EDGE);
    const canvas = document.createElement('canvas');
    Object.assign(canvas, { width: pixels.value.width, height: pixels.value.height });
    canvas.getContext('2d')!.putImageData(pixels.value, 0, 0);
    photo.value = canvas.toDataURL();
  } catch (error) {
    wrong.value = sentenceOf(error);
  }
}
const traced = computed(() => {
  if (!pixels.value) return { profile: null, why: '' };
  try {
    const metres = height.value / 100;
    const options = { height: metres, threshold: threshold.value / 100, tolerance: metres / 400 };
    return { profile: traceSilhouette(pixels.value, options), why: '' };
  } catch (error) {
    return { profile: null, why: sentenceOf(error) };
  }
});
/** The profile drawn both ways from its axis, in a box of its own proportion. */
const drawing = computed(() => {
  const { profile } = traced.value;
  if (!profile) return null;
  const widest = Math.max(...profile.map((p) => p[0]));
  const top = height.value / 100;
  const side = (sign: number): string[] => profile.map(([r, y]) => `${sign * r},${top - y}`);
  return {
    points: [...side(1), ...side(-1).reverse()].join(' '),
    box: `${-widest * 1.1} ${-top * 0.04} ${widest * 2.2} ${top * 1.08}`,
  };
});
function make(): void {
  const { profile } = traced.value;
  if (!profile) return;
  const none = { kind: 'none', height: 0 } as const;
  const band = { ...TURNED_PRESETS.jar.band, shown: false };
  emit('make', 'Traced body', { kind: 'turned', profile, wall: wall.value / 1000, fill: 0, cap: none, band });
}
</script>

<template>
  <section class="card ask" aria-label="From a photo">
    <h2>Turned body from a photo</h2>
    <p class="dim">A jar, bottle or lamp seen level from the side, before a plain background of another colour.</p>
    <div class="pair">
      <PickCard class="photo" label="Choose a photo" @click="picker?.open()">
        <img v-if="photo" :src="photo" alt="The photo" />
        <span v-else class="chip primary">Choose a photo</span>
      </PickCard>
      <FilePick
        ref="picker"
        label="Photo"
        accept="image/*"
        data-test="photo-input"
        @pick="([file]) => readPhoto(file)"
      />
      <svg v-if="drawing" :viewBox="drawing.box" role="img" aria-label="Traced profile">
        <polygon :points="drawing.points" />
      </svg>
    </div>
    <p v-if="wrong || traced.why" role="alert" class="why">{{ wrong || traced.why }}</p>
    <NumberField
      label="Height"
      unit="cm"
      :value="height"
      :min="0.5"
      :max="300"
      :step="0.1"
      @change="(v) => (height = v)"
    />
    <NumberField label="Differs by" unit="%" :value="threshold" :min="2" :max="90" @change="(v) => (threshold = v)" />
    <NumberField label="Wall" unit="mm" :value="wall" :min="0" :max="50" :step="0.1" @change="(v) => (wall = v)" />
    <div class="row">
      <UiButton tone="primary" :disabled="!traced.profile" data-test="make-traced" @click="make">
        Make the body
      </UiButton>
      <span v-if="traced.profile" class="dim">{{ traced.profile.length }} points</span>
      <span class="spread" />
      <UiButton @click="emit('close')">Close</UiButton>
    </div>
  </section>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 8px;
  padding: 20px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  height: 240px;
}
.photo {
  display: grid;
  place-items: center;
  min-height: 0;
  border-radius: 8px;
  background: var(--surround);
  cursor: pointer;
}
img {
  max-width: 100%;
  max-height: 240px;
}
svg {
  width: 100%;
  height: 240px;
}
polygon {
  fill: var(--celadon-deep);
  stroke: var(--celadon);
  stroke-width: 0.0006;
}
.why {
  margin: 0;
  color: var(--coral);
}
</style>
