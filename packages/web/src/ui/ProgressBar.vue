<script setup lang="ts">
/** How far a piece of work is. */
const { value, label } = defineProps<{ /** 0..1 */ value: number; label: string }>();
</script>

<template>
  <v-progress-linear
    :model-value="value * 100"
    :aria-label="label"
    :aria-valuenow="Math.round(value * 100)"
    color="warning"
    bg-color="#3a3446"
    bg-opacity="1"
    height="5"
    rounded
  />
</template>
