<script setup lang="ts">
import {
  mdiChartBellCurveCumulative,
  mdiFlagPlusOutline,
  mdiMagnifyMinusOutline,
  mdiMagnifyPlusOutline,
  mdiPause,
  mdiPlay,
  mdiRepeat,
} from '@mdi/js';
import { computed, nextTick, ref, watch } from 'vue';
import { isPart } from '@tender-orbit/core/document';
import { framesToSeconds } from '@tender-orbit/core/time';
import { useActions } from '../actions/index.ts';
import { useCampaign, useRack } from '../stores/index.ts';
import { useGraph } from '../timeline/graph/use-graph.ts';
import ValueGraph from '../timeline/graph/ValueGraph.vue';
import LaneLines from '../timeline/LaneLines.vue';
import TimeRuler from '../timeline/TimeRuler.vue';
import { IconButton, ToggleRow, UiButton, openContextMenu } from '../ui/index.ts';
import ClipLane from './ClipLane.vue';
import CutOnBeats from './CutOnBeats.vue';
import GraphNames from './GraphNames.vue';
import LayerLane from './LayerLane.vue';
import { overlayLaneHigh, rowsOf } from './layout.ts';
import MarkerLane from './MarkerLane.vue';
import MusicLane from './MusicLane.vue';
import OverlayLane from './OverlayLane.vue';
import SoundLane from './SoundLane.vue';
import TitleLane from './TitleLane.vue';
import type { PromoPlayer } from './use-player.ts';
import { usePromoDrag, type TrimTool } from './use-promo-drag.ts';
import type { FrameReady } from '../workers/preview-worker.ts';
import { usePromo } from './use-promo.ts';
import { usePromoGraph } from './use-promo-graph.ts';
import { useSplit } from './use-split.ts';

const { player, ready = undefined } = defineProps<{
  player: PromoPlayer;
  /** Frames whose picture is in memory. */
  ready?: readonly FrameReady[];
}>();
const emit = defineEmits<{ music: []; make: [] }>();
const campaign = useCampaign();
const rack = useRack();
const { promo, length, grid, chosen, chosenItems, choose, frame, range, bound, addMarker, removeChosen } = usePromo();
const lanes = ref<HTMLElement>();
const table = ref<HTMLElement>();
const snap = ref(true);
const tool = ref<TrimTool>('arrange');
const TOOLS = [
  { value: 'arrange' as const, label: 'Arrange', tip: 'Clips change places; edges trim, and what follows goes along' },
  { value: 'roll' as const, label: 'Roll', tip: 'Edges move the cut alone: the promo keeps its length' },
  { value: 'slip' as const, label: 'Slip', tip: 'A clip shows other frames in the same place' },
  { value: 'slide' as const, label: 'Slide', tip: 'A clip moves between its neighbours, which give way' },
];
/** While an edge is dragged the time line keeps its scale, or what is dragged would run away from the pointer. */
const held = ref<number | null>(null);
const span = computed(() => held.value ?? length.value);
/** Clips can be carried there. */
const hasOverlays = computed(() => Boolean(promo.value?.overlays.length || promo.value?.clips.length));
const hasLayers = computed(() => rack.host === 'promo' && rack.layers.length > 0);
/** Height of rows of things that may lie beside each other. */
const rowsHigh = (items: Parameters<typeof rowsOf>[0] | undefined, each: number): string =>
  `${Math.max(1, ...[...rowsOf(items ?? []).values()].map((row) => row + 1)) * each + 4}px`;

const graph = usePromoGraph();
const { all: keyed, item: graphed, rows: graphRows, open: graphOpen } = graph;
const showsGraph = computed(() => graphOpen.value && keyed.value.length > 0);
const { height: graphHigh } = useGraph();

