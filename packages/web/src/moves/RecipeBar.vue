<script setup lang="ts">
import { changeRecipe, removeRecipe } from '@tender-orbit/core/document';
import { dissolveRecipe } from '@tender-orbit/core/motion';
import { computed, toRaw } from 'vue';
import { useCampaign, useDocuments, useSelection } from '../stores/index.ts';
import { percent } from '../timeline/lane.ts';
import { openContextMenu } from '../ui/index.ts';
import { recipeTip, type RecipeRow } from './timeline-rows.ts';
import { useBar } from './use-bar.ts';
import type { Lane } from './use-lane.ts';
import { useMoveSelection } from '../things/use-move-selection.ts';

/** A recipe as one bar: dragged along the timeline, longer or shorter at its ends, opened by choosing it. */
const { row, length, lane } = defineProps<{ row: RecipeRow; length: number; lane: Lane }>();
const campaign = useCampaign();
const documents = useDocuments();
const selection = useSelection();
const moves = useMoveSelection();
const recipe = computed(() => row.recipe);
function choose(): void {
  moves.choose('recipe', recipe.value.id);
  selection.pick(row.thing);
}
const { take, drag, letGo, onKey } = useBar(() => lane, {
  span: () => ({ start: recipe.value.start, end: recipe.value.start + recipe.value.length }),
  put: (start, end, gesture) => {
    if (start === recipe.value.start && end - start === recipe.value.length) return;
    documents.run('shot', campaign.shotId, changeRecipe(recipe.value.id, { start, length: end - start }), gesture);
  },
  // Things that begin one after the other need longer than each.
  beyond: () => row.end - recipe.value.start - recipe.value.length,
  choose,
  remove,
});
function remove(): void {
  documents.run('shot', campaign.shotId, removeRecipe(recipe.value.id));
  moves.clear();
}
function openMenu(event: MouseEvent): void {
  choose();
  const { id, muted } = recipe.value;
  openContextMenu(event, [
    {
      title: 'Dissolve into keys',
      run: () => documents.run('shot', campaign.shotId, dissolveRecipe(toRaw(campaign.set!), id)),
    },
    {
      title: muted ? 'Unmute' : 'Mute',
      run: () => documents.run('shot', campaign.shotId, changeRecipe(id, { muted: !muted })),
    },
    null,
    { title: 'Remove', run: remove },
  ]);
}
</script>

<template>
  <div
    class="bar"
    role="button"
    tabindex="0"
    :class="{ on: moves.is(recipe.id), muted: recipe.muted }"
    :style="{
      left: percent(recipe.start, length),
      width: percent(row.end - recipe.start, length),
      '--bar': row.colour,
    }"
    :title="recipeTip(recipe)"
    :aria-label="`Recipe ${recipe.name}, frames ${recipe.start + 1} to ${row.end + 1}: arrow keys move it, with Shift its end`"
    :aria-pressed="moves.is(recipe.id)"
    data-test="recipe-bar"
    @pointerdown="take($event, 'whole')"
    @pointermove="drag"
    @pointerup="letGo"
    @keydown="onKey"
    @contextmenu="openMenu"
  >
    <i class="end" @pointerdown.stop="take($event, 'start')" @pointermove.stop="drag" @pointerup.stop="letGo" />
    <span class="clip">{{ recipe.name }}</span>
    <i class="end" @pointerdown.stop="take($event, 'end')" @pointermove.stop="drag" @pointerup.stop="letGo" />
  </div>
</template>

<style scoped>
.bar {
  position: absolute;
  z-index: 3;
  top: 4px;
  display: grid;
  grid-template-columns: 7px minmax(0, 1fr) 7px;
  align-items: center;
  height: 19px;
  min-width: 18px;
  border: 1px solid color-mix(in srgb, var(--bar) 70%, transparent);
  border-radius: 9.5px;
  background: color-mix(in srgb, var(--bar) 20%, var(--ink-1));
  color: var(--bone);
  font-size: 12px;
  line-height: 17px;
  cursor: grab;
  touch-action: none;
  user-select: none;
}
.bar.on {
  border-color: var(--coral);
  box-shadow: 0 0 0 1px var(--coral);
}
.bar.muted {
  opacity: 0.45;
}
.end {
  align-self: stretch;
  cursor: ew-resize;
  touch-action: none;
}
</style>
