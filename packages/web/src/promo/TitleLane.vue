<script setup lang="ts">
import { computed } from 'vue';
import { rowsOf } from './layout.ts';
import DraggedBar from './DraggedBar.vue';
import KeyBeads from './KeyBeads.vue';
import type { PromoDrag } from './use-promo-drag.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';

/** Titles on the time line, in as many rows as they need. */
const { span, drag } = defineProps<{ span: number; drag: PromoDrag }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
const { promo, chosenItems } = usePromo();
const ROW = 28;
const titles = computed(() => promo.value?.titles ?? []);
const rows = computed(() => rowsOf(titles.value));
const count = computed(() => Math.max(1, ...[...rows.value.values()].map((row) => row + 1)));
</script>

<template>
  <div class="lane" :style="{ height: `${count * ROW + 4}px` }">
    <DraggedBar
      v-for="title in titles"
      :id="title.id"
      :key="title.id"
      kind="title"
      class="title"
      :label="`Title ${title.text}`"
      :on="chosenItems.includes(title.id)"
      :start="title.start"
      :length="title.length"
      :span="span"
      :top="rows.get(title.id)! * ROW + 2"
      data-test="title"
      :drag="drag"
      @menu="(event, what) => emit('menu', event, what)"
    >
      <span class="clip">{{ title.text || 'empty title' }}</span>
      <KeyBeads :thing="title.id" :length="title.length" />
    </DraggedBar>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  box-shadow: inset 0 -1px var(--ink-0);
}
.title {
  display: flex;
  align-items: center;
  height: 25px;
  background: #3d3468;
}
</style>
