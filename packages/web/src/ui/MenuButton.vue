<script setup lang="ts">
import { ref } from 'vue';
import type { MenuLines } from './context-menu.ts';
import IconButton from './IconButton.vue';
import MenuList from './MenuList.vue';
import UiButton from './UiButton.vue';

/** A button that opens a menu: with an icon alone it has a name, else its words are the slot's. */
const {
  lines,
  label = '',
  tip = '',
  icon = undefined,
  small = false,
} = defineProps<{
  lines: MenuLines;
  /** Its name when it is only a picture. */
  label?: string;
  /** Said on hover and focus, besides its words. */
  tip?: string;
  /** SVG path. */
  icon?: string;
  small?: boolean;
}>();
const open = ref(false);
defineOptions({ inheritAttrs: false });
</script>

<template>
  <v-menu v-model="open">
    <template #activator="{ props }">
      <IconButton v-if="icon" v-bind="{ ...props, ...$attrs }" :icon="icon" :label="label" :small="small" />
      <UiButton v-else v-bind="{ ...props, ...$attrs }" :tip="tip"><slot /></UiButton>
    </template>
    <MenuList :lines="lines" @done="open = false" />
  </v-menu>
</template>
