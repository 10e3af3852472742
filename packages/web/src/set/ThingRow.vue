<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline, mdiLockOutline } from '@mdi/js';
import { computed, ref } from 'vue';
import { showThing } from '@tender-orbit/core/document';
import { useSelection, useStage } from '../stores/index.ts';
import { useThingMenu } from './use-thing-menu.ts';
import type { ThingItem } from './set-groups.ts';
import ThingGlyph from '../things/ThingGlyph.vue';
import { IconButton, PickCard, TextField, openContextMenu } from '../ui/index.ts';

/** A thing in the set list: chosen by a press, renamed in place, with its menu on a right click. */
const { item } = defineProps<{ item: ThingItem }>();
const selection = useSelection();
const stage = useStage();
const menuFor = useThingMenu();
/** Its button is made when pointer or focus first come near: a set may have hundreds of rows. */
const near = ref(false);
const chosen = computed(() => selection.all.includes(item.id));

function endNaming(name: string): void {
  if (name.trim()) stage.rename(item.id, name);
  selection.naming = '';
}
function startNaming(): void {
  if (item.role !== 'environment') selection.naming = item.id;
}
</script>

<template>
  <div
    class="thing"
    :class="{ chosen, off: item.shown === false }"
    @pointerenter="near = true"
    @focusin="near = true"
    @contextmenu="openContextMenu($event, menuFor(item.id))"
  >
    <TextField
      v-if="selection.naming === item.id"
      :value="item.name"
      maxlength="120"
      autofocus
      :label="`New name of ${item.name}`"
      @change="endNaming"
      @keydown.esc.stop="selection.naming = ''"
      @update:focused="(on: boolean) => on || (selection.naming = '')"
    />
    <template v-else>
      <PickCard
        class="pick"
        :on="chosen"
        @click="(event: MouseEvent) => selection.pick(item.id, event.ctrlKey || event.shiftKey || event.metaKey)"
        @dblclick="startNaming"
      >
        <ThingGlyph :kind="item.role" :card="item.card" />
        <span class="clip spread">{{ item.name }}</span>
        <v-icon v-if="item.locked" :icon="mdiLockOutline" size="12" aria-label="locked" />
        <span class="mono dim">{{ item.figure }}</span>
      </PickCard>
      <IconButton
        v-if="item.shown === false || (near && item.shown)"
        class="eye"
        small
        :icon="item.shown ? mdiEyeOutline : mdiEyeOffOutline"
        :label="`${item.shown ? 'Hide' : 'Show'} ${item.name}`"
        action="thing.hide"
        @click="stage.run(showThing(item.id, !item.shown))"
      />
    </template>
  </div>
</template>

<style scoped>
.thing {
  position: relative;
  display: flex;
  align-items: center;
  /* The room that the eye takes, so that figures stand in one column, whether it is there or not. */
  padding-right: 26px;
  border-radius: 6px;
}
.thing:hover {
  background: var(--ink-2);
}
.thing.chosen {
  background: var(--celadon-deep);
}
.pick {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 9px;
  min-width: 0;
  height: 28px;
  padding: 0 4px 0 8px;
  width: auto;
  border-radius: 6px;
}
.pick,
.pick:hover,
.pick.on {
  background: transparent;
}
.off .pick {
  opacity: 0.5;
}
.eye {
  position: absolute;
  right: 0;
  color: var(--bone-dim);
  opacity: 0;
}
.thing:hover .eye,
.eye:focus-visible,
.off .eye {
  opacity: 1;
}
</style>
