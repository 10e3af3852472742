<script setup lang="ts">
import { mdiChartBellCurveCumulative, mdiChevronDown, mdiChevronUp, mdiPlus } from '@mdi/js';
import { computed, nextTick, ref, toRaw } from 'vue';
import { useCampaign, usePlayhead, useRack, useSelection, useStage } from '../stores/index.ts';
import { isNumber } from '../timeline/graph/graph-lines.ts';
import { useGraph } from '../timeline/graph/use-graph.ts';
import ValueGraph from '../timeline/graph/ValueGraph.vue';
import LaneLines from '../timeline/LaneLines.vue';
import { percent } from '../timeline/lane.ts';
import TimeRuler from '../timeline/TimeRuler.vue';
import { IconButton, MenuButton, PickCard, openContextMenu } from '../ui/index.ts';
import { useFilm } from '../viewer/film.ts';
import LayerSpan from './LayerSpan.vue';
import MaskShapesLane from './MaskShapesLane.vue';
import MovesBar from './MovesBar.vue';
import RecipeBar from './RecipeBar.vue';
import RipenessRibbon from './RipenessRibbon.vue';
import RuleTags from './RuleTags.vue';
import ScreenSpeed from './speed/ScreenSpeed.vue';
import SpeedLabel from './speed/SpeedLabel.vue';
import { useScreenSpeed } from './speed/use-screen-speed.ts';
import { useRules } from './rules/use-rules.ts';
import ThreadLane from './ThreadLane.vue';
import { layerRows, timelineRows, type ThreadRow, type TimelineRow } from './timeline-rows.ts';
import { useBoxSelect } from './use-box-select.ts';
import { useKeySelection } from './use-key-selection.ts';
import { useKeyTools } from './use-key-tools.ts';
import { useLane } from './use-lane.ts';
import { subjectIn } from '../things/own-subject.ts';
import { useShotGraph } from './use-shot-graph.ts';
import { useMoveSelection } from '../things/use-move-selection.ts';
import { useShotBeats, useShotParts } from './use-shot-beats.ts';

/** Of the set's things, or of the composite's layers. */
const { layers = false } = defineProps<{ layers?: boolean }>();
const campaign = useCampaign();
const rack = useRack();
const playhead = usePlayhead();
const stage = useStage();
const things = useSelection();
const grid = useShotBeats();
const parts = useShotParts();
const selection = useKeySelection();
const moves = useMoveSelection();
const graph = useGraph();
const film = useFilm();
const rules = useRules();
const tools = useKeyTools();
const speed = useScreenSpeed();
const snap = ref(true);
const lanes = ref<HTMLElement>();
const table = ref<HTMLElement>();
const zoom = ref(1);
/** Pixels of the column of names. */
const LABELS = 190;
const length = computed(() => campaign.shot?.length ?? 1);
/** A drag shows where keys will land; the document changes once, on release, so keys passed over stay. */
const drag = ref<{ from: number; by: number; moved: boolean } | null>(null);
const box = useBoxSelect(lanes);

/** What a row is called besides its thing; threads have names of their own. */
const WORD: Record<TimelineRow['kind'], string> = {
  thread: '',
  recipe: 'recipe',
  rules: 'rules',
  ripeness: 'simulated',
  span: 'seen',
  shapes: 'mask shapes',
  parts: '',
};
function wordOf(row: TimelineRow): string {
  if (row.kind === 'parts') return `${row.parts} parts`;
  return WORD[row.kind] || (row as ThreadRow).label;
}
/** Things whose many parts have a row each. */
const unfolded = ref<ReadonlySet<string>>(new Set());
function fold(thing: string): void {
  const next = new Set(unfolded.value);
  if (!next.delete(thing)) next.add(thing);
  unfolded.value = next;
}
const rows = computed(() => {
  const { set, shot } = campaign;
  if (!set || !shot) return [];
  if (layers) return layerRows(toRaw(shot));
  return timelineRows(
    toRaw(set),
    toRaw(shot),
    stage.things.map((t) => t.id),
    moves.recipe.value?.id ?? '',
    (thing, path) => subjectIn(campaign, thing, path),
    unfolded.value,
  );
});
/** The thing or layer in hand. */
const inHand = computed(() => (layers ? rack.chosen : stage.selected));
function choose(id: string): void {
  if (layers) rack.chosen = id;
  else stage.selected = id;
}
const threads = computed(() => rows.value.filter((row): row is ThreadRow => row.kind === 'thread'));
const graphed = computed(() => threads.value.filter((row) => graph.has(row.id)));
const shotGraph = useShotGraph();
/** The row that the graph hangs under: the first of those that are there in this shot. */
const graphHost = computed(() => graphed.value[0]?.id ?? '');
/** Frames of keys that are not chosen: chosen ones snap to them. */
const otherKeys = (): number[] =>
  threads.value.flatMap((row) => row.track.keys.filter((k) => !selection.has(row.track, k.frame)).map((k) => k.frame));
