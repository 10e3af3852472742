<script setup lang="ts">
import KeyBead from './KeyBead.vue';

/** A named row that lines up with the number fields; its bead keys what stands in it. */
const {
  label,
  keyable = false,
  keyed = 'none',
} = defineProps<{ label: string; keyable?: boolean; keyed?: 'key' | 'track' | 'none' }>();
const emit = defineEmits<{ key: [] }>();
</script>

<template>
  <div class="field-row">
    <KeyBead v-if="keyable" :label="label" :keyed="keyed" @key="emit('key')" />
    <span v-else />
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
