<script setup lang="ts">
import { mdiClose } from '@mdi/js';
import { inject } from 'vue';
import type { MenuLine, MenuLines } from './context-menu.ts';
import { SHORTCUT_LABEL } from './shortcut-label.ts';

/** The lines of a menu, with their keys. */
const { lines } = defineProps<{ lines: MenuLines }>();
const emit = defineEmits<{ done: [] }>();
const keysOf = inject(SHORTCUT_LABEL, () => '');

function take(line: MenuLine): void {
  if (line.disabled) return;
  emit('done');
  line.run();
}
</script>

<template>
  <v-list class="ui-menu scroll" density="compact" bg-color="surface-bright">
    <template v-for="(line, i) in lines" :key="i">
      <v-divider v-if="!line" />
      <v-list-subheader v-else-if="'heading' in line">{{ line.heading }}</v-list-subheader>
      <v-list-item v-else :title="line.title" :disabled="line.disabled" @click="take(line)">
        <template v-if="line.icon" #prepend><v-icon :icon="line.icon" size="16" /></template>
        <template v-if="line.drop || (line.action && keysOf(line.action))" #append>
          <span v-if="line.action" class="mono dim keys">{{ keysOf(line.action) }}</span>
          <v-btn
            v-if="line.drop"
            class="ui-icon-button small"
            :icon="true"
            :aria-label="line.drop.label"
            @click.stop="line.drop.run()"
          >
            <v-icon :icon="mdiClose" size="14" />
          </v-btn>
        </template>
      </v-list-item>
    </template>
  </v-list>
</template>

<style scoped>
.keys {
  margin-left: 24px;
}
</style>
