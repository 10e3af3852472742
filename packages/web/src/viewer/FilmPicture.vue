<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { usePlayhead } from '../stores/index.ts';
import type { Tableau } from '@tender-orbit/core/scene';
import { FILM_WIDTH, useFilm } from './film.ts';
import { LightMean } from './light-mean.ts';
import { LOADED } from './loaded.ts';
import type { StageView } from './stage-view.ts';

/**
 * The preview over the viewer: draws the frames of the shot one after the other while nobody works, and shows them while it plays. While
 * it draws, the picture that was there stays in sight.
 */
const { view, clay } = defineProps<{ view: StageView | undefined; clay: boolean }>();
const emit = defineEmits<{ done: [] }>();
const film = useFilm();
const playhead = usePlayhead();
const canvas = ref<HTMLCanvasElement>();
const drawing = ref(false);
/** Milliseconds without an edit or a press after which nobody works. */
const QUIET = 700;
let timer: ReturnType<typeof setTimeout> | undefined;
let lastTouch = 0;
const touched = (): void => void (lastTouch = performance.now());
for (const kind of ['pointerdown', 'pointermove', 'keydown'] as const) window.addEventListener(kind, touched);

watch(
  () => clay,
  (on) => (film.look = on ? 'clay' : 'lit'),
  { immediate: true },
);
const shown = computed(() => (playhead.playing ? film.pictureAt(playhead.frame) : null));
const covers = computed(() => drawing.value || shown.value !== null);

function put(picture: ImageBitmap | HTMLCanvasElement): void {
  if (!canvas.value) return;
  Object.assign(canvas.value, { width: picture.width, height: picture.height });
  canvas.value.getContext('2d')!.drawImage(picture, 0, 0);
}
watch(shown, (picture) => picture && put(picture));

/** Draws the next frame when nobody works; tries again otherwise. */
async function step(): Promise<void> {
  const frame = film.next;
  const busy = playhead.playing || performance.now() - lastTouch < QUIET || document.hidden;
  if (!view || !film.wanted || frame === null || busy) {
    rest();
    return;
  }
  const tableau = film.tableauAt(frame);
  if (!tableau) return;
  if (!drawing.value) {
    put(view.canvas);
    drawing.value = true;
  }
  const showing = film.shows[frame];
  const times = film.shutterTimes(frame);
  const drawn = times.length > 0 ? await blurredFrame(times) : await draw(tableau);
  if (!drawn) return;
  film.keep(frame, showing, drawn);
  if (film.next === null) rest();
  timer = setTimeout(() => void step(), film.next === null ? QUIET : 0);
}
function draw(tableau: Tableau): Promise<ImageBitmap> {
  const picture = { tableau, clay, selected: '', handles: null, throughCamera: true, loaded: LOADED, domain: null };
  return view!.film(picture, FILM_WIDTH);
}
/** The mean of what is seen while the shutter is open, as light. */
async function blurredFrame(times: readonly number[]): Promise<ImageBitmap | null> {
  const mean = new LightMean();
  const sheet = document.createElement('canvas');
  const context = sheet.getContext('2d', { willReadFrequently: true })!;
  for (const time of times) {
    const tableau = film.tableauAt(time);
    if (!tableau || !view) return null;
    const picture = await draw(tableau);
    if (sheet.width !== picture.width || sheet.height !== picture.height)
      Object.assign(sheet, { width: picture.width, height: picture.height });
    context.drawImage(picture, 0, 0);
    picture.close();
    mean.add(context.getImageData(0, 0, sheet.width, sheet.height).data);
  }
  return createImageBitmap(new ImageData(mean.mean(), sheet.width, sheet.height));
}
/** The viewer shows its own picture again. */
function rest(): void {
  if (drawing.value) emit('done');
  drawing.value = false;
  clearTimeout(timer);
  if (film.wanted) timer = setTimeout(() => void step(), QUIET);
}
watch(
  () => [film.wanted, view],
  () => {
    clearTimeout(timer);
    if (film.wanted && view) void step();
    else rest();
  },
  { immediate: true },
);
onBeforeUnmount(() => {
  clearTimeout(timer);
  for (const kind of ['pointerdown', 'pointermove', 'keydown'] as const) window.removeEventListener(kind, touched);
});
</script>

<template>
  <canvas v-show="covers" ref="canvas" class="film" data-test="film" aria-hidden="true" />
</template>

<style scoped>
.film {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
</style>
