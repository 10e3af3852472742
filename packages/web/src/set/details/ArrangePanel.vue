<script setup lang="ts">
import {
  mdiAlignHorizontalCenter,
  mdiAlignHorizontalLeft,
  mdiAlignHorizontalRight,
  mdiAlignVerticalBottom,
  mdiAlignVerticalCenter,
  mdiAlignVerticalTop,
  mdiDistributeHorizontalCenter,
  mdiFlipHorizontal,
  mdiGroup,
  mdiUngroup,
} from '@mdi/js';
import { ref } from 'vue';
import { align, distribute, mirrorCopies, setTogether, type AlignTo, type Axis } from '@tender-orbit/core/staging';
import type { SetDocument } from '@tender-orbit/core/document';
import { boxedThings, useNotices, useSelection, useStage } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import { useTableau } from '../../viewer/use-tableau.ts';
import { IconButton, NumberField, UiButton } from '../../ui/index.ts';

/** What is done with several things at once; the one chosen first stays where it is. */
const notices = useNotices();
const selection = useSelection();
const stage = useStage();
const tableau = useTableau();
const gap = ref(1);

const ALIGN: Array<[Axis, AlignTo, string, string]> = [
  [0, 'low', 'Align left sides', mdiAlignHorizontalLeft],
  [0, 'middle', 'Align middles across', mdiAlignHorizontalCenter],
  [0, 'high', 'Align right sides', mdiAlignHorizontalRight],
  [2, 'high', 'Align fronts', mdiAlignVerticalBottom],
  [2, 'middle', 'Align middles in depth', mdiAlignVerticalCenter],
  [2, 'low', 'Align backs', mdiAlignVerticalTop],
];
function things() {
  return tableau.value ? boxedThings(selection.all, tableau.value, stage.posed as SetDocument) : [];
}
function guarded(label: string, make: () => ReturnType<typeof align>): void {
  try {
    selection.moveBy(make(), label);
  } catch (error) {
    notices.refuse((error as Error).message);
  }
}
/** A mirror image of every chosen product beside the first, across the middle of the set. */
function copies(): void {
  stage.run(mirrorCopies(selection.all, freshId));
}
</script>

<template>
  <section aria-label="Arrange" data-test="arrange">
    <h2>{{ selection.all.length }} things</h2>
    <p class="dim">Aligned to {{ stage.thing?.name }}, which was chosen first.</p>
    <div class="row wrap">
      <IconButton
        v-for="[axis, to, label, icon] in ALIGN"
        :key="label"
        :icon="icon"
        :label="label"
        @click="guarded(label, () => align(things(), axis, to))"
      />
      <IconButton
        :icon="mdiDistributeHorizontalCenter"
        label="Same gaps across"
        @click="guarded('Distribute', () => distribute(things(), 0, 'gaps'))"
      />
    </div>
    <div class="row wrap">
      <UiButton @click="guarded('Distribute middles', () => distribute(things(), 0, 'middles'))">
        Same middles
      </UiButton>
      <UiButton @click="guarded('Set together', () => setTogether(things(), 0, gap / 1000))"> Set together </UiButton>
    </div>
    <NumberField label="Gap" unit="mm" :value="gap" :min="0" :max="10000" :step="0.5" @change="(v) => (gap = v)" />
    <div class="row wrap">
      <IconButton
        :icon="mdiGroup"
        label="Group: they move together"
        @click="selection.changeAll('Group', { group: `Group ${freshId('g').slice(2, 6)}` })"
      />
      <IconButton :icon="mdiUngroup" label="Ungroup" @click="selection.changeAll('Ungroup', { group: '' })" />
      <IconButton :icon="mdiFlipHorizontal" label="Mirror copies across the middle" @click="copies" />
      <UiButton @click="selection.changeAll('Lock', { locked: true })">Lock</UiButton>
      <UiButton @click="selection.changeAll('Unlock', { locked: false })">Unlock</UiButton>
    </div>
  </section>
</template>

<style scoped>
p {
  margin: 2px 0 6px;
}
.wrap {
  flex-wrap: wrap;
  gap: 4px;
  margin: 4px 0;
}
</style>
