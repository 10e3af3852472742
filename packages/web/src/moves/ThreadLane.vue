<script setup lang="ts">
import { useActions } from '../actions/index.ts';
import { easeKeys } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { percent } from '../timeline/lane.ts';
import { openContextMenu } from '../ui/index.ts';
import { chosenEase, easeName, easeOptions } from './ease-choices.ts';
import type { ThreadRow } from './timeline-rows.ts';
import { useKeySelection } from './use-key-selection.ts';

/** A thread with its beads. Those that a recipe made are only looked at. */
const { row, length, offset } = defineProps<{
  row: ThreadRow;
  length: number;
  /** Frames that chosen keys are being dragged by. */
  offset: number;
}>();
const emit = defineEmits<{
  take: [event: PointerEvent, frame: number];
  drag: [event: PointerEvent];
  put: [frame: number];
  shift: [by: number];
  remove: [];
}>();
const campaign = useCampaign();
const documents = useDocuments();
const selection = useKeySelection();
const actions = useActions();
const linked = computed(() => campaign.shot?.eases ?? []);
const at = (frame: number): string => percent(selection.has(row.track, frame) ? frame + offset : frame, length);

function onKey(event: KeyboardEvent, frame: number): void {
  if (event.ctrlKey || event.metaKey) return;
  if (event.key === 'Enter' || event.key === ' ') {
    if (event.shiftKey) selection.toggle(row.track, frame);
    else selection.only(row.track, frame);
  } else if (event.key === 'Delete') emit('remove');
  else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
    if (!selection.has(row.track, frame)) selection.only(row.track, frame);
    emit('shift', event.key === 'ArrowLeft' ? -1 : 1);
  } else return;
  event.preventDefault();
  event.stopPropagation();
}
/** What can be done with a key, or with all that are chosen when it is one of them. */
function openMenu(event: MouseEvent, frame: number): void {
  if (!selection.has(row.track, frame)) selection.only(row.track, frame);
  openContextMenu(event, [
    ...actions.lines(['key.copy', 'key.duplicate', 'key.reverse', 'key.mirror', 'key.beats', 'key.delete']),
    { heading: 'Ease' },
    ...easeOptions(linked.value).map(({ value, title }) => ({
      title,
      run: () => documents.run('shot', campaign.shotId, easeKeys(selection.list(), chosenEase(value))),
    })),
  ]);
}
</script>

<template>
  <span
    class="thread"
    :style="{
      left: percent(row.track.keys[0].frame, length),
      width: percent(row.track.keys.at(-1)!.frame - row.track.keys[0].frame, length),
      background: row.colour,
    }"
  />
  <template v-if="row.made">
    <i
      v-for="key in row.track.keys"
      :key="key.frame"
      class="bead made"
      :style="{ left: percent(key.frame, length), '--bead': row.colour }"
    />
  </template>
  <template v-else>
    <button
      v-for="key in row.track.keys"
      :key="key.frame"
      type="button"
      class="bead"
      :class="[typeof key.ease === 'string' ? key.ease : 'shaped', { chosen: selection.has(row.track, key.frame) }]"
      :style="{ left: at(key.frame), '--bead': row.colour }"
      :aria-label="`Key of ${row.label} at frame ${key.frame + 1}, ${easeName(key.ease, linked)}`"
      :aria-pressed="selection.has(row.track, key.frame)"
      :data-key="`${row.track.thing} ${row.track.path} ${key.frame}`"
      data-test="bead"
      @contextmenu="openMenu($event, key.frame)"
      @pointerdown.stop="emit('take', $event, key.frame)"
      @pointermove="emit('drag', $event)"
      @pointerup="emit('put', key.frame)"
      @keydown="onKey($event, key.frame)"
    />
  </template>
</template>

<style scoped>
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
.bead.made {
  top: 10px;
  width: 7px;
  height: 7px;
  margin-left: -3.5px;
  border-width: 1px;
  background: transparent;
  cursor: default;
}
</style>
