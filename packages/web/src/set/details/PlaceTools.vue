<script setup lang="ts">
import { mdiContentCopy, mdiContentPaste, mdiLockOpenVariantOutline, mdiLockOutline } from '@mdi/js';
import { computed } from 'vue';
import { useSelection, useStage } from '../../stores/index.ts';
import { IconButton, UiButton } from '../../ui/index.ts';

/** Copying places, locking and isolating what is chosen. */
const { id } = defineProps<{ id: string }>();
const selection = useSelection();
const stage = useStage();
const arranged = computed(() => selection.arrangedOf(id));
const alone = computed(() => selection.isolated.length > 0);
</script>

<template>
  <div class="row tools">
    <IconButton :icon="mdiContentCopy" label="Copy place and turn" @click="selection.copyPlace()" />
    <IconButton
      :icon="mdiContentPaste"
      label="Paste place and turn"
      :disabled="!selection.copied"
      @click="selection.pastePlace('all')"
    />
    <UiButton v-if="selection.copied" @click="selection.pastePlace('place')">place</UiButton>
    <UiButton v-if="selection.copied" @click="selection.pastePlace('turn')">turn</UiButton>
    <IconButton
      v-if="arranged"
      :icon="arranged.locked ? mdiLockOutline : mdiLockOpenVariantOutline"
      :label="arranged.locked ? `Unlock ${stage.thing?.name}` : `Lock ${stage.thing?.name} where it is`"
      :pressed="arranged.locked"
      @click="selection.changeAll(arranged.locked ? 'Unlock' : 'Lock', { locked: !arranged.locked })"
    />
    <UiButton
      :pressed="alone"
      tip="Only what is chosen is drawn; takes show everything"
      @click="selection.isolated = alone ? [] : [...selection.all]"
    >
      {{ alone ? 'Show all' : 'Isolate' }}
    </UiButton>
  </div>
</template>

<style scoped>
.tools {
  gap: 2px;
  margin-bottom: 6px;
}
.chip {
  padding: 3px 8px;
}
</style>
