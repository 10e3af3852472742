<script setup lang="ts">
import { isPart, type Layer } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { LAYER_ICONS } from '../composite/layer-icons.ts';
import { useRack } from '../stores/index.ts';
import DraggedBar from './DraggedBar.vue';
import KeyBeads from './KeyBeads.vue';
import type { PromoDrag } from './use-promo-drag.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';

/** Layers over the picture, a row each, the highest first, with their keys. */
const { span, drag } = defineProps<{ span: number; drag: PromoDrag }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
const rack = useRack();
const { chosen } = usePromo();
const ROW = 24;
const layers = computed(() => rack.layers.filter((l) => !isPart(l)).toReversed());
/** How long a layer is to be seen; one without an end lasts as long as the promo. */
const lengthOf = ({ start, length }: Layer): number => (length > 0 ? length : Math.max(1, span - start));
</script>

<template>
  <div class="lane" :style="{ height: `${layers.length * ROW + 4}px` }" data-test="layer-lane">
    <DraggedBar
      v-for="(layer, row) in layers"
      :id="layer.id"
      :key="layer.id"
      kind="layer"
      class="layer"
      :class="{ hidden: !layer.visible }"
      :label="`Layer ${layer.name}`"
      :on="chosen?.kind === 'layer' && chosen.id === layer.id"
      :start="layer.start"
      :length="lengthOf(layer)"
      :span="span"
      :top="row * ROW + 2"
      data-test="layer"
      :drag="drag"
      @menu="(event, what) => emit('menu', event, what)"
    >
      <v-icon :icon="LAYER_ICONS[layer.kind]" size="15" />
      <span class="clip">{{ layer.name }}</span>
      <KeyBeads :thing="layer.id" :length="lengthOf(layer)" :first="layer.start" />
    </DraggedBar>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  box-shadow: inset 0 -1px var(--ink-0);
}
.layer {
  display: flex;
  align-items: center;
  gap: 6px;
  height: 21px;
  font-size: 12px;
  background: #4a2f49;
}
.layer.hidden {
  opacity: 0.5;
}
</style>
