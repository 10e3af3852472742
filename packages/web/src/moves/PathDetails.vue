<script setup lang="ts">
import {
  changePath,
  removePath,
  type Command,
  type PathPoint,
  type Point,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { curveOfPath } from '@tender-orbit/core/motion';
import { place } from '@tender-orbit/core/properties';
import { computed, toRaw } from 'vue';
import AnyField from '../controls/AnyField.vue';
import { lengthWords } from '../controls/size-words.ts';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { CheckField, FieldRow, KeyBead, MoreFields, SelectField, TextField, UiButton } from '../ui/index.ts';
import { useMoveSelection } from '../things/use-move-selection.ts';
import { usePathPoints } from '../things/use-path-points.ts';

/** The path in hand: its points by number; they are dragged in the orbit plan. */
const campaign = useCampaign();
const documents = useDocuments();
const { path, rule, choose, clear } = useMoveSelection();
/** A ride shows the path that it goes along too. */
const shown = computed(() => {
  const ride = rule.value?.kind === 'ride' ? rule.value.target : '';
  return path.value ?? campaign.shot?.paths.find((p) => p.id === ride);
});
const points = usePathPoints();
/** As it is at the playhead. */
const now = computed(() => points.paths.value.find((p) => p.id === shown.value?.id) ?? shown.value!);
const POINT = place('Point', ['Across', 'Height', 'Forward']);
const length = computed(() => (shown.value ? lengthWords(curveOfPath(toRaw(now.value)).length) : ''));

function run(command: Command<ShotDocument>, gesture = ''): void {
  documents.run('shot', campaign.shotId, command, gesture);
}
function setPoints(all: PathPoint[]): void {
  run(changePath(shown.value!.id, { points: all }));
}
/** A point in the middle of what follows the one given, or on from the last one. */
function add(index: number): void {
  const { points, closed } = shown.value!;
  const [a, b] = [points[index], points[index + 1] ?? (closed ? points[0] : undefined)];
  const before = points[index - 1] ?? points[0];
  const at = a.at.map((v, axis) => (b ? (v + b.at[axis]) / 2 : 2 * v - before.at[axis])) as PathPoint['at'];
  setPoints(points.toSpliced(index + 1, 0, { id: freshId('point'), at, handles: null }));
}
const drop = (index: number): void => setPoints(shown.value!.points.toSpliced(index, 1));
function remove(): void {
  run(removePath(shown.value!.id));
  clear();
}
const all = computed(() => campaign.shot?.paths.map(({ id, name }) => ({ value: id, title: name })) ?? []);
</script>

<template>
  <section v-if="shown" class="card path" aria-label="Path" data-test="path-details">
    <div class="row">
      <h2 class="clip">{{ shown.name }}</h2>
      <span class="dim mono">{{ length }}</span>
      <span class="spread" />
      <UiButton tip="What rides on it stays where it is by itself" @click="remove">Remove path</UiButton>
    </div>
    <FieldRow v-if="path && all.length > 1" label="Path">
      <SelectField label="Which path" :options="all" :value="shown.id" @change="(id) => choose('path', id)" />
    </FieldRow>
    <FieldRow label="Name">
      <TextField
        label="Name of the path"
        :value="shown.name"
        @change="(name) => run(changePath(shown!.id, { name }))"
      />
    </FieldRow>
    <CheckField label="Closed" :value="shown.closed" @change="(closed) => run(changePath(shown!.id, { closed }))" />
    <MoreFields :title="`${shown.points.length} points`">
      <template v-for="(point, i) in now.points" :key="point.id">
        <div class="row point">
          <KeyBead :label="`point ${i + 1}`" :keyed="points.keyed(now, point)" @key="points.toggle(now, point)" />
          <span>Point {{ i + 1 }}</span>
          <span class="spread" />
          <UiButton
            :pressed="point.handles !== null"
            tip="Handles of its own; without, it goes as smoothly as its neighbours allow"
            @click="points.bend(now, i)"
          >
            Handles
          </UiButton>
          <UiButton @click="add(i)">Add after</UiButton>
          <UiButton :disabled="shown.points.length < 3" @click="drop(i)">Remove</UiButton>
        </div>
        <AnyField
          :property="POINT"
          :value="point.at"
          @change="(at, gesture) => points.put(now, point, at as Point, gesture)"
        />
      </template>
    </MoreFields>
  </section>
</template>

<style scoped>
.path {
  display: grid;
  gap: 4px;
  padding: 12px 14px;
}
.point {
  margin-top: 6px;
}
</style>
