<script setup lang="ts">
import { mdiGrid } from '@mdi/js';
import { useSelection } from '../stores/index.ts';
import { useGhostSteps } from './use-ghosts.ts';
import { IconButton, ToggleRow, UiButton } from '../ui/index.ts';

/** How the set is looked at: from where, with which guides and masks, and what dragging snaps to. */
const guides = defineModel<string[]>('guides', { required: true });
const mask = defineModel<string>('mask', { required: true });
const split = defineModel<boolean>('split', { required: true });
const through = defineModel<boolean>('through', { required: true });
const measuring = defineModel<boolean>('measuring', { required: true });
/** Whether ghosts of what moves can be had here. */
const { ghosts = false } = defineProps<{ ghosts?: boolean }>();
const apart = useGhostSteps();
const emit = defineEmits<{ look: [side: 'top' | 'front' | 'right'] }>();
const selection = useSelection();
const SIDES = ['top', 'front', 'right'] as const;
const GUIDES: Array<[string, string]> = [
  ['thirds', 'Thirds'],
  ['middle', 'Middle lines'],
  ['safe', 'Safe area'],
];
const MASKS = ['', '16:9', '9:16', '1:1', '4:5'];
const GHOSTS = [0, 1, 2, 4, 8];
const GRIDS = [0, 0.01, 0.05, 0.1];

function flip(guide: string): void {
  guides.value = guides.value.includes(guide) ? guides.value.filter((g) => g !== guide) : [...guides.value, guide];
}
</script>

<template>
  <v-menu :close-on-content-click="false">
    <template #activator="{ props }">
      <IconButton v-bind="props" class="look" :icon="mdiGrid" label="Views and guides" data-test="looks" />
    </template>
    <div class="card looks">
      <h4>Look from</h4>
      <div class="row">
        <UiButton :pressed="through" @click="through = true">Camera</UiButton>
        <UiButton v-for="s in SIDES" :key="s" @click="emit('look', s)">{{ s }}</UiButton>
        <UiButton :pressed="split" data-test="split" @click="split = !split"> Side by side </UiButton>
      </div>
      <h4>Guides</h4>
      <div class="row">
        <UiButton v-for="[key, label] in GUIDES" :key="key" :pressed="guides.includes(key)" @click="flip(key)">
          {{ label }}
        </UiButton>
      </div>
      <h4>Mask of another format</h4>
      <ToggleRow
        label="Mask of another format"
        mono
        :options="MASKS.map((m) => ({ value: m, label: m || 'none' }))"
        :value="mask"
        @change="(m) => (mask = m)"
      />
      <h4>Dragging snaps to</h4>
      <div class="row">
        <ToggleRow
          label="Grid"
          mono
          :options="GRIDS.map((g) => ({ value: g, label: g ? `${g * 100} cm` : 'no grid' }))"
          :value="selection.grid"
          @change="(g) => (selection.grid = g)"
        />
        <UiButton :pressed="selection.faces" @click="selection.faces = !selection.faces"> faces </UiButton>
        <UiButton
          :pressed="selection.vertices"
          data-test="snap-vertices"
          @click="selection.vertices = !selection.vertices"
        >
          vertices
        </UiButton>
      </div>
      <template v-if="ghosts">
        <h4>Ghosts of what moves, every</h4>
        <ToggleRow
          label="Ghosts of what moves"
          mono
          :options="GHOSTS.map((g) => ({ value: g, label: g ? `${g} f` : 'none' }))"
          :value="apart"
          @change="(g) => (apart = g)"
        />
      </template>
      <h4>Measure</h4>
      <div class="row">
        <UiButton :pressed="measuring" data-test="measure" @click="measuring = !measuring">
          {{ measuring ? 'Click two places' : 'Between two places' }}
        </UiButton>
      </div>
    </div>
  </v-menu>
</template>

<style scoped>
.look {
  padding: 3px 6px;
}
.looks {
  display: grid;
  gap: 6px;
  width: 340px;
  padding: 12px;
  background: var(--ink-2);
}
.row {
  flex-wrap: wrap;
  gap: 4px;
}
.looks .chip {
  background: var(--ink-1);
}
.looks .chip.on {
  background: var(--celadon-deep);
}
h4 {
  margin: 2px 0 0;
  font-weight: 560;
  color: var(--bone-dim);
}
</style>
