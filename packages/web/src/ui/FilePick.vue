<script setup lang="ts">
import { ref } from 'vue';

/** Files of the person's machine: `open()` asks for them; the same files can be picked again. */
const {
  accept,
  label,
  multiple = false,
} = defineProps<{
  accept: string;
  label: string;
  multiple?: boolean;
}>();
const emit = defineEmits<{ pick: [files: File[]] }>();
const root = ref<HTMLElement>();
const files = ref<File[]>([]);

function taken(picked: File | File[] | null | undefined): void {
  const list = Array.isArray(picked) ? picked : picked ? [picked] : [];
  if (list.length > 0) emit('pick', list);
  files.value = [];
}
defineExpose({ open: () => root.value?.querySelector('input')?.click() });
</script>

<template>
  <span ref="root" class="sr-only">
    <v-file-input
      :model-value="files"
      :accept="accept"
      :multiple="multiple"
      :aria-label="label"
      tabindex="-1"
      hide-details
      @update:model-value="taken"
    />
  </span>
</template>
