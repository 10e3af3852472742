<script setup lang="ts" generic="T extends { id: string }">
import { shallowRef, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';

/**
 * A list that is put into another order by dragging its rows, or with Alt and the arrow keys on the row in focus (to the sides too,
 * where it lies in columns). Only
 * the order goes out; the list itself stays the owner's.
 */
const { items } = defineProps<{ items: readonly T[] }>();
const emit = defineEmits<{ order: [items: T[]] }>();
const shown = shallowRef<T[]>([...items]);
watch(
  () => items,
  (next) => (shown.value = [...next]),
);

function step(event: KeyboardEvent, i: number): void {
  const by = { ArrowUp: -1, ArrowLeft: -1, ArrowDown: 1, ArrowRight: 1 }[event.key];
  // In a text these keys move the caret.
  if (!by || !event.altKey || !shown.value[i + by] || (event.target as Element).matches('input, textarea')) return;
  event.preventDefault();
  event.stopPropagation();
  const next = [...shown.value];
  [next[i], next[i + by]] = [next[i + by], next[i]];
  emit('order', next);
}
</script>

<template>
  <VueDraggable
    v-model="shown"
    :animation="120"
    :delay="150"
    force-fallback
    filter="input, textarea, .ui-field"
    :prevent-on-filter="false"
    @end="emit('order', [...shown])"
  >
    <div v-for="(item, i) in shown" :key="item.id" @keydown="step($event, i)">
      <slot :item="item" :index="i" />
    </div>
  </VueDraggable>
</template>
