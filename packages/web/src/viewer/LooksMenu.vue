<script setup lang="ts">
import { mdiGrid } from '@mdi/js';
import { useSelection } from '../stores/index.ts';

/** How the set is looked at: from where, with which guides and masks, and what dragging snaps to. */
const guides = defineModel<string[]>('guides', { required: true });
const mask = defineModel<string>('mask', { required: true });
const split = defineModel<boolean>('split', { required: true });
const through = defineModel<boolean>('through', { required: true });
const measuring = defineModel<boolean>('measuring', { required: true });
const emit = defineEmits<{ look: [side: 'top' | 'front' | 'right'] }>();
const selection = useSelection();
const SIDES = ['top', 'front', 'right'] as const;
const GUIDES: Array<[string, string]> = [
  ['thirds', 'Thirds'],
  ['middle', 'Middle lines'],
  ['safe', 'Safe area'],
];
const MASKS = ['', '16:9', '9:16', '1:1', '4:5'];
const GRIDS = [0, 0.01, 0.05, 0.1];

function flip(guide: string): void {
  guides.value = guides.value.includes(guide) ? guides.value.filter((g) => g !== guide) : [...guides.value, guide];
}
</script>

<template>
  <v-menu :close-on-content-click="false">
    <template #activator="{ props }">
      <button v-bind="props" type="button" class="chip look" aria-label="Views and guides" data-test="looks">
        <svg width="18" height="18" viewBox="0 0 24 24" aria-hidden="true">
          <path :d="mdiGrid" fill="currentColor" />
        </svg>
      </button>
    </template>
    <div class="card looks">
      <h4>Look from</h4>
      <div class="row">
        <button type="button" class="chip" :class="{ on: through }" @click="through = true">Camera</button>
        <button v-for="s in SIDES" :key="s" type="button" class="chip" @click="emit('look', s)">{{ s }}</button>
        <button
          type="button"
          class="chip"
          :class="{ on: split }"
          :aria-pressed="split"
          data-test="split"
          @click="split = !split"
        >
          Side by side
        </button>
      </div>
      <h4>Guides</h4>
      <div class="row">
        <button
          v-for="[key, label] in GUIDES"
          :key="key"
          type="button"
          class="chip"
          :class="{ on: guides.includes(key) }"
          :aria-pressed="guides.includes(key)"
          @click="flip(key)"
        >
          {{ label }}
        </button>
      </div>
      <h4>Mask of another format</h4>
      <div class="row">
        <button
          v-for="m in MASKS"
          :key="m"
          type="button"
          class="chip mono"
          :class="{ on: mask === m }"
          :aria-pressed="mask === m"
          @click="mask = m"
        >
          {{ m || 'none' }}
        </button>
      </div>
      <h4>Dragging snaps to</h4>
      <div class="row">
        <button
          v-for="g in GRIDS"
          :key="g"
          type="button"
          class="chip mono"
          :class="{ on: selection.grid === g }"
          :aria-pressed="selection.grid === g"
          @click="selection.grid = g"
        >
          {{ g ? `${g * 100} cm` : 'no grid' }}
        </button>
        <button
          type="button"
          class="chip"
          :class="{ on: selection.faces }"
          :aria-pressed="selection.faces"
          @click="selection.faces = !selection.faces"
        >
          faces
        </button>
        <button
          type="button"
          class="chip"
          :class="{ on: selection.vertices }"
          :aria-pressed="selection.vertices"
          data-test="snap-vertices"
          @click="selection.vertices = !selection.vertices"
        >
          vertices
        </button>
      </div>
      <h4>Measure</h4>
      <div class="row">
        <button
          type="button"
          class="chip"
          :class="{ on: measuring }"
          :aria-pressed="measuring"
          data-test="measure"
          @click="measuring = !measuring"
        >
          {{ measuring ? 'Click two places' : 'Between two places' }}
        </button>
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
