<script setup lang="ts">
import { computed } from 'vue';
import type { PromoOverlay } from '@tender-orbit/core/document';
import { frameUrl } from '../api/index.ts';
import { useCampaign } from '../stores/index.ts';
import { OVERLAY_ROW, overlayLaneHigh, rowsOf } from './layout.ts';
import DraggedBar from './DraggedBar.vue';
import KeyBeads from './KeyBeads.vue';
import OwnWave from './OwnWave.vue';
import type { PromoDrag } from './use-promo-drag.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';
import { useRowChange } from './use-row-change.ts';

/** Overlays on the time line, in as many rows as they need. */
const { span, drag } = defineProps<{ span: number; drag: PromoDrag }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
const campaign = useCampaign();
const { promo, chosenItems, sourceOf } = usePromo();
const overlays = computed((): readonly PromoOverlay[] => promo.value?.overlays ?? []);
const rows = computed(() => rowsOf(overlays.value));
const { target } = useRowChange();
const nameOf = (id: string): string => sourceOf(id)?.name ?? 'nothing there';
/** A picture of what an overlay shows: of a take the frame that it begins with. */
function posterOf({ footage, first }: PromoOverlay): string | undefined {
  const take = campaign.takes.find((t) => t.id === footage);
  if (take) return take.done.includes(first) ? frameUrl(take.id, first) : undefined;
  return sourceOf(footage)?.poster;
}
</script>

<template>
  <div
    class="lane"
    :style="{ height: `${overlayLaneHigh(overlays)}px` }"
    data-row="overlays"
    data-test="overlay-lane"
    :class="{ target: target === 'overlays' }"
  >
    <DraggedBar
      v-for="overlay in overlays"
      :id="overlay.id"
      :key="overlay.id"
      kind="overlay"
      class="overlay"
      :label="`Overlay ${nameOf(overlay.footage)}`"
      :on="chosenItems.includes(overlay.id)"
      :start="overlay.start"
      :length="overlay.length"
      :span="span"
      :top="rows.get(overlay.id)! * OVERLAY_ROW + 2"
      data-test="overlay"
      :drag="drag"
      @menu="(event, what) => emit('menu', event, what)"
    >
      <img v-if="posterOf(overlay)" :src="posterOf(overlay)" alt="" />
      <span class="clip">{{ nameOf(overlay.footage) }}</span>
      <OwnWave v-if="overlay.sound" :id="overlay.id" :shows="overlay.footage" />
      <KeyBeads :thing="overlay.id" :length="overlay.length" />
    </DraggedBar>
    <p v-if="overlays.length === 0" class="dim nothing">Clips that are carried here lie over the picture.</p>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  box-shadow: inset 0 -1px var(--ink-0);
}
.lane.target {
  background: var(--celadon-deep);
}
.nothing {
  margin: 0;
  padding: 2px 12px;
  font-size: 12px;
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
