<script setup lang="ts">
import { computed } from 'vue';
import { useNotices } from '../stores/index.ts';
import { UiButton } from '../ui/index.ts';

const notices = useNotices();
const shown = computed({
  get: () => notices.text !== '',
  set: (open) => {
    if (!open) notices.text = '';
  },
});
</script>

<template>
  <v-snackbar
    v-model="shown"
    :timeout="notices.kind === 'problem' ? 12000 : 3500"
    location="bottom"
    color="surface-bright"
  >
    <span
      :role="notices.kind === 'problem' ? 'alert' : 'status'"
      class="notice"
      :class="notices.kind"
      data-test="notice"
      >{{ notices.text }}</span
    >
    <template #actions>
      <UiButton @click="notices.text = ''">Close</UiButton>
    </template>
  </v-snackbar>
</template>

<style scoped>
.notice.problem {
  color: var(--coral);
}
</style>
