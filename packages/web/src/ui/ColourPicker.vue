<script setup lang="ts">
/** The panel of a colour field; loaded when one is opened first. */
const { value, label } = defineProps<{ value: string; label: string }>();
const emit = defineEmits<{ change: [hex: string, gesture: string] }>();
let gesture = `colour-${Date.now()}`;

function changed(hex: string): void {
  const next = hex.slice(0, 7).toUpperCase();
  if (next !== value.toUpperCase()) emit('change', next, gesture);
}
</script>

<template>
  <v-color-picker
    :model-value="value"
    mode="hex"
    :modes="['hex', 'hsl', 'rgb']"
    :aria-label="label"
    bg-color="surface-bright"
    width="260"
    canvas-height="140"
    @pointerdown="gesture = `colour-${Date.now()}`"
    @update:model-value="changed"
  />
</template>
