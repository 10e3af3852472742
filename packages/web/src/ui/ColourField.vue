<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';
import FieldRow from './FieldRow.vue';
import TextField from './TextField.vue';

/** An sRGB colour: its hex as text, and a picker that opens from the swatch. One hold of the picker is one gesture. */
const { label, value } = defineProps<{ label: string; value: string }>();
const emit = defineEmits<{ change: [hex: string, gesture: string] }>();
const ColourPicker = defineAsyncComponent(() => import('./ColourPicker.vue'));
const wrong = ref('');
const open = ref(false);

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
        <v-menu v-model="open" :close-on-content-click="false">
          <template #activator="{ props }">
            <v-btn
              v-bind="props"
              class="swatch"
              :style="{ background: value }"
              :icon="true"
              :aria-label="`${label}, pick`"
            />
          </template>
          <ColourPicker
            v-if="open"
            :value="value"
            :label="label"
            @change="(hex, gesture) => emit('change', hex, gesture)"
          />
        </v-menu>
      </template>
    </TextField>
  </FieldRow>
</template>

<style scoped>
.swatch {
  width: 18px;
  height: 18px;
  min-width: 0;
  border-radius: 4px;
  border: 1px solid #ffffff30;
}
</style>
