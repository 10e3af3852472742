<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import type { VTextField } from 'vuetify/components';

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
  autofocus = false,
} = defineProps<{
  label: string;
  value: string;
  /** Why it was not taken. */
  error?: string;
  type?: string;
  mono?: boolean;
  /** Has the focus when it appears. */
  autofocus?: boolean;
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

const field = ref<InstanceType<typeof VTextField>>();
/** Frames for which a dialog that opens may take the focus to itself, or not be able to give it yet. */
const SETTLING = 12;
/**
 * Takes the focus at once, and again until all is settled, but never from another field: the library's own takes it once
 * and late, and what a quick person or a password manager types then goes into the wrong field.
 */
function takeFocus(input: HTMLInputElement, before: Element | null, left = SETTLING): void {
  const now = document.activeElement;
  const elsewhere = now !== before && now !== input && now?.matches('input, textarea');
  if (elsewhere || left === 0 || !input.isConnected) return;
  input.focus();
  // Once it has had the focus, whoever takes it may keep it, the field that had it before too.
  const had = document.activeElement === input ? null : before;
  requestAnimationFrame(() => takeFocus(input, had, left - 1));
}
onMounted(() => {
  if (autofocus) takeFocus((field.value!.$el as HTMLElement).querySelector('input')!, document.activeElement);
});
</script>

<template>
  <v-text-field
    ref="field"
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
