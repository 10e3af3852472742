<script setup lang="ts">
import { computed } from 'vue';
import { orderThings } from '@tender-orbit/core/document';
import { useStage } from '../stores/index.ts';
import type { ThingGroup, ThingItem } from './set-groups.ts';
import ThingRow from './ThingRow.vue';
import { SortList } from '../ui/index.ts';

/** The things of a group: sorted by drag, or only those in sight are drawn when there are very many. */
const { group } = defineProps<{ group: ThingGroup }>();
const stage = useStage();
const MANY = 60;
const ROW = 28;
const movable = computed(() => group.items.filter((item) => item.role === group.role));
const fixed = computed(() => group.items.filter((item) => item.role !== group.role));

function order(items: ThingItem[]): void {
  stage.run(
    orderThings(
      group.list,
      items.map(({ id }) => id),
    ),
  );
}
</script>

<template>
  <v-virtual-scroll v-if="group.items.length > MANY" :items="group.items" :item-height="ROW" height="420">
    <template #default="{ item }"><ThingRow :item="item" /></template>
  </v-virtual-scroll>
  <template v-else>
    <SortList :items="movable" @order="order">
      <template #default="{ item }"><ThingRow :item="item" /></template>
    </SortList>
    <ThingRow v-for="item in fixed" :key="item.id" :item="item" />
  </template>
</template>
