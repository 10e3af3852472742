<script setup lang="ts">
import { mdiHelpCircleOutline, mdiMagnify, mdiRedoVariant, mdiUndoVariant } from '@mdi/js';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { useActions } from '../actions/index.ts';
import AccountMenu from './AccountMenu.vue';
import CourseStops from './CourseStops.vue';
import SaveState from './SaveState.vue';
import { IconButton, UiButton } from '../ui/index.ts';

const route = useRoute();
const campaign = useCampaign();
const documents = useDocuments();
const actions = useActions();

// From the address: the campaign itself may not be there yet.
const root = computed(() => `/campaign/${String(route.params.campaign)}`);
const rendering = computed(() => {
  const active = campaign.takes.filter((t) => t.state === 'rendering');
  const done = active.reduce((n, t) => n + t.done.length, 0);
  const all = active.reduce((n, t) => n + t.length, 0);
  return all > 0 ? { done, all } : null;
});
</script>

<template>
  <header class="top">
    <router-link to="/" class="brand">
      <img src="/mark.svg" width="22" height="22" alt="" />
      <span class="sr-only">All campaigns, from</span>
      <span class="clip" data-test="campaign-name">{{ campaign.campaign?.name ?? 'Tender Orbit' }}</span>
    </router-link>
    <CourseStops :root="root" />
    <div class="end">
      <UiButton v-if="rendering" :to="`${root}/composite`" title="Rendering: finished frames of all running takes">
        <svg width="14" height="14" viewBox="-7 -7 14 14" aria-hidden="true">
          <circle r="5" fill="none" stroke="var(--line)" stroke-width="2.4" />
          <circle
            r="5"
            fill="none"
            stroke="var(--honey)"
            stroke-width="2.4"
            :stroke-dasharray="`${(31.4 * rendering.done) / rendering.all} 31.4`"
            transform="rotate(-90)"
          />
        </svg>
        <span class="mono">{{ rendering.done }}/{{ rendering.all }}</span>
      </UiButton>
      <IconButton
        :icon="mdiMagnify"
        label="Search actions and things"
        action="find.open"
        data-test="open-search"
        @click="actions.run('find.open')"
      />
      <IconButton
        :icon="mdiUndoVariant"
        :label="documents.undoStack.length ? `Undo ${documents.undoStack.at(-1)!.label}` : 'Nothing to undo'"
        action="edit.undo"
        :disabled="documents.undoStack.length === 0"
        @click="documents.undo()"
      />
      <IconButton
        :icon="mdiRedoVariant"
        :label="documents.redoStack.length ? `Redo ${documents.redoStack.at(-1)!.label}` : 'Nothing to redo'"
        action="edit.redo"
        :disabled="documents.redoStack.length === 0"
        @click="documents.redo()"
      />
      <SaveState />
      <IconButton :icon="mdiHelpCircleOutline" label="Shortcuts" action="keys.open" @click="actions.run('keys.open')" />
      <AccountMenu />
    </div>
  </header>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: minmax(120px, 190px) 1fr auto;
  align-items: center;
  gap: 8px;
  padding: 0 12px;
}
.brand {
  display: flex;
  gap: 9px;
  align-items: center;
  font-weight: 600;
  color: var(--bone);
  text-decoration: none;
  min-width: 0;
}
.end {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