const cutting = ref(false);
const { splittable, split } = useSplit();
const drag = usePromoDrag({ lanes, span, held, snap, tool });
const actions = useActions();
function openMenu(event: MouseEvent, what: NonNullable<typeof chosen.value>): void {
  if (!('id' in what) || !chosenItems.value.includes(what.id)) choose(what);
  const ofClip = what.kind === 'clip';
  openContextMenu(
    event,
    actions.lines([
      ...(ofClip ? (['promo.duplicate', 'promo.hide', 'promo.copy', 'promo.paste', null] as const) : []),
      ...(what.kind === 'title' ? (['promo.duplicate', null] as const) : []),
      'promo.title',
      'promo.marker',
      'promo.captions',
      'promo.music',
      'promo.make-music',
      'promo.sound-file',
      'promo.sound-cut',
      null,
      'promo.group',
      'promo.ungroup',
      'promo.nest',
      'promo.split',
      'promo.delete',
    ]),
  );
}

/** Pixels of the column of names. */
const LABELS = 74;
const zoom = ref(1);
/** Makes the timeline wider about the playhead. */
async function setZoom(to: number): Promise<void> {
  zoom.value = Math.min(40, Math.max(1, to));
  await nextTick();
  const area = table.value;
  if (!area) return;
  const at = (frame.value / length.value) * (area.scrollWidth - LABELS);
  area.scrollLeft = at - (area.clientWidth - LABELS) / 2;
}
function wheel(event: WheelEvent): void {
  if (!event.ctrlKey) return;
  event.preventDefault();
  void setZoom(zoom.value * (event.deltaY < 0 ? 1.25 : 0.8));
}
/** The playhead stays in sight while it plays. */
watch(frame, () => {
  const area = table.value;
  if (!area || zoom.value === 1 || !player.playing.value) return;
  const wide = area.scrollWidth - LABELS;
  const at = (frame.value / length.value) * wide - area.scrollLeft;
  if (at < 0 || at > area.clientWidth - LABELS - 20) area.scrollLeft += at - 40;
});
</script>

