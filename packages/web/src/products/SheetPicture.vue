<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import type { PictureSource } from '@tender-orbit/core/finish';
import { pictureOf } from '../viewer/models.ts';

/** A picture of art, small, whole and undistorted. */
const { picture, side = 44 } = defineProps<{ picture: PictureSource; side?: number }>();
const canvas = ref<HTMLCanvasElement>();
const bitmap = computed(() => pictureOf(picture));

function draw(): void {
  const context = canvas.value?.getContext('2d');
  if (!context || !bitmap.value) return;
  const { width, height } = bitmap.value;
  const edge = side * 2;
  const scale = edge / Math.max(width, height);
  context.clearRect(0, 0, edge, edge);
  context.imageSmoothingQuality = 'high';
  context.drawImage(
    bitmap.value,
    (edge - width * scale) / 2,
    (edge - height * scale) / 2,
    width * scale,
    height * scale,
  );
}
onMounted(draw);
watch(bitmap, draw);
</script>

<template>
  <canvas ref="canvas" :width="side * 2" :height="side * 2" :style="{ width: `${side}px`, height: `${side}px` }" />
</template>

<style scoped>
canvas {
  flex: none;
  border-radius: 4px;
  background: var(--surround);
}
</style>
