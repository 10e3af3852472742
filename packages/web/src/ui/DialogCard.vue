<script setup lang="ts">
import { mdiClose } from '@mdi/js';
import { useId } from 'vue';
import IconButton from './IconButton.vue';

/** A dialog with a title, its contents, and its buttons at the end. */
const {
  open,
  title,
  width = 460,
  persistent = false,
} = defineProps<{ open: boolean; title: string; width?: number; persistent?: boolean }>();
const emit = defineEmits<{ close: [] }>();
defineOptions({ inheritAttrs: false });
const id = useId();
</script>

<template>
  <v-dialog
    :model-value="open"
    :max-width="width"
    :persistent="persistent"
    :aria-labelledby="id"
    @update:model-value="(on: boolean) => on || emit('close')"
  >
    <v-card v-bind="$attrs" class="ui-dialog">
      <header class="row">
        <h2 :id="id" class="spread">{{ title }}</h2>
        <slot name="head" />
        <IconButton v-if="!persistent" :icon="mdiClose" label="Close" @click="emit('close')" />
      </header>
      <slot />
      <footer v-if="$slots.end" class="row"><slot name="end" /></footer>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.ui-dialog {
  display: grid;
  gap: 12px;
  padding: 18px 20px;
}
footer {
  justify-content: flex-end;
  margin-top: 4px;
}
</style>
