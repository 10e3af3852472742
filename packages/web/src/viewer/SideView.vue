<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { onMounted, ref, watch } from 'vue';
import { useSelection, useStage } from '../stores/index.ts';
import { artIn, LOADED } from './loaded.ts';
import { useStageView } from './use-stage-view.ts';
import { useTableau } from './use-tableau.ts';
import { ToggleRow } from '../ui/index.ts';

/** A second look at the set beside the camera's: from above, in front or the side. */
const selection = useSelection();
const stage = useStage();
const tableau = useTableau();
const surround = ref<HTMLElement>();
type Side = 'top' | 'front' | 'right';
const SIDES: Side[] = ['top', 'front', 'right'];
const side = ref<Side>('top');
const { view } = useStageView(
  surround,
  {
    pick: (id, more) => selection.pick(id, more),
    move: () => undefined,
    turn: () => undefined,
    leaveCamera: () => undefined,
  },
  () => ({ 'aria-label': `The set from the ${side.value}` }),
);

function show(): void {
  if (!view.value || !tableau.value) return;
  const picture = {
    tableau: tableau.value,
    clay: false,
    selected: stage.selected,
    handles: null,
    loaded: LOADED,
    domain: null,
  };
  view.value.show({ ...picture, throughCamera: false });
}
function look(): void {
  view.value?.lookFrom(side.value);
}
useResizeObserver(surround, ([{ contentRect }]) =>
  view.value?.resize(Math.floor(contentRect.width), Math.floor(contentRect.height)),
);
onMounted(() => {
  show();
  look();
});
watch([tableau, () => stage.selected, () => tableau.value && artIn(tableau.value)], show);
watch(side, look);
</script>

<template>
  <div ref="surround" class="side" data-test="side-view">
    <ToggleRow
      class="switch"
      label="Look from"
      :options="SIDES.map((s) => ({ value: s, label: s }))"
      :value="side"
      @change="(s) => (side = s)"
    />
  </div>
</template>

<style scoped>
.side {
  position: relative;
  min-width: 0;
  height: 100%;
  width: 100%;
  background: var(--surround);
}
.side > :deep(canvas) {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.switch {
  position: absolute;
  top: 8px;
  left: 8px;
  gap: 2px;
}
</style>
