<script setup lang="ts">
import { ref } from 'vue';
import ColourSwatch from './ColourSwatch.vue';
import FieldRow from './FieldRow.vue';
import TextField from './TextField.vue';

/** An sRGB colour: its hex as text, and a picker that opens from the swatch. One hold of the picker is one gesture. */
const { label, value } = defineProps<{ label: string; value: string }>();
const emit = defineEmits<{ change: [hex: string, gesture: string] }>();
const wrong = ref('');

function take(text: string): void {
  const typed = text.trim();
  const hex = typed.startsWith('#') ? typed : `#${typed}`;
  wrong.value = /^#[0-9a-f]{6}$/i.test(hex)
    ? ''
    : `${label} must be a hex colour like #C98F6B; "${typed.slice(0, 12)}" was not taken.`;
  if (!wrong.value) emit('change', hex.toUpperCase(), '');
}
</script>

<template>
  <FieldRow :label="label">
    <TextField :label="label" :value="value" :error="wrong" mono maxlength="7" @change="take">
      <template #prepend-inner>
        <ColourSwatch :label="label" :value="value" @change="(hex, gesture) => emit('change', hex, gesture)" />
      </template>
    </TextField>
  </FieldRow>
</template>
