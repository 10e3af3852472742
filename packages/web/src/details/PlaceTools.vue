<script setup lang="ts">
import { mdiContentCopy, mdiContentPaste, mdiLockOpenVariantOutline, mdiLockOutline } from '@mdi/js';
import { computed } from 'vue';
import IconButton from '../controls/IconButton.vue';
import { useSelection, useStage } from '../stores/index.ts';

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
    <button v-if="selection.copied" type="button" class="chip" @click="selection.pastePlace('place')">place</button>
    <button v-if="selection.copied" type="button" class="chip" @click="selection.pastePlace('turn')">turn</button>
    <IconButton
      v-if="arranged"
      :icon="arranged.locked ? mdiLockOutline : mdiLockOpenVariantOutline"
      :label="arranged.locked ? `Unlock ${stage.thing?.name}` : `Lock ${stage.thing?.name} where it is`"
      :pressed="arranged.locked"
      @click="selection.changeAll(arranged.locked ? 'Unlock' : 'Lock', { locked: !arranged.locked })"
    />
    <button
      type="button"
      class="chip"
      :class="{ on: alone }"
      :aria-pressed="alone"
      title="Only what is chosen is drawn; takes show everything"
      @click="selection.isolated = alone ? [] : [...selection.all]"
    >
      {{ alone ? 'Show all' : 'Isolate' }}
    </button>
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
