<script setup lang="ts">
import { contextMenu } from './context-menu.ts';
import MenuList from './MenuList.vue';

/** The one context menu; it stands once at the root. */
</script>

<template>
  <v-menu
    :key="String(contextMenu?.at)"
    :model-value="contextMenu !== null"
    :target="contextMenu?.at ?? [0, 0]"
    :offset="2"
    :aria-label="'Context menu'"
    @update:model-value="(open: boolean) => open || (contextMenu = null)"
  >
    <MenuList v-if="contextMenu" :lines="contextMenu.lines" data-test="context-menu" @done="contextMenu = null" />
  </v-menu>
</template>
