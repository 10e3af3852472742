<script setup lang="ts">
import { useDebounceFn, useFullscreen, useResizeObserver } from '@vueuse/core';
import { mdiFullscreen, mdiFullscreenExit } from '@mdi/js';
import { computed, onBeforeUnmount, ref, toRaw, watch } from 'vue';
import { shortTimecode } from '@tender-orbit/core/time';
import { useCampaign, useRack } from '../stores/index.ts';
import LayerPath from '../composite/LayerPath.vue';
import { colourAt } from '../composite/colour-at.ts';
import type { FrameReady, PreviewReply } from '../workers/preview-worker.ts';
import { openPreviewLanes } from './preview-lanes.ts';
import CutSwitch from './CutSwitch.vue';
import { useCallout } from './use-callout.ts';
import { usePromo } from './use-promo.ts';
import { usePromoCarry } from './use-promo-carry.ts';
import { IconButton, SelectField, optionsOf } from '../ui/index.ts';

/** The promo's picture at the playhead, and what is carried about in it. */
const { playing = false } = defineProps<{
  /** Whether the playhead moves by itself: then pictures are to be there in time. */
  playing?: boolean;
}>();
const emit = defineEmits<{ ready: [frames: FrameReady[]] }>();
const campaign = useCampaign();
const rack = useRack();
const { promo, frame, length } = usePromo();
const canvas = ref<HTMLCanvasElement>();
const surround = ref<HTMLElement>();
const size = ref({ width: 0, height: 0 });
const missing = ref(false);
/** What is drawn over the picture to place things by. */
const guides = ref<Guides>('none');
type Guides = 'none' | 'safe' | '9:16' | '4:5' | '1:1';
const GUIDES = optionsOf<Guides>({
  none: 'No guides',
  safe: 'Safe areas',
  '9:16': '9:16 mask',
  '4:5': '4:5 mask',
  '1:1': '1:1 mask',
});
/** The part of the picture that another format shows, in percent of its width and height. */
const mask = computed(() => {
  const [wide, high] = guides.value.split(':').map(Number);
  if (!high || !promo.value) return null;
  const share = wide / high / (promo.value.width / promo.value.height);
  const [w, h] = [Math.min(1, share) * 100, Math.min(1, 1 / share) * 100];
  return { x: (100 - w) / 2, y: (100 - h) / 2, w, h };
});
const page = ref<HTMLElement>();
const { toggle: toggleFull, isFullscreen } = useFullscreen(page);
const lanes = openPreviewLanes(draw, (frames) => emit('ready', frames));
function draw({ pixels, width, height, whole, ...about }: PreviewReply): void {
  const target = canvas.value;
  if (!target) return;
  if (target.width !== width || target.height !== height) Object.assign(target, { width, height });
  target.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(pixels), width, height), 0, 0);
  target.dataset.shown = String(about.frame);
  // The frame that is shown as the file has it.
  if (whole) target.dataset.frame = String(about.frame);
  else delete target.dataset.frame;
  missing.value = about.missing;
}
onBeforeUnmount(lanes.close);

/** How long the playhead rests before the whole picture is made, ms. */
const CALM = 300;
const whole = useDebounceFn(() => {
  if (!playing) lanes.finish(frame.value);
}, CALM);
/** Shows the frame at the playhead: quickly at first, as the file has it once nothing changes any more. */
function show(): void {
  lanes.show(frame.value, playing);
  void whole();
}
watch(() => playing, whole);

/** Only what changes a picture: which frames of which takes are there, and the promo itself. */
// Rendered in-betweens are shown once they are all there.
const takeLengths = computed(() =>
  Object.fromEntries(campaign.takes.filter((t) => !t.times || t.state === 'done').map((t) => [t.id, t.length])),
);
const finished = computed(() => campaign.takes.reduce((n, t) => n + t.done.length, 0));
/** What the workers know: documents that are only read again make no other picture. */
let known = '';
watch(
  [promo, takeLengths, finished, () => campaign.composites, () => campaign.shown, () => campaign.cuts],
  () => {
    if (!promo.value) return;
    const { composites, shown, cuts } = campaign;
    const made = JSON.stringify([promo.value, takeLengths.value, finished.value, composites, shown, cuts]);
    if (made === known) return;
    known = made;
    // What is seen is of the promo as it was.
    delete canvas.value?.dataset.frame;
    lanes.setPromo({
      ...{ promo: toRaw(promo.value), takeLengths: takeLengths.value, rate: { ...campaign.rate } },
      ...(JSON.parse(JSON.stringify({ composites, shown, cuts })) as {
        composites: typeof composites;
        shown: typeof shown;
        cuts: typeof cuts;
      }),
    });
    show();
  },
  { immediate: true },
);
watch(frame, show);
watch(length, () => (frame.value = Math.min(frame.value, length.value - 1)));

