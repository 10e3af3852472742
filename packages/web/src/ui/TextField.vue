<script setup lang="ts">
import { computed, ref, watch } from 'vue';

/**
 * A line of text. What is typed is given when it is finished (Enter or leaving), and on every stroke as `typed`.
 * Escape takes it back.
 */
const {
  label,
  value,
  error = '',
  type = 'text',
  mono = false,
} = defineProps<{
  label: string;
  value: string;
  /** Why it was not taken. */
  error?: string;
  type?: string;
  mono?: boolean;
}>();
const emit = defineEmits<{ change: [text: string]; typed: [text: string] }>();
const text = ref(value);
watch(
  () => value,
  (v) => (text.value = v),
);
const finished = computed(() => text.value === value);

function finish(): void {
  if (!finished.value) emit('change', text.value);
  // What was not taken goes back to what stands.
  void Promise.resolve().then(() => (text.value = value));
}
function back(event: KeyboardEvent): void {
  if (finished.value) return;
  event.stopPropagation();
  text.value = value;
}
</script>

<template>
  <v-text-field
    v-model="text"
    class="ui-field"
    :class="{ mono }"
    :type="type"
    :aria-label="label"
    :error-messages="error"
    :aria-invalid="error !== ''"
    @update:model-value="emit('typed', text)"
    @update:focused="(on: boolean) => on || finish()"
    @keydown.enter="finish"
    @keydown.esc="back"
  >
    <template v-for="(_, name) in $slots" #[name]><slot :name="name" /></template>
  </v-text-field>
</template>
