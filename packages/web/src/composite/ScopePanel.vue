<script setup lang="ts">
import { drawScope, SCOPES, scopeOf, type Picture, type ScopeKind } from '@tender-orbit/core/picture';
import { onMounted, ref, watch } from 'vue';
import { ToggleRow } from '../ui/index.ts';

/** Scopes of the picture that is shown, all of its pixels counted. */
const { picture } = defineProps<{ picture: Picture | null }>();
const kind = ref<ScopeKind>('waveform');
const canvas = ref<HTMLCanvasElement>();
const [WIDTH, HEIGHT] = [240, 132];
const KINDS = SCOPES.map((value) => ({ value, label: value.replace(/^./, (c) => c.toUpperCase()) }));

function draw(): void {
  if (!picture || !canvas.value) return;
  // Chroma has no longer side.
  const width = kind.value === 'vectorscope' ? HEIGHT : WIDTH;
  const { data } = drawScope(scopeOf(kind.value, picture, width, HEIGHT), kind.value);
  Object.assign(canvas.value, { width, height: HEIGHT });
  canvas.value.getContext('2d')?.putImageData(new ImageData(data as ImageData['data'], width, HEIGHT), 0, 0);
}
watch(() => [picture, kind.value], draw);
onMounted(draw);
</script>

<template>
  <div class="scopes card" data-test="scopes">
    <ToggleRow label="Scope" :options="KINDS" :value="kind" @change="(v) => (kind = v)" />
    <canvas ref="canvas" role="img" :aria-label="`${kind} of the picture`" />
  </div>
</template>

<style scoped>
.scopes {
  position: absolute;
  z-index: 2;
  top: 8px;
  right: 8px;
  display: grid;
  justify-items: center;
  gap: 6px;
  padding: 6px;
}
canvas {
  border-radius: 4px;
  background: #000;
}
</style>