<template>
  <section class="card time" aria-label="Timeline" data-test="promo-timeline">
    <div class="row head">
      <IconButton
        :icon="player.playing.value ? mdiPause : mdiPlay"
        :label="player.playing.value ? 'Stop' : 'Play'"
        action="time.play"
        @click="player.toggle()"
      />
      <IconButton
        v-if="range"
        :icon="mdiRepeat"
        label="End the loop"
        pressed
        data-test="loop-off"
        @click="bound(null)"
      />
      <ToggleRow label="What dragging clips does" :options="TOOLS" :value="tool" @change="(to) => (tool = to)" />
      <UiButton
        :pressed="snap"
        tip="Edges land on beats, cuts, markers and the playhead; Alt while dragging does not"
        @click="snap = !snap"
      >
        Snap
      </UiButton>
      <UiButton v-if="promo?.music" class="mono" @click="chosen = { kind: 'music' }">
        {{ promo.music.tempo > 0 ? `${promo.music.tempo} bpm` : 'no tempo yet' }}
      </UiButton>
      <UiButton
        :disabled="!grid"
        :tip="grid ? 'A cut of chosen takes that changes with the music' : 'Give the music its tempo first'"
        data-test="open-cut"
        @click="cutting = true"
      >
        Cut on beats
      </UiButton>
      <UiButton :pressed="chosen?.kind === 'mixer'" data-test="open-mixer" @click="chosen = { kind: 'mixer' }"
        >Mixer</UiButton
      >
      <IconButton :icon="mdiFlagPlusOutline" label="Add marker" action="promo.marker" @click="addMarker" />
      <IconButton
        :icon="mdiChartBellCurveCumulative"
        :label="keyed.length > 0 ? 'Graph of what is chosen' : 'Graph: choose something whose values have keys'"
        :disabled="keyed.length === 0"
        :pressed="showsGraph"
        data-test="open-graph"
        @click="graphOpen = !showsGraph"
      />
      <span class="spread" />
      <IconButton
        :icon="mdiMagnifyMinusOutline"
        label="Show more time"
        :disabled="zoom <= 1"
        @click="setZoom(zoom / 1.6)"
      />
      <IconButton :icon="mdiMagnifyPlusOutline" label="Show less time" @click="setZoom(zoom * 1.6)" />
      <UiButton v-if="splittable" @click="split">Split clip</UiButton>
      <UiButton v-if="chosen && chosen.kind !== 'mixer'" @click="removeChosen">Delete chosen</UiButton>
      <UiButton tone="primary" :to="`/campaign/${campaign.id}/release`">To Release</UiButton>
    </div>
    <div ref="table" class="table scroll" @wheel="wheel">
      <div class="wide" :style="{ width: `calc(${LABELS}px + (100% - ${LABELS}px) * ${zoom})` }">
        <span class="dim mono corner">{{ framesToSeconds(length, campaign.rate).toFixed(2) }} s</span>
        <TimeRuler
          :length="span"
          :rate="campaign.rate"
          :grid="grid"
          :frame="frame"
          :ready="ready"
          :range="range"
          @seek="player.seek"
          @range="(from, to) => bound({ from, to })"
        />
        <div class="labels dim">
          <GraphNames v-if="showsGraph" :style="{ height: `${graphHigh}px` }" />
          <span v-if="promo?.markers.length" class="h-marker">Notes</span>
          <span :style="{ height: rowsHigh(promo?.titles, 28) }">Titles</span>
          <span v-if="hasLayers" :style="{ height: `${rack.layers.filter((l) => !isPart(l)).length * 24 + 4}px` }"
            >Layers</span
          >
          <span v-if="hasOverlays" :style="{ height: `${overlayLaneHigh(promo?.overlays ?? [])}px` }">Overlays</span>
          <span class="h-clip">Picture</span><span class="h-music">Music</span
          ><span v-if="promo?.sounds.length" class="sounds">Sounds</span>
        </div>
        <div ref="lanes" class="lanes">
          <ValueGraph
            v-if="showsGraph && graphed"
            :host="graph.host"
            :rows="graphRows"
            :length="span"
            :start="graphed.start"
            :within="graphed.within"
            @close="graphOpen = false"
          />
          <MarkerLane v-if="promo?.markers.length" :span="span" :drag="drag" @menu="openMenu" />
          <TitleLane :span="span" :drag="drag" @menu="openMenu" />
          <LayerLane v-if="hasLayers" :span="span" :drag="drag" @menu="openMenu" />
          <OverlayLane v-if="hasOverlays" :span="span" :drag="drag" @menu="openMenu" />
          <ClipLane :span="span" :drag="drag" @menu="openMenu" />
          <MusicLane :player="player" @menu="openMenu" @music="emit('music')" @make="emit('make')" />
          <SoundLane v-if="promo?.sounds.length" :span="span" :drag="drag" @menu="openMenu" />
          <LaneLines :length="span" :rate="campaign.rate" :grid="grid" :frame="frame" />
        </div>
      </div>
    </div>
    <CutOnBeats :open="cutting" @close="cutting = false" />
  </section>
</template>

<style scoped>
.time {
  display: grid;
  grid-template-rows: 38px 1fr;
  min-height: 0;
}
.head {
  gap: 6px;
  padding: 4px 10px 0;
}
.table {
  padding: 0 36px 8px 12px;
}
.wide {
  display: grid;
  grid-template-columns: 74px 1fr;
  grid-template-rows: 36px 1fr;
}
.corner,
.labels {
  position: sticky;
  left: -12px;
  z-index: 3;
  background: var(--ink-1);
}
.corner {
  align-self: stretch;
  padding-top: 9px;
}
.labels {
  display: grid;
  align-content: start;
}
.labels span {
  display: flex;
  align-items: center;
}
.lanes {
  position: relative;
  align-self: start;
}
.h-marker {
  height: 24px;
}
.h-clip {
  height: 74px;
}
.h-music {
  height: 58px;
}
.labels .sounds {
  height: 26px;
}
</style>
