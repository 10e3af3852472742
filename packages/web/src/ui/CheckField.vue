<script setup lang="ts">
/** A thing that is so or not, with its words beside it. */
const { label, value, disabled = false } = defineProps<{ label: string; value: boolean; disabled?: boolean }>();
const emit = defineEmits<{ change: [on: boolean] }>();
</script>

<template>
  <v-checkbox
    class="ui-check"
    :model-value="value"
    :label="label"
    :disabled="disabled"
    hide-details
    density="compact"
    color="primary"
    @update:model-value="(on) => emit('change', on === true)"
  />
</template>
