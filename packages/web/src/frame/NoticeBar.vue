<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useNotices } from '../stores/index.ts';
import { UiButton } from '../ui/index.ts';

const notices = useNotices();
const shown = computed({
  get: () => notices.text !== '',
  set: (open) => {
    if (!open) notices.text = '';
  },
});
/** What it last said stays in it while it fades away. */
const text = ref('');
watch(
  () => notices.text,
  (now) => {
    if (now) text.value = now;
  },
  { immediate: true },
);
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
      >{{ text }}</span
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
