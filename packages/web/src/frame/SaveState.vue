<script setup lang="ts">
import { computed } from 'vue';
import { useActions } from '../actions/index.ts';
import { useDocuments } from '../stores/index.ts';
import { UiButton } from '../ui/index.ts';

const documents = useDocuments();
const WORDS = {
  saved: 'Saved',
  unsaved: 'Saving...',
  saving: 'Saving...',
  offline: 'Offline, kept here',
  conflict: 'Changed elsewhere',
  refused: 'Not saved',
} as const;
const actions = useActions();
const troubled = computed(() => ['offline', 'conflict', 'refused'].includes(documents.state));
</script>

<template>
  <UiButton
    class="save"
    :class="{ troubled }"
    :tip="documents.problem || 'Saved revisions'"
    action="revisions.open"
    @click="actions.run('revisions.open')"
  >
    <span role="status" data-test="save-state">{{ WORDS[documents.state] }}</span>
  </UiButton>
</template>

<style scoped>
.save {
  min-width: 66px;
  justify-content: center;
  background: transparent;
  color: var(--bone-dim);
  font-size: 12px;
}
.troubled {
  color: var(--coral);
}
</style>
