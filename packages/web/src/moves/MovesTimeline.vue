<script setup lang="ts">
import { useActions } from '../actions/index.ts';
import { mdiPause, mdiPlay } from '@mdi/js';
import { computed, ref } from 'vue';
import { deleteKeys, easeKeys, findThing, moveKeys, propertyOf, type Track } from '@tender-orbit/core/document';
import { snapToBeat } from '@tender-orbit/core/time';
import { useCampaign, useDocuments, usePlayhead, useStage } from '../stores/index.ts';
import { ROLE_COLOUR } from '../things/role.ts';
import { frameUnder, percent } from '../timeline/lane.ts';
import LaneLines from '../timeline/LaneLines.vue';
import TimeRuler from '../timeline/TimeRuler.vue';
import { chosenEase, easeName, easeOptions } from './ease-choices.ts';
import { useKeySelection } from './use-key-selection.ts';
import { useShotBeats } from './use-shot-beats.ts';
import { IconButton, PickCard, UiButton, openContextMenu } from '../ui/index.ts';

const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const stage = useStage();
const grid = useShotBeats();
const selection = useKeySelection();
const snap = ref(true);
const lanes = ref<HTMLElement>();
const length = computed(() => campaign.shot?.length ?? 1);
/** A drag shows where keys will land; the document changes once, on release, so keys passed over stay. */
const drag = ref<{ from: number; by: number; moved: boolean } | null>(null);

const rows = computed(() => {
  const { set, shot } = campaign;
  if (!set || !shot) return [];
  const order = stage.things.map((t) => t.id);
  let last = '';
  return [...shot.tracks]
    .sort((a, b) => order.indexOf(a.thing) - order.indexOf(b.thing) || a.path.localeCompare(b.path))
    .map((track) => {
      const found = findThing(set, track.thing);
      const name = track.thing === last ? '' : (found?.name ?? 'deleted');
      last = track.thing;
      return {
        track,
        id: `${track.thing} ${track.path}`,
        name,
        property: (found && propertyOf(found, track.path)?.label.toLowerCase()) ?? track.path,
        colour: found ? ROLE_COLOUR[found.role] : 'var(--bone-dim)',
      };
    });
});

function offsetOf(track: Track, frame: number): number {
  return drag.value && selection.has(track, frame) ? drag.value.by : 0;
}
function start(event: PointerEvent, track: Track, frame: number): void {
  if (event.button !== 0) return;
  if (event.shiftKey) selection.toggle(track, frame);
  else if (!selection.has(track, frame)) selection.only(track, frame);
  stage.selected = track.thing;
  drag.value = { from: frame, by: 0, moved: false };
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  if (!drag.value || event.buttons !== 1) return;
  const raw = frameUnder(event.clientX, lanes.value!.getBoundingClientRect(), length.value);
  const whole = Math.round(raw);
  const to =
    snap.value && grid.value && !event.altKey
      ? snapToBeat(grid.value, campaign.rate, whole, Math.max(2, length.value / 60))
      : whole;
  const by = Math.min(length.value, Math.max(0, to)) - drag.value.from;
  drag.value = { ...drag.value, by, moved: drag.value.moved || by !== 0 };
}
function end(frame: number): void {
  const done = drag.value;
  drag.value = null;
  if (!done) return;
  if (!done.moved) playhead.seek(frame, length.value);
  else shift(done.by);
}
/** Moves all chosen keys. */
function shift(by: number): void {
  if (by === 0) return;
  const chosen = selection.list();
  if (chosen.some((k) => k.frame + by < 0)) return;
  documents.run('shot', campaign.shotId, moveKeys(chosen, by));
  selection.replace(chosen.map((k) => ({ ...k, frame: k.frame + by })));
}
function remove(): void {
  documents.run('shot', campaign.shotId, deleteKeys(selection.list()));
  selection.clear();
}
function onKey(event: KeyboardEvent, track: Track, frame: number): void {
  if (event.key === 'Enter' || event.key === ' ') selection.only(track, frame);
  else if (event.key === 'Delete') remove();
  else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
    if (!selection.has(track, frame)) selection.only(track, frame);
    shift(event.key === 'ArrowLeft' ? -1 : 1);
  } else return;
  event.preventDefault();
  event.stopPropagation();
}
const actions = useActions();
const linked = computed(() => campaign.shot?.eases ?? []);
/** What can be done with a key, or with all that are chosen when it is one of them. */
function openMenu(event: MouseEvent, track: { thing: string; path: string }, frame: number): void {
  if (!selection.has(track, frame)) selection.only(track, frame);
  openContextMenu(event, [
    ...easeOptions(linked.value).map(({ value, title }) => ({
      title,
      run: () => documents.run('shot', campaign.shotId, easeKeys(selection.list(), chosenEase(value))),
    })),
    null,
    ...actions.lines(['key.delete']),
  ]);
}
</script>

