<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';

/** A colour as a small square from which a picker opens. One hold of the picker is one gesture. */
const { label, value } = defineProps<{ label: string; value: string }>();
const emit = defineEmits<{ change: [hex: string, gesture: string] }>();
const ColourPicker = defineAsyncComponent(() => import('./ColourPicker.vue'));
const open = ref(false);
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props }">
      <v-btn v-bind="props" class="swatch" :style="{ background: value }" :icon="true" :aria-label="`${label}, pick`" />
    </template>
    <ColourPicker v-if="open" :value="value" :label="label" @change="(hex, gesture) => emit('change', hex, gesture)" />
  </v-menu>
</template>

<style scoped>
.swatch {
  width: 18px;
  height: 18px;
  min-width: 0;
  border: 1px solid #ffffff30;
  border-radius: 4px;
}
</style>
