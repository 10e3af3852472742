<script setup lang="ts">
import { mdiBookmarkOutline, mdiTrashCanOutline } from '@mdi/js';
import { LAYERS, type LayerKind } from '@tender-orbit/core/document';
import { computed, onMounted } from 'vue';
import type { KeptLook } from '../api/index.ts';
import { confirm, IconButton, openContextMenu, PickCard } from '../ui/index.ts';
import { useLooks, useRack } from '../stores/index.ts';
import { LAYER_ICONS } from './layer-icons.ts';

/** What can be put on the rack. */
const rack = useRack();
const looks = useLooks();
onMounted(() => void looks.read());
async function remove(look: KeptLook): Promise<void> {
  const text = 'Where it was put on a rack it stays. That it is kept no more cannot be undone.';
  if (await confirm({ title: `Delete the look ${look.name}?`, text, yes: 'Delete look', danger: true }))
    await looks.remove(look);
}
function openMenu(event: MouseEvent, look: KeptLook): void {
  openContextMenu(event, [{ title: 'Delete look', run: () => void remove(look) }]);
}
/** Kinds that need a take of a shot. */
const OF_SHOTS: readonly LayerKind[] = ['take', 'fog'];
const shown = computed(() =>
  GROUPS.map(({ title, kinds }) => ({
    title,
    kinds: kinds.filter((kind) => rack.host === 'shot' || !OF_SHOTS.includes(kind)),
  })),
);
const GROUPS: ReadonlyArray<{ title: string; kinds: readonly LayerKind[] }> = [
  { title: 'Pictures', kinds: ['take', 'still', 'footage', 'logo', 'composite'] },
  { title: 'Graphics', kinds: ['text', 'solid', 'gradient', 'shape', 'stroke', 'repeater'] },
  { title: 'Air and light', kinds: ['vapour', 'specks', 'fog', 'flare', 'streaks', 'strip'] },
  { title: 'Adjust what is below', kinds: ['grade', 'curves', 'tones', 'qualifier', 'lut', 'lens', 'filter'] },
  { title: 'Hold others', kinds: ['group', 'null'] },
];
</script>

<template>
  <section aria-label="Put on the rack" data-test="layer-shelf">
    <h2>{{ rack.host === 'shot' ? 'Put on the rack' : 'Put over the picture' }}</h2>
    <div class="scroll">
      <template v-if="looks.looks.length > 0">
        <h3>Kept looks</h3>
        <div v-for="look in looks.looks" :key="look.id" class="row" @contextmenu="openMenu($event, look)">
          <PickCard class="kind spread" data-test="look" @click="looks.put(look)">
            <v-icon :icon="mdiBookmarkOutline" size="18" />
            <span class="clip">{{ look.name }}</span>
          </PickCard>
          <IconButton small :icon="mdiTrashCanOutline" :label="`Delete look ${look.name}`" @click="remove(look)" />
        </div>
      </template>
      <template v-for="{ title, kinds } in shown" :key="title">
        <h3>{{ title }}</h3>
        <div class="grid">
          <PickCard v-for="kind in kinds" :key="kind" class="kind" :data-test="`layer-${kind}`" @click="rack.add(kind)">
            <v-icon :icon="LAYER_ICONS[kind]" size="18" />
            <span class="clip">{{ LAYERS[kind].title }}</span>
          </PickCard>
        </div>
      </template>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
  padding: 8px 10px 6px;
  border-top: 1px solid var(--line);
}
h2 {
  margin: 0 2px 6px;
  font-size: 13px;
}
h3 {
  margin: 6px 2px 2px;
  font-size: 12px;
  font-weight: 500;
  color: var(--bone-dim);
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 5px;
}
.kind {
  display: flex;
  align-items: center;
  gap: 5px;
  padding: 5px 4px;
  font-size: 12px;
}
</style>
