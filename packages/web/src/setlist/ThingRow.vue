<script lang="ts">
import type { ThingRole } from '@tender-orbit/core/document';

export interface ThingItem {
  id: string;
  name: string;
  figure: string;
  kind?: ThingRole;
  shown?: boolean;
  /** Which property the eye turns on and off. */
  toggle?: string;
  /** Drawn as a card among the surfaces. */
  card?: boolean;
}
</script>

<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline, mdiLockOutline } from '@mdi/js';
import { nextTick, ref } from 'vue';
import { showThing } from '@tender-orbit/core/document';
import { useSelection, useStage } from '../stores/index.ts';
import ThingGlyph from './ThingGlyph.vue';

const { item, kind } = defineProps<{ item: ThingItem; kind: ThingRole }>();
const selection = useSelection();
const stage = useStage();
const naming = ref(false);
const menu = ref(false);
const box = ref<HTMLInputElement>();

async function startNaming(): Promise<void> {
  if (kind === 'environment') return;
  naming.value = true;
  await nextTick();
  box.value?.select();
}
function endNaming(event: Event): void {
  if (naming.value) stage.rename(item.id, (event.target as HTMLInputElement).value);
  naming.value = false;
}
function flip(): void {
  stage.run(showThing(item.id, !item.shown));
}
function onKey(event: KeyboardEvent): void {
  if (event.key === 'F2') void startNaming();
  else if (event.ctrlKey && event.key.toLowerCase() === 'd') {
    event.preventDefault();
    stage.duplicate(item.id);
  }
}
</script>

<template>
  <div
    class="thing"
    :class="{ chosen: selection.all.includes(item.id), off: item.shown === false }"
    @contextmenu.prevent="menu = kind !== 'environment'"
  >
    <input
      v-if="naming"
      ref="box"
      class="field"
      :value="item.name"
      maxlength="120"
      :aria-label="`New name of ${item.name}`"
      @blur="endNaming"
      @keydown.enter="endNaming"
      @keydown.esc="naming = false"
    />
    <template v-else>
      <button
        type="button"
        class="pick"
        :aria-pressed="selection.all.includes(item.id)"
        @click="selection.pick(item.id, $event.ctrlKey || $event.shiftKey || $event.metaKey)"
        @dblclick="startNaming"
        @keydown="onKey"
      >
        <ThingGlyph :kind="kind" :card="item.card" />
        <span class="clip spread">{{ item.name }}</span>
        <svg
          v-if="selection.arrangedOf(item.id)?.locked"
          width="12"
          height="12"
          viewBox="0 0 24 24"
          aria-label="locked"
        >
          <path :d="mdiLockOutline" fill="currentColor" />
        </svg>
        <span class="mono dim">{{ item.figure }}</span>
      </button>
      <button
        v-if="item.toggle"
        type="button"
        class="eye"
        :aria-label="`${item.shown ? 'Hide' : 'Show'} ${item.name}`"
        @click="flip"
      >
        <svg width="15" height="15" viewBox="0 0 24 24" aria-hidden="true">
          <path :d="item.shown ? mdiEyeOutline : mdiEyeOffOutline" fill="currentColor" />
        </svg>
      </button>
    </template>
    <v-menu v-model="menu" activator="parent" :open-on-click="false">
      <v-list density="compact" bg-color="surface-bright">
        <v-list-item title="Rename" subtitle="F2" @click="startNaming" />
        <v-list-item title="Duplicate" subtitle="Ctrl+D" @click="stage.duplicate(item.id)" />
        <v-list-item
          v-if="kind === 'light'"
          :title="stage.only === item.id ? 'All lights' : 'Only this light'"
          @click="stage.only = stage.only === item.id ? '' : item.id"
        />
        <v-list-item title="Delete" subtitle="Delete" @click="stage.remove(item.id)" />
      </v-list>
    </v-menu>
  </div>
</template>

<style scoped>
.thing {
  position: relative;
  display: flex;
  align-items: center;
  border-radius: 6px;
}
.thing:hover {
  background: var(--ink-2);
}
.thing.chosen {
  background: var(--celadon-deep);
}
.pick {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 9px;
  min-width: 0;
  height: 28px;
  padding: 0 4px 0 8px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.off .pick {
  opacity: 0.5;
}
.eye {
  display: grid;
  place-items: center;
  width: 26px;
  height: 28px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--bone-dim);
  cursor: pointer;
  opacity: 0;
}
.thing:hover .eye,
.eye:focus-visible,
.off .eye {
  opacity: 1;
}
</style>
