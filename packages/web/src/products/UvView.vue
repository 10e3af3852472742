<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import { modelKey, shownParts } from '@tender-orbit/core/product';
import { useDesk } from '../stores/index.ts';
import { modelOf, pictureOf } from '../viewer/models.ts';

/** The part in hand laid flat: its triangles in uv over its art, so that stretched or overlapping places are seen. */
const desk = useDesk();
const canvas = ref<HTMLCanvasElement>();
const SIDE = 640;
const part = computed(() => desk.product?.parts[desk.part]);
const model = computed(() => desk.product && modelOf(modelKey(desk.product)));
const art = computed(() => {
  const { product, variant } = desk;
  if (!product || !variant || !model.value) return null;
  const shown = shownParts(product, variant.id, model.value.meshes).find(
    (p) => p.index === part.value?.index && !p.shell,
  );
  const use = shown?.finish.textures.baseColor;
  if (!use) return null;
  return use.picture ? pictureOf(use.picture) : model.value.images[use.image];
});
/** Share of triangles that have no area in uv: they show one spot of the art at most. */
const facts = computed(() => {
  const mesh = part.value && model.value?.meshes[part.value.index];
  if (!mesh) return null;
  let [flat, outside] = [0, 0];
  for (let t = 0; t < mesh.indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [mesh.uvs[mesh.indices[t + k] * 2], mesh.uvs[mesh.indices[t + k] * 2 + 1]]);
    if (Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])) < 1e-9) flat++;
    if ([...a, ...b, ...c].some((v) => v < -1e-4 || v > 1.0001)) outside++;
  }
  return { count: mesh.indices.length / 3, flat, outside };
});

function draw(): void {
  const context = canvas.value?.getContext('2d');
  const mesh = part.value && model.value?.meshes[part.value.index];
  if (!context || !mesh) return;
  context.clearRect(0, 0, SIDE, SIDE);
  context.fillStyle = '#383838';
  context.fillRect(0, 0, SIDE, SIDE);
  if (art.value) context.drawImage(art.value, 0, 0, SIDE, SIDE);
  context.strokeStyle = 'rgba(127, 209, 174, 0.75)';
  context.lineWidth = 1;
  context.beginPath();
  for (let t = 0; t < mesh.indices.length; t += 3) {
    for (let k = 0; k <= 3; k++) {
      const v = mesh.indices[t + (k % 3)];
      const [x, y] = [mesh.uvs[v * 2] * SIDE, mesh.uvs[v * 2 + 1] * SIDE];
      if (k === 0) context.moveTo(x, y);
      else context.lineTo(x, y);
    }
  }
  context.stroke();
}
onMounted(draw);
watch([part, model, art], draw);
</script>

<template>
  <div class="uv">
    <canvas ref="canvas" :width="SIDE" :height="SIDE" :aria-label="`Uv of ${part?.name}`" data-test="uv-canvas" />
    <p v-if="facts" class="dim">
      {{ part?.name }}: {{ facts.count.toLocaleString('en') }} triangles{{
        facts.flat ? `, ${facts.flat.toLocaleString('en')} without area here: art smears on them` : ''
      }}{{ facts.outside ? `, ${facts.outside.toLocaleString('en')} beyond the sheet's edge: art repeats there` : '' }}.
    </p>
  </div>
</template>

<style scoped>
.uv {
  position: absolute;
  inset: 0;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  place-items: center;
  padding: 12px;
  background: var(--surround);
}
canvas {
  max-width: 100%;
  max-height: 100%;
  aspect-ratio: 1;
}
p {
  margin: 8px 0 0;
}
</style>
