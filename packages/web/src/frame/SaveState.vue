<script setup lang="ts">
import { computed, ref } from 'vue';
import { useDocuments } from '../stores/index.ts';
import HistoryDialog from './HistoryDialog.vue';

const documents = useDocuments();
const WORDS = {
  saved: 'Saved',
  unsaved: 'Saving...',
  saving: 'Saving...',
  offline: 'Offline, kept here',
  conflict: 'Changed elsewhere',
  refused: 'Not saved',
} as const;
const history = ref(false);
const troubled = computed(() => ['offline', 'conflict', 'refused'].includes(documents.state));
</script>

<template>
  <button
    type="button"
    class="chip save"
    :class="{ troubled }"
    :title="documents.problem || 'Saved revisions'"
    @click="history = true"
  >
    <span role="status" data-test="save-state">{{ WORDS[documents.state] }}</span>
  </button>
  <HistoryDialog v-model="history" />
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
