<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import { useIntervalFn, usePreferredReducedMotion } from '@vueuse/core';
import { newTitle, styleTitles, type Title, type TitleStyle } from '@tender-orbit/core/document';
import { TITLE_LOOKS } from '@tender-orbit/core/promo';
import { computed, onBeforeUnmount, ref, toRaw, watch } from 'vue';
import type { KeptTitleStyle } from '../api/index.ts';
import { useTitleStyles } from '../stores/index.ts';
import type { TitleReply, TitleRequest } from '../workers/title-worker.ts';
import { DialogCard, IconButton, PickCard } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** Styles for a title, each shown as it moves: those that come with the application, and those that the person keeps. */
const { open, title } = defineProps<{ open: boolean; title: Title }>();
const emit = defineEmits<{ close: [] }>();
const { promo, run } = usePromo();
const kept = useTitleStyles();
const reduced = usePreferredReducedMotion();

const [WIDTH, HEIGHT] = [236, 84];
/** Heights of letters are of a promo so high; cards show them smaller. */
const [STYLED, SHOWN] = [540, 0.42];
const STEP = 2;
const LENGTH = 84;
const FRAMES = Array.from({ length: LENGTH / STEP }, (_, i) => i * STEP);

interface Card {
  key: string;
  name: string;
  style: TitleStyle;
  sample: string;
  own?: KeptTitleStyle;
}
const cards = computed((): Card[] => [
  ...kept.styles.map((own) => ({ key: own.id, name: own.name, style: own.style, sample: 'Vellowmere', own })),
  ...TITLE_LOOKS.map((look) => ({ ...look, key: look.name })),
]);
const pictures = ref(new Map<string, TitleReply['pictures']>());
const at = ref(0);
let worker: Worker | null = null;

/** A card's title: its own words, as large as they fit. */
function shownTitle({ style, sample }: Card): Title {
  const fits = title.text.length > 0 && title.text.length <= 22;
  const shows = style.arrive.kind !== 'count' || /\d/.test(title.text);
  const text = fits && shows ? title.text : sample;
  const size = Math.min(style.size * SHOWN, (1.7 * WIDTH) / Math.max(6, text.length));
  const place = { left: 0.06, centre: 0.5, right: 0.94 }[style.align];
  return newTitle('card', {
    ...(JSON.parse(JSON.stringify(style)) as TitleStyle),
    ...{ text, size, x: place, y: 0.5, start: 0, length: LENGTH },
  });
}
watch(
  [() => open, cards],
  ([now]) => {
    if (!now) {
      worker?.terminate();
      worker = null;
      return;
    }
    if (!worker) {
      void kept.read();
      worker = new Worker(new URL('../workers/title-worker.ts', import.meta.url), { type: 'module' });
      worker.onmessage = ({ data }: MessageEvent<TitleReply>) =>
        (pictures.value = new Map(pictures.value).set(data.key, data.pictures));
    }
    for (const card of cards.value)
      worker.postMessage({
        ...{ key: card.key, title: shownTitle(card), frames: FRAMES, width: WIDTH, height: HEIGHT },
      } satisfies TitleRequest);
  },
  { immediate: true },
);
onBeforeUnmount(() => worker?.terminate());
useIntervalFn(() => {
  if (!open) return;
  // At rest where movement is not wanted.
  at.value = reduced.value === 'reduce' ? Math.floor(FRAMES.length / 2) : (at.value + 1) % FRAMES.length;
}, 83);

const canvases = new Map<string, HTMLCanvasElement>();
function hold(key: string, canvas: unknown): void {
  if (canvas instanceof HTMLCanvasElement) canvases.set(key, canvas);
  else canvases.delete(key);
}
watch([at, pictures], () => {
  for (const [key, canvas] of canvases) {
    const context = canvas.getContext('2d');
    const picture = toRaw(pictures.value).get(key)?.[at.value];
    context?.clearRect(0, 0, WIDTH, HEIGHT);
    if (picture) context?.drawImage(picture, 0, 0);
  }
});

function choose({ style }: Card): void {
  const size = Math.round((style.size * (promo.value?.height ?? STYLED)) / STYLED);
  run(styleTitles([title.id], { ...style, size }));
  emit('close');
}
</script>

<template>
  <DialogCard :open="open" title="Gallery of titles" :width="820" data-test="title-gallery" @close="emit('close')">
    <div class="grid">
      <div v-for="card in cards" :key="card.key" class="cell">
        <PickCard class="card-of" :label="`Style ${card.name}`" data-test="title-look" @click="choose(card)">
          <canvas :ref="(el) => hold(card.key, el)" :width="WIDTH" :height="HEIGHT" aria-hidden="true" />
          <span class="clip">{{ card.name }}</span>
        </PickCard>
        <IconButton
          v-if="card.own"
          small
          class="gone"
          :icon="mdiTrashCanOutline"
          :label="`Delete style ${card.name}`"
          @click="kept.remove(card.own)"
        />
      </div>
    </div>
  </DialogCard>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(236px, 1fr));
  gap: 10px;
  max-height: 60vh;
  overflow: auto;
}
.cell {
  position: relative;
}
.card-of {
  display: grid;
  gap: 2px;
  padding: 0 0 6px;
  text-align: center;
  overflow: hidden;
}
canvas {
  width: 100%;
  background: linear-gradient(120deg, #2a1730, #4a2f49);
}
.gone {
  position: absolute;
  top: 4px;
  right: 4px;
}
</style>
