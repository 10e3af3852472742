<script setup lang="ts">
/** A named row that lines up with the number fields. */
const { label } = defineProps<{ label: string }>();
</script>

<template>
  <div class="field-row">
    <span />
    <span class="name clip" :title="label">{{ label }}</span>
    <slot />
  </div>
</template>

<style scoped>
.field-row {
  display: grid;
  grid-template-columns: 14px var(--label-width, 84px) minmax(0, 1fr);
  align-items: center;
  gap: 2px 6px;
  min-height: 28px;
}
.name {
  color: var(--bone-dim);
}
</style>