useResizeObserver(surround, ([entry]) => fit(entry.contentRect));
function fit({ width, height }: { width: number; height: number }): void {
  const aspect = (promo.value?.width ?? 16) / (promo.value?.height ?? 9);
  const w = Math.min(width, height * aspect);
  size.value = { width: Math.floor(w), height: Math.floor(w / aspect) };
}
watch(
  () => [promo.value?.width, promo.value?.height],
  () => surround.value && fit(surround.value.getBoundingClientRect()),
);

/** Gives the chosen layer the colour under the pointer. */
function pick(event: PointerEvent): void {
  const target = canvas.value;
  if (!rack.layer || !target) return;
  const { width, height } = target;
  const { data } = target.getContext('2d')!.getImageData(0, 0, width, height);
  const colour = colourAt({ width, height, data }, target.getBoundingClientRect(), event.clientX, event.clientY);
  if (colour) rack.setValue(rack.layer, 'colour', colour);
  rack.drawing = '';
}

const carry = usePromoCarry(() => size.value.height);
const callout = useCallout();
function down(event: PointerEvent): void {
  if (rack.drawing === 'colour') pick(event);
  else if (callout.picking.value) {
    const box = canvas.value!.getBoundingClientRect();
    void callout.pointAt((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  } else carry.down(event);
}
</script>

<template>
  <section ref="page" class="viewer" aria-label="Promo">
    <div class="row head">
      <CutSwitch v-if="promo" />
      <span class="spread" />
      <span class="guide"
        ><SelectField label="Guides" :options="GUIDES" :value="guides" @change="(to) => (guides = to)"
      /></span>
      <span class="chip still mono">{{ shortTimecode(frame, campaign.rate) }}, frame {{ frame + 1 }}</span>
      <IconButton
        :icon="isFullscreen ? mdiFullscreenExit : mdiFullscreen"
        :label="isFullscreen ? 'Leave full screen' : 'Full screen'"
        data-test="full-screen"
        @click="toggleFull"
      />
    </div>
    <div ref="surround" class="surround">
      <div class="picture" :style="{ width: `${size.width}px`, height: `${size.height}px` }">
        <canvas
          ref="canvas"
          data-test="promo-canvas"
          :aria-label="`Promo at frame ${frame + 1}`"
          :class="{
            carry: carry.carries.value,
            picking: rack.drawing === 'colour' || callout.picking.value !== '',
          }"
          @pointerdown="down"
          @pointermove="carry.move"
          @pointerup="carry.up"
        />
        <LayerPath v-if="rack.drawing && rack.drawing !== 'colour' && rack.drawnOn" :layer="rack.drawnOn" />
        <svg v-if="mask" class="guides masked" viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
          <path
            :d="`M0 0H100V100H0Z M${mask.x} ${mask.y}V${mask.y + mask.h}H${mask.x + mask.w}V${mask.y}Z`"
            fill="#000"
            fill-opacity="0.6"
            stroke="none"
          />
          <rect :x="mask.x" :y="mask.y" :width="mask.w" :height="mask.h" />
        </svg>
        <svg
          v-else-if="guides === 'safe'"
          class="guides"
          viewBox="0 0 100 100"
          preserveAspectRatio="none"
          aria-hidden="true"
        >
          <rect x="5" y="5" width="90" height="90" />
          <rect x="10" y="10" width="80" height="80" />
        </svg>
      </div>
      <span v-if="callout.picking.value" class="chip still note" role="status"
        >Press on the product that the callout is to point at</span
      >
      <span v-else-if="callout.following.value" class="chip still note" role="status"
        >Following the point through the take...</span
      >
      <span v-else-if="missing" class="chip still note">This frame of the take is not rendered yet</span>
    </div>
  </section>
</template>

<style scoped>
.picture {
  position: relative;
}
canvas {
  display: block;
  width: 100%;
  height: 100%;
  background: #000;
  touch-action: none;
}
canvas.carry {
  cursor: move;
}
canvas.picking {
  cursor: crosshair;
}
.guide {
  width: 122px;
}
.guides {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  fill: none;
  stroke: #fff;
  stroke-opacity: 0.35;
}
.guides * {
  vector-effect: non-scaling-stroke;
}
.note {
  position: absolute;
  bottom: 10px;
  left: 10px;
  background: var(--ink-1);
}
</style>
