<script setup lang="ts">
/** Something that lasts on a time line: pressed to choose it, dragged, and stretched at its edges, which carry `data-part`. */
const {
  label,
  on,
  start,
  length,
  span,
  top = undefined,
  edges,
} = defineProps<{
  label: string;
  on: boolean;
  /** Frames: where it begins, how long it is, and how many the time line shows. */
  start: number;
  length: number;
  span: number;
  /** Pixels from the top of its lane. */
  top?: number;
  edges: 'end' | 'both';
}>();
const share = (frames: number): string => `${(100 * frames) / span}%`;
</script>

<template>
  <v-card
    tag="button"
    type="button"
    variant="flat"
    class="ui-time-bar"
    :class="{ on }"
    :style="{ left: share(start), width: share(length), top: top === undefined ? undefined : `${top}px` }"
    :aria-label="label"
    :aria-pressed="on"
    :ripple="false"
    link
  >
    <i v-if="edges === 'both'" class="edge left" data-part="start" />
    <slot />
    <i class="edge right" data-part="end" />
  </v-card>
</template>

<style scoped>
.ui-time-bar {
  position: absolute;
  padding: 0 8px;
  border: 1px solid transparent;
  border-radius: 6px;
  color: var(--bone);
  font: inherit;
  letter-spacing: inherit;
  text-align: left;
  cursor: grab;
  touch-action: none;
  overflow: hidden;
}
.ui-time-bar.on {
  border-color: var(--celadon) !important;
  box-shadow: 0 0 0 1px var(--celadon);
}
.ui-time-bar > :deep(:is(.v-card__overlay, .v-card__underlay)) {
  display: none;
}
.edge {
  position: absolute;
  z-index: 1;
  top: 0;
  bottom: 0;
  width: 8px;
  cursor: ew-resize;
}
.left {
  left: 0;
}
.right {
  right: 0;
}
.edge:hover {
  background: var(--celadon);
  opacity: 0.6;
}
</style>
