<script setup lang="ts">
import { mdiClose, mdiDragVertical, mdiPlus } from '@mdi/js';
import { computed } from 'vue';
import { IconButton, MenuButton, SortList } from '../../ui/index.ts';

/** Things of a recipe in the order in which they come; dragged, taken out, or put in from what else there is. */
const {
  label,
  ids,
  all,
  again = false,
} = defineProps<{
  label: string;
  ids: readonly string[];
  /** What can be in it. */
  all: ReadonlyArray<{ id: string; name: string }>;
  /** Whether one may be in it more than once. */
  again?: boolean;
}>();
const emit = defineEmits<{ change: [ids: string[]] }>();

const items = computed(() =>
  ids.map((id, i) => ({ id: `${id} ${i}`, thing: id, name: all.find((t) => t.id === id)?.name ?? 'deleted' })),
);
const lines = computed(() =>
  all
    .filter(({ id }) => again || !ids.includes(id))
    .map(({ id, name }) => ({ title: name, run: () => emit('change', [...ids, id]) })),
);
</script>

<template>
  <div class="things" :aria-label="label" role="group">
    <div class="row">
      <span class="dim">{{ label }}</span>
      <span class="spread" />
      <MenuButton small :icon="mdiPlus" :label="`Add to ${label.toLowerCase()}`" :lines="lines" />
    </div>
    <SortList
      :items="items"
      @order="
        (next) =>
          emit(
            'change',
            next.map((n) => n.thing),
          )
      "
    >
      <template #default="{ item, index }">
        <div class="thing">
          <v-icon :icon="mdiDragVertical" size="15" />
          <span class="clip">{{ item.name }}</span>
          <IconButton
            small
            :icon="mdiClose"
            :label="`Take ${item.name} out`"
            :disabled="ids.length < 2"
            @click="emit('change', ids.toSpliced(index, 1))"
          />
        </div>
      </template>
    </SortList>
  </div>
</template>

<style scoped>
.things {
  padding-left: 20px;
}
.thing {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  align-items: center;
  gap: 4px;
  min-height: 26px;
  cursor: grab;
}
</style>
