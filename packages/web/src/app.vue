<script setup lang="ts">
import NoticeBar from './frame/NoticeBar.vue';
</script>

<template>
  <v-app>
    <router-view />
    <NoticeBar />
  </v-app>
</template>
