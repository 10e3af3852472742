<script setup lang="ts">
import {
  mdiArrowLeft,
  mdiBookmarkPlusOutline,
  mdiContentCopy,
  mdiContentPaste,
  mdiEyeOffOutline,
  mdiEyeOutline,
  mdiFolderOpenOutline,
  mdiFolderPlusOutline,
  mdiFolderRemoveOutline,
  mdiImageFilterCenterFocus,
  mdiLockOpenVariantOutline,
  mdiLockOutline,
  mdiTrashCanOutline,
} from '@mdi/js';
import { computed, ref, watch } from 'vue';
import { LAYERS, type Layer, type LayerSpace } from '@tender-orbit/core/document';
import { VueDraggable } from 'vue-draggable-plus';
import { useLooks, useRack } from '../stores/index.ts';
import { IconButton, PickCard } from '../ui/index.ts';
import CopyValues from './CopyValues.vue';
import { LAYER_ICONS } from './layer-icons.ts';

/** Layers of the composite as plates on a rail seen from the side: from the glass, at the left, to the farthest. */
const rack = useRack();
const looks = useLooks();
const copying = ref(false);
const COLOURS: Partial<Record<Layer['kind'], string>> = {
  take: 'var(--celadon)',
  grade: 'var(--violet)',
  lens: 'var(--violet)',
  filter: 'var(--violet)',
  lut: 'var(--violet)',
  tones: 'var(--violet)',
  qualifier: 'var(--violet)',
  curves: 'var(--violet)',
  flare: 'var(--honey)',
  streaks: 'var(--honey)',
  strip: 'var(--honey)',
  composite: 'var(--celadon)',
  text: 'var(--bone)',
  still: 'var(--bone)',
  specks: 'var(--honey)',
  stroke: 'var(--bone)',
  logo: 'var(--bone)',
  null: 'var(--line)',
};
const SPACES: ReadonlyArray<{ space: LayerSpace; title: string; tip: string }> = [
  { space: 'glass', title: 'On the glass', tip: 'After the view transform: colours come out as they are' },
  { space: 'scene', title: 'In the scene', tip: 'Light before the view transform: grades and lenses act on it' },
];
/** A plate's neighbour behind it, which can be grouped with it: on the same rail. */
const behind = computed(() => {
  const at = rack.plates.findIndex((l) => l.id === rack.chosen);
  const next = rack.plates[at + 1];
  return at >= 0 && next?.space === rack.plates[at].space && next.kind !== 'take' ? next : undefined;
});
function groupUp(): void {
  const own = rack.layer;
  if (own) rack.groupUp([own.id, ...(behind.value ? [behind.value.id] : [])]);
}
// What is chosen elsewhere is seen here.
watch(
  () => rack.chosen,
  (id) => id && rack.reveal(id),
);
const rails = computed(() => {
  const group = rack.group;
  return group ? SPACES.filter(({ space }) => space === group.space) : SPACES;
});
const inGroup = (id: string): number => rack.layers.filter((l) => l.group === id).length;
// Whatever a group holds stands on its rail.
const standsOn = (l: Layer): LayerSpace => rack.group?.space ?? l.space;
const onGlass = computed(() => rack.plates.filter((l) => standsOn(l) === 'glass'));
const inScene = computed(() => rack.plates.filter((l) => standsOn(l) === 'scene'));
/** Plates of a rail, which dragging gives anew. */
function put(space: LayerSpace, list: Layer[]): void {
  const rest = (space === 'glass' ? inScene : onGlass).value.filter((l) => !list.some(({ id }) => id === l.id));
  // A plate that is dragged from one rail to the other is in both lists until both have told.
  if (rack.group) {
    rack.arrange(
      list.map(({ id }) => id),
      space === 'glass' ? list.length : 0,
    );
    return;
  }
  const [glass, scene] = space === 'glass' ? [list, rest] : [rest, list];
  if (glass.length + scene.length !== rack.plates.length) return;
  rack.arrange(
    [...glass, ...scene].map(({ id }) => id),
    glass.length,
  );
}
function step(event: KeyboardEvent, id: string): void {
  if (event.key === 'Enter' && rack.layers.some((l) => l.id === id && l.kind === 'group')) {
    event.preventDefault();
    rack.inside = id;
    return;
  }
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (!by) return;
  event.preventDefault();
  const order = rack.plates.map((l) => l.id);
  const at = order.indexOf(id);
  const glass = onGlass.value.length;
  if (!event.altKey) {
    const next = order[at + by];
    if (!next) return;
    rack.chosen = next;
    (event.currentTarget as HTMLElement).parentElement?.parentElement
      ?.querySelector<HTMLElement>(`[data-plate="${next}"]`)
      ?.focus();
    return;
  }
  // Over the edge between the rails it changes the rail only.
  if (by > 0 && at === glass - 1) rack.arrange(order, glass - 1);
  else if (by < 0 && at === glass) rack.arrange(order, glass + 1);
  else if (order[at + by]) {
    [order[at], order[at + by]] = [order[at + by], order[at]];
    rack.arrange(order, glass);
  }
}
</script>

