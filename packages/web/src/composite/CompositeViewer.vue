<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { drawnWith } from '@tender-orbit/core/composite';
import type { Picture } from '@tender-orbit/core/picture';
import { isPart, type TakeComposite } from '@tender-orbit/core/document';
import { countOf } from '../controls/count-of.ts';
import { frameUrl, type TakeSummary } from '../api/index.ts';
import { useCampaign, usePlayhead, useRack } from '../stores/index.ts';
import ShotSwitch from '../viewer/ShotSwitch.vue';
import { UiButton } from '../ui/index.ts';
import { CompositeClient } from './composite-client.ts';
import LayerPath from './LayerPath.vue';
import { useCarry } from '../controls/use-carry.ts';
import { carriedLayer } from './carried-layer.ts';
import { colourAt } from './colour-at.ts';
import ScopePanel from './ScopePanel.vue';
import WipeOver from './WipeOver.vue';
import type { CompositeReply } from '../workers/composite-worker.ts';

/** The composite of the shot at the playhead over the take in hand: quick and small while things change, then whole. */
const { take } = defineProps<{ take: TakeSummary | undefined }>();
const campaign = useCampaign();
const playhead = usePlayhead();
const rack = useRack();
const canvas = ref<HTMLCanvasElement>();
const missing = ref(false);
/** The picture that is shown, for scopes. */
const shown = shallowRef<Picture | null>(null);
const scopes = ref(false);
const compared = ref(false);
/** Milliseconds within which a picture should be there while things change. */
const QUICK = 120;
/** How long nothing changes before the whole picture is made, ms. */
const CALM = 350;
/** Pixels across while things change, so that it is there in time. */
const width = ref(480);

const composite = computed((): TakeComposite | null => {
  const { shot, set } = campaign;
  if (!shot || !set) return null;
  const only = rack.isolated ? drawnWith(shot.layers, rack.isolated) : [];
  const layers = only.length > 0 ? only : shot.layers;
  return { shot: { ...shot, layers: [...layers] }, view: set.view, others: campaign.othersOf(shot) };
});
/** What the picture follows from; a new object whenever any of it changes. */
const source = computed(() => {
  const { done = [] } = take ?? {};
  if (!take || !composite.value) return null;
  const frame = done.includes(playhead.frame) ? playhead.frame : null;
  return { take: take.id, composite: composite.value, frame, rate: campaign.rate };
});
const client = new CompositeClient(show);
onBeforeUnmount(() => {
  client.close();
  rack.picture = null;
});
/** Whole once nothing changes any more. */
const whole = useDebounceFn(() => {
  if (!playhead.playing) ask(source.value, 0);
}, CALM);
/** Frames that are rendered: those of other takes, which layers show, may have been missing. */
const finished = computed(() => campaign.takes.reduce((n, t) => n + t.done.length, 0));
/** What the picture was last made from: documents that are only read again make no other. */
let known = '';
watch(
  [source, finished],
  ([now]) => {
    const text = JSON.stringify([now, finished.value]);
    if (text === known) return;
    known = text;
    ask(now, width.value);
    void whole();
  },
  { immediate: true },
);
watch(() => playhead.playing, whole);

function ask(now: typeof source.value, wide: number): void {
  if (!now || now.frame === null) {
    missing.value = now !== null;
    rack.picture = null;
    // What was asked for before no longer shows.
    client.forget();
    return;
  }
  client.ask({ ...now, frame: now.frame, width: wide });
}
/** Gives the chosen layer the colour under the pointer, as the picture shows it. */
function pick(event: MouseEvent): void {
  const { layer } = rack;
  if (rack.drawing !== 'colour' || !layer || !shown.value || !canvas.value) return;
  const colour = colourAt(shown.value, canvas.value.getBoundingClientRect(), event.clientX, event.clientY);
  if (colour) rack.setValue(layer, 'colour', colour);
  rack.drawing = '';
}
/** Height of the picture as it is shown, between bars. */
function shownHeight(): number {
  const { width: w, height: h } = canvas.value!.getBoundingClientRect();
  const { width: wide, height: high } = shown.value ?? { width: 1, height: 1 };
  return Math.max(1, Math.min(h, (w * high) / wide));
}
const carry = useCarry(shownHeight, () => carriedLayer(rack));
function show({ picture, frame, milliseconds }: CompositeReply): void {
  missing.value = picture === null;
  const target = canvas.value;
  if (!picture || !target) return;
  const { width: w, height: h, pixels } = picture;
  shown.value = { width: w, height: h, data: new Uint8ClampedArray(pixels) };
  rack.picture = shown.value;
  if (target.width !== w || target.height !== h) Object.assign(target, { width: w, height: h });
  target.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(pixels), w, h), 0, 0);
  target.dataset.frame = String(frame);
  target.dataset.width = String(w);
  // Small pictures grow or shrink until they are there in time.
  if (w === width.value && milliseconds > 0) {
    const wanted = w * Math.sqrt(QUICK / Math.max(1, milliseconds));
    width.value = Math.round(Math.min(960, Math.max(240, wanted)) / 16) * 16;
  }
}
</script>

<template>
  <section class="viewer" aria-label="Composite" data-test="composite-viewer">
    <div class="row head">
      <ShotSwitch />
      <span v-if="take" class="clip dim"
        >{{ take.name }} with {{ countOf(rack.layers.filter((l) => !isPart(l)).length, 'layer') }}</span
      >
      <span class="spread" />
      <UiButton
        :pressed="scopes"
        tip="Waveform, parade, vectorscope and histogram of the picture"
        @click="scopes = !scopes"
        >Scopes</UiButton
      >
      <UiButton
        :pressed="compared"
        tip="The take as it was rendered, right of a line that is dragged"
        @click="compared = !compared"
        >Compare</UiButton
      >
      <slot />
    </div>
    <div class="surround">
      <canvas
        v-show="!missing"
        ref="canvas"
        role="img"
        aria-label="Picture of the composite"
        :class="{ picking: rack.drawing === 'colour', carry: carriedLayer(rack) !== null }"
        data-test="composite"
        @click="pick"
        @pointerdown="rack.drawing || carry.down($event)"
        @pointermove="carry.move"
        @pointerup="carry.up"
      />
      <WipeOver
        v-if="compared && take && !missing"
        :src="frameUrl(take.id, playhead.frame)"
        alt="The take as it was rendered"
      />
      <LayerPath v-if="rack.drawing && rack.drawnOn && !missing" :layer="rack.drawnOn" class="path" />
      <ScopePanel v-if="scopes" :picture="shown" />
      <p v-if="missing" class="dim">Frame {{ playhead.frame + 1 }} of this take is not rendered yet.</p>
      <p v-else-if="!take" class="dim">Start a take: the composite is made over its frames.</p>
    </div>
  </section>
</template>

<style scoped>
.viewer {
  grid-template-rows: 38px minmax(0, 1fr);
}
.surround {
  padding: 12px;
}
canvas.carry {
  cursor: move;
  touch-action: none;
}
canvas.picking {
  cursor: crosshair;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  min-height: 0;
  object-fit: contain;
}
</style>
