<script setup lang="ts">
const { value, label } = defineProps<{ /** 0..1 */ value: number; label: string }>();
</script>

<template>
  <div
    class="bar"
    role="progressbar"
    :aria-label="label"
    :aria-valuenow="Math.round(value * 100)"
    aria-valuemin="0"
    aria-valuemax="100"
  >
    <span :style="{ width: `${value * 100}%` }" />
  </div>
</template>

<style scoped>
.bar {
  height: 5px;
  border-radius: 3px;
  background: var(--line);
  overflow: hidden;
}
.bar span {
  display: block;
  height: 100%;
  background: var(--honey);
}
</style>