const lane = useLane(lanes, snap, grid, otherKeys);

function take(event: PointerEvent, row: ThreadRow, frame: number): void {
  if (event.button !== 0) return;
  if (event.shiftKey) selection.toggle(row.track, frame);
  else if (!selection.has(row.track, frame)) selection.only(row.track, frame);
  choose(row.thing);
  drag.value = { from: frame, by: 0, moved: false };
  (event.currentTarget as HTMLElement | null)?.setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  if (!drag.value || event.buttons !== 1) return;
  const by = lane.frameAt(event) - drag.value.from;
  drag.value = { ...drag.value, by, moved: drag.value.moved || by !== 0 };
}
function put(frame: number): void {
  const done = drag.value;
  drag.value = null;
  if (!done) return;
  if (done.moved) tools.shift(done.by);
  else playhead.seek(Math.round(frame), length.value);
}

/** Chooses a thing, or all keys of a thread when it is its thing already. */
function chooseRow(event: MouseEvent, row: TimelineRow): void {
  if (row.kind === 'recipe') moves.choose('recipe', row.recipe.id);
  else if (row.kind === 'thread' && !row.made && (event.shiftKey || inHand.value === row.thing)) {
    const own = row.track.keys.map(({ frame }) => ({ thing: row.track.thing, path: row.track.path, frame }));
    selection.replace(event.shiftKey ? [...selection.list(), ...own] : own);
  }
  if (layers) rack.chosen = row.thing;
  else things.pick(row.thing);
}
function openRowMenu(event: MouseEvent, row: TimelineRow): void {
  if (row.kind === 'recipe' || layers) return;
  const lines = row.kind === 'thread' && !row.made ? rules.threadLines(row.track.thing, row.track.path) : [];
  openContextMenu(event, [
    ...(lines.length > 0 ? [{ heading: 'Rule on this thread' }, ...lines] : []),
    ...rules.thingLines(row.thing),
  ]);
}
/** Opens or closes a graph, and brings it into sight. */
async function openGraph(id: string, more: boolean): Promise<void> {
  graph.toggle(id, more);
  await nextTick();
  table.value?.querySelector('[data-test=graph]')?.scrollIntoView?.({ block: 'nearest' });
}

/** Makes the timeline wider about the playhead. */
async function setZoom(to: number): Promise<void> {
  zoom.value = Math.min(60, Math.max(1, to));
  await nextTick();
  const area = table.value;
  if (!area) return;
  const at = (playhead.frame / length.value) * (area.scrollWidth - LABELS);
  area.scrollLeft = at - (area.clientWidth - LABELS) / 2;
}
function wheel(event: WheelEvent): void {
  if (!event.ctrlKey) return;
  event.preventDefault();
  void setZoom(zoom.value * (event.deltaY < 0 ? 1.25 : 0.8));
}
</script>

