<script setup lang="ts">
import { usePreferredReducedMotion } from '@vueuse/core';
import type { RecipeKind } from '@tender-orbit/core/document';
import type { Sketch } from '@tender-orbit/core/scene';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useCampaign, useSelection } from '../../stores/index.ts';
import { whenIdle } from './idle.ts';
import { drawPreview, keptStill, loadedIn, PREVIEW_SIZE, previewOf } from './recipe-preview.ts';

/** What a recipe does, drawn from the set itself; it moves while it is pointed at. */
const { kind, moving } = defineProps<{ kind: RecipeKind; moving: boolean }>();
const campaign = useCampaign();
const selection = useSelection();
const canvas = ref<HTMLCanvasElement>();
const calm = usePreferredReducedMotion();
const preview = computed(() => previewOf(kind, campaign, selection.all));
/** Share of the move that the still picture shows. */
const STILL = 0.65;
/** Milliseconds between pictures. */
const BEAT = 80;
let timer = 0;
let cancel: (() => void) | null = null;

function draw(frame: number): Sketch | null {
  const drawn = preview.value && drawPreview(preview.value, frame, campaign);
  if (drawn) put(drawn);
  return drawn;
}
function put({ pixels, width, height }: Sketch): void {
  canvas.value?.getContext('2d')?.putImageData(new ImageData(pixels, width, height), 0, 0);
}
function still(): void {
  cancel?.();
  if (!preview.value) return;
  const kept = keptStill(kind, preview.value, campaign, selection.all);
  const known = kept.get();
  if (known) return put(known);
  cancel = whenIdle(() => {
    const drawn = draw((preview.value?.frames ?? 0) * STILL);
    if (drawn) kept.keep(drawn);
  });
}
/** Drawn again when the set changes, and as models come. */
watch([preview, canvas, () => (preview.value ? loadedIn(preview.value, campaign) : 0)], still, { immediate: true });
watch(
  () => moving && calm.value !== 'reduce',
  (go) => {
    window.clearInterval(timer);
    if (!go) {
      still();
      return;
    }
    const began = performance.now();
    timer = window.setInterval(() => {
      const frames = preview.value?.frames ?? 1;
      // A rest at the end, so that it is seen where the move arrives.
      const at = ((performance.now() - began) / 1000) * 24;
      draw(Math.min(frames, at % (frames + 12)));
    }, BEAT);
  },
);
onBeforeUnmount(() => {
  window.clearInterval(timer);
  cancel?.();
});
</script>

<template>
  <canvas ref="canvas" class="thumb" v-bind="PREVIEW_SIZE" aria-hidden="true" />
</template>

<style scoped>
.thumb {
  display: block;
  width: 100%;
  aspect-ratio: 208 / 116;
  border-radius: 5px;
  background: var(--surround);
}
</style>
