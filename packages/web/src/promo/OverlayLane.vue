<script setup lang="ts">
import { computed } from 'vue';
import type { PromoOverlay } from '@tender-orbit/core/document';
import { rowsOf } from './layout.ts';
import DraggedBar from './DraggedBar.vue';
import type { PromoDrag } from './use-promo-drag.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';

/** Overlays on the time line, in as many rows as they need. */
const { span, drag } = defineProps<{ span: number; drag: PromoDrag }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
const { promo, chosen } = usePromo();
const ROW = 26;
const overlays = computed((): readonly PromoOverlay[] => promo.value?.overlays ?? []);
const rows = computed(() => rowsOf(overlays.value));
const count = computed(() => Math.max(1, ...[...rows.value.values()].map((row) => row + 1)));
const footageOf = (id: string) => promo.value?.footage.find((f) => f.id === id);
const isChosen = (id: string): boolean => chosen.value?.kind === 'overlay' && chosen.value.id === id;
</script>

<template>
  <div class="lane" :style="{ height: `${count * ROW + 4}px` }" data-test="overlay-lane">
    <DraggedBar
      v-for="overlay in overlays"
      :id="overlay.id"
      :key="overlay.id"
      kind="overlay"
      class="overlay"
      :label="`Overlay ${footageOf(overlay.footage)?.name ?? 'without footage'}`"
      :on="isChosen(overlay.id)"
      :start="overlay.start"
      :length="overlay.length"
      :span="span"
      :top="rows.get(overlay.id)! * ROW + 2"
      data-test="overlay"
      :drag="drag"
      @menu="(event, what) => emit('menu', event, what)"
    >
      <img v-if="footageOf(overlay.footage)" :src="`/api/assets/${footageOf(overlay.footage)!.poster}`" alt="" />
      <span class="clip">{{ footageOf(overlay.footage)?.name ?? 'no footage' }}</span>
    </DraggedBar>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  box-shadow: inset 0 -1px var(--ink-0);
}
.overlay {
  display: flex;
  align-items: center;
  gap: 6px;
  height: 23px;
  background: #23424a;
}
.overlay img {
  height: 17px;
  border-radius: 2px;
  pointer-events: none;
}
</style>
