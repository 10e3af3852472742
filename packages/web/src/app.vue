<script setup lang="ts">
import { provide } from 'vue';
import { useActions } from './actions/index.ts';
import NoticeBar from './frame/NoticeBar.vue';
import { ConfirmDialog, ContextMenu, SHORTCUT_LABEL } from './ui/index.ts';

provide(SHORTCUT_LABEL, useActions().keysOf);
</script>

<template>
  <v-app>
    <router-view />
    <NoticeBar />
    <ConfirmDialog />
    <ContextMenu />
  </v-app>
</template>
