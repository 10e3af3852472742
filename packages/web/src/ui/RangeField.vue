<script setup lang="ts">
/** A stretch of a scale that is chosen by both of its ends. */
const { label, from, to, min, max } = defineProps<{
  label: string;
  from: number;
  to: number;
  min: number;
  max: number;
}>();
const emit = defineEmits<{ change: [from: number, to: number] }>();

function set([low, high]: readonly number[]): void {
  if (low !== from || high !== to) emit('change', low, high);
}
</script>

<template>
  <v-range-slider
    class="ui-range mx-1"
    :model-value="[from, to]"
    :min="min"
    :max="max"
    :step="1"
    :thumb-size="14"
    :track-size="4"
    :aria-label="label"
    strict
    hide-details
    @update:model-value="set"
  />
</template>
