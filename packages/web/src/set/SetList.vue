<script setup lang="ts">
import { saveFile } from '../controls/save-file.ts';
import { ref } from 'vue';
import { useActions, useHandlers } from '../actions/index.ts';
import { download } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { mdiPlus } from '@mdi/js';
import { ROLE_COLOUR } from '../things/role.ts';
import { useAddMenus } from './add-menus.ts';
import { useSetGroups } from './set-groups.ts';
import ThingRows from './ThingRows.vue';
import { MenuButton, UiButton, openContextMenu } from '../ui/index.ts';

/** What is in the set, grouped by role. */
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const actions = useActions();
const groups = useSetGroups();
const menuOf = useAddMenus();
const exporting = ref(false);

/** The shot's set with its moves, as other software opens it; what is not saved yet goes to the server first. */
async function exportSet(): Promise<void> {
  exporting.value = true;
  await notices.guard(async () => {
    await documents.settled();
    const { blob, name } = await download(`/shots/${campaign.shotId}/staged.glb`);
    saveFile(blob, name);
  });
  exporting.value = false;
}
useHandlers({ 'set.export': { run: () => void exportSet(), enabled: () => !exporting.value } });
</script>

<template>
  <nav class="card scroll list" aria-label="Set list" data-test="set-list">
    <section
      v-for="group in groups"
      :key="group.role"
      :aria-label="group.title"
      @contextmenu="openContextMenu($event, menuOf(group.role))"
    >
      <div class="row title">
        <span class="mark" :style="{ background: ROLE_COLOUR[group.role] }" />
        <h3>{{ group.title }}</h3>
        <span class="spread" />
        <MenuButton
          v-if="menuOf(group.role).length"
          small
          :icon="mdiPlus"
          :label="`Add to ${group.title}`"
          :lines="menuOf(group.role)"
        />
      </div>
      <ThingRows :group="group" />
      <p v-if="group.items.length === 0" class="dim hint">{{ group.empty }}</p>
    </section>
    <UiButton class="export" :busy="exporting" data-test="export-set" @click="actions.run('set.export')">
      Export set as .glb
    </UiButton>
  </nav>
</template>

<style scoped>
.list {
  padding: 10px 8px;
}
section + section {
  margin-top: 12px;
}
.title {
  height: 26px;
  padding: 0 4px;
}
.mark {
  width: 3px;
  height: 13px;
  border-radius: 2px;
}
.export {
  margin: 16px 6px 4px;
}
.hint {
  margin: 4px 14px;
}
</style>
