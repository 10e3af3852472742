<script setup lang="ts" generic="V extends string">
/** Tabs over a panel. */
const { tabs, label, value } = defineProps<{
  tabs: ReadonlyArray<{ value: V; label: string; test?: string }>;
  /** What the tabs are of. */
  label: string;
  value: V;
}>();
const emit = defineEmits<{ change: [value: V] }>();
</script>

<template>
  <v-tabs
    class="ui-tab-row"
    :model-value="value"
    :aria-label="label"
    height="30"
    hide-slider
    @update:model-value="(v) => v && emit('change', v as V)"
  >
    <v-tab
      v-for="tab in tabs"
      :key="tab.value"
      :value="tab.value"
      class="ui-button plain"
      :class="{ on: tab.value === value }"
      :data-test="tab.test"
    >
      {{ tab.label }}
    </v-tab>
  </v-tabs>
</template>
