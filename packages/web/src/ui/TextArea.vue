<script setup lang="ts">
import { ref, watch } from 'vue';

/** Several lines of text; `typed` on every stroke, `change` when it is left, `select` for the letters that are selected. */
const {
  label,
  value,
  rows = 4,
  error = '',
} = defineProps<{ label: string; value: string; rows?: number; error?: string }>();
const emit = defineEmits<{ change: [text: string]; typed: [text: string]; select: [from: number, to: number] }>();
const text = ref(value);
watch(
  () => value,
  (v) => (text.value = v),
);
function selected(event: Event): void {
  const { selectionStart, selectionEnd } = event.target as HTMLTextAreaElement;
  emit('select', selectionStart, selectionEnd);
}
function finish(): void {
  if (text.value !== value) emit('change', text.value);
}
</script>

<template>
  <v-textarea
    v-model="text"
    class="ui-field ui-area"
    :aria-label="label"
    :rows="rows"
    :error-messages="error"
    :aria-invalid="error !== ''"
    no-resize
    @select="selected"
    @keyup="selected"
    @pointerup="selected"
    @update:model-value="emit('typed', text)"
    @update:focused="(on: boolean) => on || finish()"
  />
</template>
