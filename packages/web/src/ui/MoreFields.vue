<script setup lang="ts">
import { mdiChevronDown } from '@mdi/js';

/** Fields that are needed seldom, behind a line that opens. */
const { title } = defineProps<{ title: string }>();
</script>

<template>
  <v-expansion-panels class="ui-more" flat :expand-icon="mdiChevronDown" :collapse-icon="mdiChevronDown">
    <v-expansion-panel :title="title"
      ><template #text><slot /></template
    ></v-expansion-panel>
  </v-expansion-panels>
</template>