<template>
  <section class="card time" :class="{ recording: stage.recording }" aria-label="Timeline" data-test="moves-timeline">
    <MovesBar v-model:snap="snap" :layers="layers" @zoom="(times) => setZoom(zoom * times)"><slot /></MovesBar>
    <div ref="table" class="table scroll" @wheel="wheel">
      <div class="wide" :style="{ width: `calc(${LABELS}px + (100% - ${LABELS}px) * ${zoom})` }">
        <span class="corner dim mono clip">{{ campaign.shot?.name }}</span>
        <TimeRuler
          class="ruler"
          :length="length"
          :rate="campaign.rate"
          :grid="grid"
          :parts="parts"
          :ready="film.ready"
          :range="playhead.range"
          :frame="playhead.frame"
          @seek="(f) => playhead.seek(f, length)"
          @range="(from, to) => playhead.loop({ from, to }, length)"
        />
        <div class="labels">
          <SpeedLabel v-if="!layers && speed.open.value" />
          <template v-for="row in rows" :key="row.id">
            <div class="label" :class="{ here: inHand === row.thing }" @contextmenu="openRowMenu($event, row)">
              <PickCard class="pick" :on="inHand === row.thing" @click="chooseRow($event, row)">
                <strong class="clip" :style="{ color: row.colour }">{{ row.name }}</strong>
                <span class="clip">{{ wordOf(row) }}</span>
              </PickCard>
              <IconButton
                v-if="row.kind === 'thread' && isNumber(row.property)"
                small
                :icon="mdiChartBellCurveCumulative"
                :label="`Graph of ${row.label}: Shift lays it over what is open`"
                :pressed="graph.has(row.id)"
                data-test="open-graph"
                @click="openGraph(row.id, ($event as MouseEvent).shiftKey)"
              />
              <IconButton
                v-else-if="row.kind === 'parts'"
                small
                :icon="row.open ? mdiChevronUp : mdiChevronDown"
                :label="row.open ? 'One row for all parts' : 'A row for each key of the parts'"
                data-test="fold-parts"
                @click="fold(row.thing)"
              />
              <MenuButton
                v-else-if="row.kind === 'rules'"
                small
                :icon="mdiPlus"
                label="Add rule"
                :lines="rules.thingLines(row.thing)"
              />
            </div>
            <div v-if="row.id === graphHost" :style="{ height: `${graph.height.value}px` }" />
          </template>
        </div>
        <div ref="lanes" class="lanes" @pointerdown.self="box.begin" @pointermove="box.stretch" @pointerup="box.finish">
          <ScreenSpeed v-if="!layers && speed.open.value" :length="length" />
          <template v-for="row in rows" :key="row.id">
            <div class="lane" :class="{ here: inHand === row.thing }">
              <RipenessRibbon v-if="row.kind === 'ripeness'" :id="row.thing" :length="length" />
              <LayerSpan v-else-if="row.kind === 'span'" :layer="row.layer" :length="length" :lane="lane" />
              <MaskShapesLane v-else-if="row.kind === 'shapes'" :layer="row.layer" :length="length" :lane="lane" />
              <RecipeBar v-else-if="row.kind === 'recipe'" :row="row" :length="length" :lane="lane" />
              <span
                v-else-if="row.kind === 'parts'"
                class="parts"
                :style="{
                  left: percent(row.from, length),
                  width: percent(row.to - row.from, length),
                  background: row.colour,
                }"
              />
              <ThreadLane
                v-else-if="row.kind === 'thread'"
                :row="row"
                :length="length"
                :offset="drag?.by ?? 0"
                @take="(event, frame) => take(event, row, frame)"
                @drag="move"
                @put="put"
                @shift="tools.shift"
                @remove="tools.remove"
              />
              <RuleTags v-if="row.rules.length" :rules="row.rules" />
            </div>
            <ValueGraph
              v-if="row.id === graphHost"
              :host="shotGraph"
              :rows="graphed"
              :length="length"
              @close="graph.close"
            />
          </template>
          <p v-if="rows.length === 0" class="dim nothing">
            Nothing moves in this shot yet. Press a recipe, or the bead beside a value to key it at the playhead.
          </p>
          <LaneLines :length="length" :rate="campaign.rate" :grid="grid" :frame="playhead.frame" />
          <span v-if="box.style.value" class="box" :style="box.style.value" />
        </div>
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
.time.recording {
  box-shadow: inset 0 0 0 2px var(--coral);
}
.table {
  padding: 0 8px 8px 10px;
}
.wide {
  display: grid;
  grid-template-columns: 190px 1fr;
  grid-template-rows: 36px auto;
  min-height: 100%;
}
.corner,
.labels {
  position: sticky;
  z-index: 8;
  left: -10px;
  background: var(--ink-1);
}
.corner,
.wide > .ruler {
  position: sticky;
  z-index: 9;
  top: 0;
  background: var(--ink-1);
}
.corner {
  z-index: 10;
  height: 36px;
  padding-top: 10px;
}
.label {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  height: 27px;
  border-radius: 6px 0 0 6px;
}
.pick {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 6px;
  height: 27px;
  align-items: center;
  padding: 0 6px;
  border: 0;
  background: transparent;
  font: inherit;
  text-align: left;
}
.label.here,
.lane.here {
  background: var(--ink-2);
}
.ruler,
.lanes {
  margin: 0 22px 0 24px;
}
.lanes {
  position: relative;
  min-height: 54px;
}
.lane {
  position: relative;
  height: 27px;
  box-shadow: inset 0 -1px var(--ink-0);
  pointer-events: none;
}
.lane > :deep(*) {
  pointer-events: auto;
}
.box {
  position: absolute;
  z-index: 6;
  border: 1px solid var(--celadon);
  background: color-mix(in srgb, var(--celadon) 16%, transparent);
  pointer-events: none;
}
.parts {
  position: absolute;
  top: 10px;
  height: 7px;
  border-radius: 3px;
  opacity: 0.55;
}
.nothing {
  margin: 0;
  padding: 16px 12px;
  pointer-events: none;
}
</style>
