<script setup lang="ts">
/** A setting that works at once, with its words beside it. */
const { label, value, disabled = false } = defineProps<{ label: string; value: boolean; disabled?: boolean }>();
const emit = defineEmits<{ change: [on: boolean] }>();
</script>

<template>
  <v-switch
    class="ui-switch"
    :model-value="value"
    :label="label"
    :disabled="disabled"
    hide-details
    density="compact"
    color="primary"
    @update:model-value="(on) => emit('change', on === true)"
  />
</template>