<template>
  <section class="card rack" aria-label="Plate rack" data-test="plate-rack">
    <div class="row head">
      <slot />
      <template v-if="rack.group">
        <IconButton
          small
          :icon="mdiArrowLeft"
          label="Back to what holds this group"
          data-test="leave-group"
          @click="rack.reveal(rack.group.id)"
        />
        <span class="clip" data-test="group-name">{{ rack.group.name }}</span>
      </template>
      <span v-if="rack.layers.length === 0" class="dim">The take alone. Put something on the rack to work on it.</span>
      <span class="spread" />
      <template v-if="rack.layer">
        <template v-if="rack.layer.kind === 'group'">
          <IconButton
            small
            :icon="mdiFolderOpenOutline"
            label="Open group"
            data-test="open-group"
            @click="rack.inside = rack.layer.id"
          />
          <IconButton
            small
            :icon="mdiFolderRemoveOutline"
            label="Ungroup"
            data-test="ungroup"
            @click="rack.ungroup(rack.layer)"
          />
        </template>
        <IconButton
          small
          :icon="mdiFolderPlusOutline"
          :label="behind ? `Group with ${behind.name}` : 'Group'"
          data-test="group"
          @click="groupUp"
        />
        <IconButton
          small
          :icon="rack.layer.visible ? mdiEyeOutline : mdiEyeOffOutline"
          :label="rack.layer.visible ? 'Hide layer' : 'Show layer'"
          @click="rack.setValue(rack.layer, 'visible', !rack.layer.visible)"
        />
        <IconButton
          small
          :icon="mdiImageFilterCenterFocus"
          :label="
            rack.isolated === rack.layer.id ? 'Show all layers' : 'Isolate layer: it alone is drawn while you work'
          "
          :pressed="rack.isolated === rack.layer.id"
          @click="rack.isolated = rack.isolated === rack.layer.id ? '' : rack.layer.id"
        />
        <IconButton
          small
          :icon="rack.layer.locked ? mdiLockOutline : mdiLockOpenVariantOutline"
          :label="rack.layer.locked ? 'Unlock layer' : 'Lock layer'"
          :pressed="rack.layer.locked"
          @click="rack.lock(rack.layer)"
        />
        <IconButton
          small
          :icon="mdiContentCopy"
          label="Duplicate layer with its keys"
          @click="rack.duplicate(rack.layer)"
        />
        <IconButton
          small
          :icon="mdiContentPaste"
          label="Copy values to other layers"
          data-test="open-copy-values"
          @click="copying = true"
        />
        <IconButton
          small
          :icon="mdiBookmarkPlusOutline"
          label="Keep as a look, for other shots"
          data-test="keep-look"
          @click="looks.keep(rack.layer)"
        />
        <IconButton small :icon="mdiTrashCanOutline" label="Delete layer" @click="rack.remove(rack.layer.id)" />
      </template>
    </div>
    <CopyValues :open="copying" @close="copying = false" />
    <div v-if="rack.layers.length" class="rails scroll">
      <div v-for="{ space, title, tip } in rails" :key="space" class="rail" :class="space">
        <VueDraggable
          class="plates"
          :model-value="(space === 'glass' ? onGlass : inScene) as Layer[]"
          group="plates"
          :animation="120"
          force-fallback
          @update:model-value="(list: Layer[]) => put(space, list)"
        >
          <PickCard
            v-for="layer in space === 'glass' ? onGlass : inScene"
            :key="layer.id"
            class="plate"
            :class="{ off: !layer.visible }"
            :on="rack.chosen === layer.id"
            :style="{ '--plate': COLOURS[layer.kind] ?? 'var(--clay)' }"
            :data-plate="layer.id"
            :label="`${layer.name}, ${LAYERS[layer.kind].title}. Alt and the arrow keys carry it`"
            @click="rack.chosen = layer.id"
            @dblclick="layer.kind === 'group' && (rack.inside = layer.id)"
            @keydown="step($event, layer.id)"
          >
            <span class="glass">
              <svg width="36" height="60" viewBox="0 0 36 60" aria-hidden="true">
                <path d="M2 10L34 2V50L2 58Z" fill="var(--plate)" fill-opacity=".24" stroke="var(--plate)" />
              </svg>
              <v-icon :icon="LAYER_ICONS[layer.kind]" size="18" class="mark" />
            </span>
            <span class="clip">{{ layer.name }}</span>
            <span v-if="layer.clip" class="badge" title="Clipped to the layer behind it">clip</span>
            <span v-else-if="layer.kind === 'group'" class="badge">{{ inGroup(layer.id) }}</span>
          </PickCard>
        </VueDraggable>
        <span class="title dim" :title="tip">{{ title }}</span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.rack {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  padding: 6px 10px;
}
.head {
  min-height: 28px;
  gap: 4px;
}
.badge {
  position: absolute;
  top: 2px;
  right: 4px;
  padding: 0 4px;
  border-radius: 4px;
  background: var(--ink-2);
  font-size: 12px;
}
.rails {
  display: flex;
  gap: 14px;
}
.rail {
  display: grid;
  grid-template-rows: auto auto;
  align-content: start;
  justify-items: stretch;
  min-width: 120px;
}
.rail.scene {
  flex: 1 0 auto;
}
.plates {
  display: flex;
  min-width: 120px;
  min-height: 84px;
  border-bottom: 3px solid var(--line);
}
.plate {
  position: relative;
  flex: none;
  display: grid;
  justify-items: center;
  width: 68px;
  padding: 2px;
  font-size: 12px;
  text-align: center;
  cursor: grab;
}
.glass {
  position: relative;
  display: grid;
  place-items: center;
}
.mark {
  position: absolute;
  opacity: 0.85;
}
.plate .clip {
  width: 64px;
}
.plate.off {
  opacity: 0.45;
}
.title {
  padding-top: 3px;
  font-size: 12px;
}
</style>
