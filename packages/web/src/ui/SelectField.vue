<script setup lang="ts" generic="V extends string | number | boolean">
import type { SelectOption } from './select-option.ts';

/** One choice of many, in a list that opens. */
const {
  options,
  label,
  value,
  disabled = false,
  placeholder = undefined,
} = defineProps<{
  options: ReadonlyArray<SelectOption<V>>;
  /** Its name for those who do not see what stands beside it. */
  label: string;
  value: V | undefined;
  disabled?: boolean;
  placeholder?: string;
}>();
const propsOf = (item: SelectOption<V>): object => ({ disabled: item.disabled });
const emit = defineEmits<{ change: [value: V] }>();
</script>

<template>
  <v-select
    class="ui-field ui-select"
    :items="options"
    :model-value="value"
    :aria-label="label"
    :placeholder="placeholder"
    :disabled="disabled"
    :item-props="propsOf"
    @update:model-value="(v) => emit('change', v as V)"
  />
</template>
