<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { SplitterGroup, SplitterPanel, SplitterResizeHandle } from 'reka-ui';

/** A station's panels side by side; the person's widths are remembered by name, in pixels. */
const { name, left, right } = defineProps<{
  name: string;
  /** Usual widths in pixels. */
  left: number;
  right: number;
}>();
const NARROWEST = 150;
const WIDEST = 620;
/** Panels take part of what a wide window gains; the middle takes most of it. */
const roomy = Math.min(1.35, Math.max(1, window.innerWidth / 1600));
const leftWidth = useLocalStorage(`tender-orbit:panel:${name}-left`, Math.round(left * roomy));
const rightWidth = useLocalStorage(`tender-orbit:panel:${name}-right`, Math.round(right * roomy));
</script>

<template>
  <SplitterGroup :id="name" direction="horizontal" class="ui-split" :keyboard-resize-by="3">
    <SplitterPanel
      :id="`${name}-left`"
      :order="1"
      size-unit="px"
      :default-size="leftWidth"
      :min-size="NARROWEST"
      :max-size="WIDEST"
      @resize="(size) => (leftWidth = Math.round(size))"
    >
      <slot name="left" />
    </SplitterPanel>
    <SplitterResizeHandle :id="`${name}-left-edge`" class="edge" aria-label="Width of the left panel" />
    <SplitterPanel :id="`${name}-middle`" :order="2" :min-size="25"><slot /></SplitterPanel>
    <SplitterResizeHandle :id="`${name}-right-edge`" class="edge" aria-label="Width of the right panel" />
    <SplitterPanel
      :id="`${name}-right`"
      :order="3"
      size-unit="px"
      :default-size="rightWidth"
      :min-size="NARROWEST"
      :max-size="WIDEST"
      @resize="(size) => (rightWidth = Math.round(size))"
    >
      <slot name="right" />
    </SplitterPanel>
  </SplitterGroup>
</template>

<style scoped>
.ui-split {
  min-height: 0;
  min-width: 0;
}
.ui-split > [data-panel] {
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
.edge {
  flex: none;
  width: 8px;
  border-radius: 4px;
}
.edge:hover,
.edge[data-resize-handle-active] {
  background: var(--ink-2);
}
</style>
