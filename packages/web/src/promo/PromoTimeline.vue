<script setup lang="ts">
import { useActions } from '../actions/index.ts';
import { mdiPause, mdiPlay } from '@mdi/js';
import { computed, ref } from 'vue';
import { peaks, peaksBetween } from '@tender-orbit/core/audio';
import { peaksOf } from '../music/music.ts';
import type { Clip } from '@tender-orbit/core/document';
import { placedClips } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { frameUrl } from '../api/index.ts';
import { useCampaign } from '../stores/index.ts';
import { percent } from '../timeline/lane.ts';
import LaneLines from '../timeline/LaneLines.vue';
import TimeRuler from '../timeline/TimeRuler.vue';
import { rowsOf, waveOutline } from './layout.ts';
import type { PromoPlayer } from './use-player.ts';
import { usePromoDrag } from './use-promo-drag.ts';
import CutOnBeats from './CutOnBeats.vue';
import OverlayLane from './OverlayLane.vue';
import SoundLane from './SoundLane.vue';
import { usePromo } from './use-promo.ts';
import { useSplit } from './use-split.ts';
import { IconButton, PickCard, TimeBar, UiButton, openContextMenu } from '../ui/index.ts';

const { player } = defineProps<{ player: PromoPlayer }>();
const emit = defineEmits<{ music: [] }>();
const campaign = useCampaign();
const { promo, length, grid, chosen, frame, sourceOf, removeChosen } = usePromo();
const lanes = ref<HTMLElement>();
const snap = ref(true);
/** While an edge is dragged the time line keeps its scale, or what is dragged would run away from the pointer. */
const held = ref<number | null>(null);
const span = computed(() => held.value ?? length.value);

const clips = computed(() => (promo.value ? placedClips(promo.value) : []));
const rows = computed(() => rowsOf(promo.value?.titles ?? []));
const overlayRows = computed(() => 1 + Math.max(0, ...rowsOf(promo.value?.overlays ?? []).values()));
const rowCount = computed(() => Math.max(1, ...[...rows.value.values()].map((r) => r + 1)));
const takeOf = (id: string) => campaign.takes.find((t) => t.id === id);
const nameOf = (id: string): string => sourceOf(id)?.name ?? 'take deleted';
function thumbs(take: string, start: number, frames: number): string[] {
  const found = takeOf(take);
  const poster = sourceOf(take)?.poster;
  if (poster) return [poster];
  if (!found || found.done.length === 0) return [];
  const count = Math.max(1, Math.min(5, Math.round((frames / span.value) * 14)));
  return Array.from({ length: count }, (_, i) => {
    const want = Math.min(found.length - 1, start + Math.floor(((i + 0.5) / count) * frames));
    return frameUrl(take, found.done.includes(want) ? want : found.done[0]);
  });
}
const WAVE_STEPS = 900;
const wave = computed(() => {
  const music = promo.value?.music;
  if (!music) return '';
  const seconds = framesToSeconds(length.value, campaign.rate);
  const track = player.track.value;
  const file = track ? undefined : peaksOf(music.peaks);
  if (!track && !file) return '';
  const heights = track
    ? peaks(track, 0, seconds, WAVE_STEPS)
    : peaksBetween(file!, music.trim, music.trim + seconds, WAVE_STEPS);
  // Quiet music still fills its lane; fades stay visible.
  const loudest = heights.reduce((a, b) => Math.max(a, b), 1e-6);
  return waveOutline(
    heights.map((h) => h / loudest),
    1000,
    48,
  );
});
const isChosen = (id: string): boolean =>
  chosen.value !== null && chosen.value.kind !== 'music' && chosen.value.id === id;

const cutting = ref(false);
/** Its pace, where it is not the natural one. */
function paceOf({ pace }: Clip): string {
  if (!pace) return '';
  const [from, to] = [pace.from, pace.to].map((v) => Math.round(v * 100));
  return `, ${pace.reverse ? 'back at ' : ''}${from === to ? from : `${from} to ${to}`} %`;
}
const clipLabel = (clip: Clip): string =>
  `${nameOf(clip.take)} ${clip.length} f${paceOf(clip)}, clip${clip.into ? `, comes by ${clip.into.kind}` : ''}`;
const { splittable, split } = useSplit();

