<script setup lang="ts">
import { computed } from 'vue';
import DraggedBar from './DraggedBar.vue';
import type { PromoDrag } from './use-promo-drag.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';

/** Markers and notes. */
const { span, drag } = defineProps<{ span: number; drag: PromoDrag }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
const { promo, chosen } = usePromo();
const markers = computed(() => promo.value?.markers ?? []);
</script>

<template>
  <div class="lane" data-test="marker-lane">
    <DraggedBar
      v-for="marker in markers"
      :id="marker.id"
      :key="marker.id"
      kind="marker"
      class="marker"
      :class="{ place: marker.length === 0 }"
      :label="`${marker.length > 0 ? 'Note' : 'Marker'} ${marker.name}`"
      :on="chosen?.kind === 'marker' && chosen.id === marker.id"
      :start="marker.at"
      :length="marker.length"
      :span="span"
      :top="2"
      edges="end"
      data-test="marker"
      :drag="drag"
      @menu="(event, what) => emit('menu', event, what)"
    >
      <span class="clip">{{ marker.name }}</span>
    </DraggedBar>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  height: 24px;
  box-shadow: inset 0 -1px var(--ink-0);
}
.marker {
  display: flex;
  align-items: center;
  height: 20px;
  padding: 0 6px;
  border-left: 2px solid var(--bone);
  border-radius: 0 6px 6px 0;
  font-size: 12px;
  background: var(--ink-2);
}
/* A place has no length: its name says it. */
.marker.place {
  width: auto !important;
  max-width: 130px;
}
</style>