<template>
  <section class="card time" aria-label="Timeline" data-test="moves-timeline">
    <div class="row head">
      <IconButton
        :icon="playhead.playing ? mdiPause : mdiPlay"
        :label="playhead.playing ? 'Stop' : 'Play'"
        action="time.play"
        @click="playhead.play(length, campaign.rate)"
      />
      <UiButton
        :pressed="snap && !!grid"
        :disabled="!grid"
        :tip="grid ? 'Keys land on beats; Alt while dragging does not' : 'The promo has no music under this shot yet'"
        @click="snap = !snap"
      >
        Snap to beats
      </UiButton>
      <span class="spread" />
      <span class="dim">{{
        selection.count.value
          ? `${selection.count.value} chosen`
          : 'Drag beads along their thread; Shift chooses several'
      }}</span>
    </div>
    <div class="table scroll">
      <span class="corner dim mono">{{ campaign.shot?.name }}</span>
      <TimeRuler
        :length="length"
        :rate="campaign.rate"
        :grid="grid"
        :frame="playhead.frame"
        @seek="(f) => playhead.seek(f, length)"
      />
      <div class="labels">
        <PickCard
          v-for="row in rows"
          :key="row.id"
          class="label"
          :on="stage.selected === row.track.thing"
          @click="stage.selected = row.track.thing"
        >
          <strong class="clip" :style="{ color: row.colour }">{{ row.name }}</strong><span class="clip">{{
            row.property
          }}</span>
        </PickCard>
      </div>
      <div ref="lanes" class="lanes">
        <div v-for="row in rows" :key="row.id" class="lane" :class="{ here: stage.selected === row.track.thing }">
          <span
            class="thread"
            :style="{
              left: percent(row.track.keys[0].frame, length),
              width: percent(row.track.keys.at(-1)!.frame - row.track.keys[0].frame, length),
              background: row.colour,
            }"
          />
          <button
            v-for="key in row.track.keys"
            :key="key.frame"
            type="button"
            class="bead"
            :class="[
              typeof key.ease === 'string' ? key.ease : 'shaped',
              { chosen: selection.has(row.track, key.frame) },
            ]"
            :style="{ left: percent(key.frame + offsetOf(row.track, key.frame), length), '--bead': row.colour }"
            :aria-label="`Key of ${row.property} at frame ${key.frame + 1}, ${easeName(key.ease, linked)}`"
            :aria-pressed="selection.has(row.track, key.frame)"
            data-test="bead"
            @contextmenu="openMenu($event, row.track, key.frame)"
            @pointerdown="start($event, row.track, key.frame)"
            @pointermove="move"
            @pointerup="end(key.frame)"
            @keydown="onKey($event, row.track, key.frame)"
          />
        </div>
        <p v-if="rows.length === 0" class="dim nothing">
          Nothing moves in this shot yet. Apply a recipe, or press the bead beside a number to key it at the playhead.
        </p>
        <LaneLines :length="length" :rate="campaign.rate" :grid="grid" :frame="playhead.frame" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.time {
  display: grid;
  grid-template-rows: 36px 1fr;
  min-height: 0;
}
.head {
  padding: 4px 10px 0;
}
.table {
  display: grid;
  grid-template-columns: 190px 1fr;
  grid-template-rows: 36px 1fr;
  padding: 0 30px 8px 10px;
}
.corner {
  align-self: center;
}
.label {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 8px;
  width: 100%;
  height: 27px;
  align-items: center;
  padding: 0 6px;
  border: 0;
  border-radius: 6px 0 0 6px;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.label.here,
.lane.here {
  background: var(--ink-2);
}
.lanes {
  position: relative;
  min-height: 54px;
}
.lane {
  position: relative;
  height: 27px;
  box-shadow: inset 0 -1px var(--ink-0);
}
.thread {
  position: absolute;
  top: 13px;
  height: 1.5px;
  opacity: 0.7;
}
.bead {
  position: absolute;
  z-index: 3;
  top: 7px;
  width: 13px;
  height: 13px;
  margin-left: -6.5px;
  padding: 0;
  border: 2px solid var(--bead);
  border-radius: 50%;
  background: var(--bead);
  cursor: grab;
  touch-action: none;
}
.bead.linear {
  background: var(--ink-1);
}
.bead.hold {
  border-radius: 2px;
}
.bead.shaped::after {
  position: absolute;
  inset: 2px;
  border-radius: 50%;
  background: var(--ink-1);
  content: '';
}
.bead.chosen {
  box-shadow: 0 0 0 3px var(--coral);
}
.nothing {
  margin: 0;
  padding: 16px 12px;
}
</style>
