<script setup lang="ts">
/** A field under its name, for forms that are read from top to bottom. */
const { label } = defineProps<{ label: string }>();
</script>

<template>
  <div class="stack">
    <span class="name" aria-hidden="true">{{ label }}</span>
    <slot />
  </div>
</template>

<style scoped>
.stack {
  display: grid;
  gap: 4px;
}
.name {
  color: var(--bone-dim);
}
</style>