const drag = usePromoDrag({ lanes, span, held, snap });
const { down, move, up, onKey } = drag;
const actions = useActions();
function openMenu(event: MouseEvent, what: NonNullable<typeof chosen.value>): void {
  chosen.value = what;
  openContextMenu(
    event,
    actions.lines([
      'promo.title',
      'promo.captions',
      'promo.music',
      'promo.sound-file',
      'promo.sound-cut',
      null,
      'promo.split',
      'promo.delete',
    ]),
  );
}
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
      <UiButton
        :pressed="snap"
        tip="Edges land on beats, cuts and the playhead; Alt while dragging does not"
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
      <span class="spread" />
      <UiButton v-if="splittable" @click="split">Split clip</UiButton>
      <UiButton v-if="chosen" @click="removeChosen">Delete chosen</UiButton>
      <UiButton tone="primary" :to="`/campaign/${campaign.id}/release`">To Release</UiButton>
    </div>
    <div class="table scroll">
      <span class="dim mono corner">{{ framesToSeconds(length, campaign.rate).toFixed(2) }} s</span>
      <TimeRuler :length="span" :rate="campaign.rate" :grid="grid" :frame="frame" @seek="player.seek" />
      <div class="labels dim">
        <span :style="{ height: `${rowCount * 28 + 4}px` }">Titles</span
        ><span v-if="promo?.overlays.length" :style="{ height: `${overlayRows * 26 + 4}px` }">Overlays</span
        ><span class="h-clip">Picture</span><span class="h-music">Music</span
        ><span v-if="promo?.sounds.length" class="sounds">Sounds</span>
      </div>
      <div ref="lanes" class="lanes">
        <div class="lane" :style="{ height: `${rowCount * 28 + 4}px` }">
          <TimeBar
            v-for="title in promo?.titles"
            :key="title.id"
            class="title"
            :label="`Title ${title.text}`"
            :on="isChosen(title.id)"
            :start="title.start"
            :length="title.length"
            :span="span"
            :top="rows.get(title.id)! * 28 + 2"
            edges="both"
            data-test="title"
            @contextmenu="openMenu($event, { kind: 'title', id: title.id })"
            @pointerdown="down($event, 'title', title.id, title.start, title.length)"
            @pointermove="move"
            @pointerup="up"
            @pointercancel="up"
            @keydown="onKey($event, 'title', title.id, title.start, title.length)"
          >
            <span class="clip">{{ title.text || 'empty title' }}</span>
          </TimeBar>
        </div>
        <OverlayLane v-if="promo?.overlays.length" :span="span" :drag="drag" @menu="openMenu" />
        <div class="lane h-clip">
          <TimeBar
            v-for="{ clip, from } in clips"
            :key="clip.id"
            class="shot"
            :label="clipLabel(clip)"
            :on="isChosen(clip.id)"
            :start="from"
            :length="clip.length"
            :span="span"
            edges="end"
            data-test="clip"
            @contextmenu="openMenu($event, { kind: 'clip', id: clip.id })"
            @pointerdown="down($event, 'clip', clip.id, from, clip.length)"
            @pointermove="move"
            @pointerup="up"
            @pointercancel="up"
            @keydown="onKey($event, 'clip', clip.id, from, clip.length)"
          >
            <span class="clip name"
              >{{ nameOf(clip.take) }} <span class="mono dim">{{ clip.length }} f{{ paceOf(clip) }}</span></span
            >
            <span class="thumbs"
              ><img
                v-for="(src, i) in thumbs(clip.take, clip.start, clip.length)"
                :key="i"
                :src="src"
                alt=""
                draggable="false"
            /></span>
            <i
              v-if="clip.into && from > 0"
              class="into"
              :style="{ width: percent(Math.min(clip.into.frames, clip.length) / 2, clip.length) }"
              aria-hidden="true"
            />
          </TimeBar>
          <p v-if="clips.length === 0" class="dim nothing">Press a take on the left to add it here.</p>
        </div>
        <div class="lane h-music">
          <PickCard
            v-if="promo?.music"
            class="music"
            :on="chosen?.kind === 'music'"
            :label="`Music ${promo.music.name}`"
            @click="chosen = { kind: 'music' }"
            @contextmenu="openMenu($event, { kind: 'music' })"
          >
            <svg viewBox="0 0 1000 48" preserveAspectRatio="none" aria-hidden="true">
              <path :d="wave" fill="var(--honey)" fill-opacity="0.75" />
            </svg>
            <span class="clip name">{{ promo.music.name }}</span>
          </PickCard>
          <PickCard v-else class="music none dim" data-test="add-music" @click="emit('music')">
            Add music: wav, mp3, ogg, flac or m4a
          </PickCard>
        </div>
        <SoundLane v-if="promo?.sounds.length" :span="span" :drag="drag" @menu="openMenu" />
        <LaneLines :length="span" :rate="campaign.rate" :grid="grid" :frame="frame" />
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
  padding: 4px 10px 0;
}
.table {
  display: grid;
  grid-template-columns: 74px 1fr;
  grid-template-rows: 36px 1fr;
  padding: 0 36px 8px 12px;
}
.corner {
  align-self: center;
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
.lane {
  position: relative;
  box-shadow: inset 0 -1px var(--ink-0);
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
.title {
  display: flex;
  align-items: center;
  height: 25px;
  background: #3d3468;
}
.shot {
  top: 4px;
  bottom: 4px;
  padding: 2px 6px 4px;
  display: grid;
  grid-template-rows: 18px 1fr;
  background: var(--ink-2);
  border-color: #4a4359;
}
.name {
  font-size: 12px;
}
.thumbs {
  display: flex;
  gap: 3px;
  min-height: 0;
  pointer-events: none;
}
.thumbs img {
  flex: 1;
  min-width: 0;
  height: 100%;
  object-fit: cover;
  border-radius: 3px;
}
.into {
  position: absolute;
  left: 0;
  top: 20px;
  bottom: 0;
  max-width: 100%;
  background: linear-gradient(to bottom right, var(--bone) 50%, transparent 50%);
  opacity: 0.45;
  pointer-events: none;
}
.music {
  position: absolute;
  inset: 4px 0;
  padding: 0;
  border: 1px solid transparent;
  border-radius: 6px;
  background: var(--ink-0);
  color: var(--bone);
  font: inherit;
  text-align: left;
  overflow: hidden;
}
.music svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.music .name {
  position: absolute;
  left: 8px;
  top: 2px;
  text-shadow: 0 0 4px #000;
}
.music.none {
  border: 1px dashed var(--line);
  text-align: center;
}
.nothing {
  margin: 0;
  padding: 26px 12px;
}
</style>
