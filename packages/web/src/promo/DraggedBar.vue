<script setup lang="ts">
import { TimeBar } from '../ui/index.ts';
import type { DragKind, PromoDrag } from './use-promo-drag.ts';
import type { PromoChoice } from './use-promo.ts';

/** A bar on the promo's time line: carried, stretched and nudged as what it stands for is. */
const {
  kind,
  id,
  label,
  on,
  start,
  length,
  span,
  drag,
  top = undefined,
  edges = 'both',
  at = undefined,
  lasts = undefined,
} = defineProps<{
  kind: DragKind;
  id: string;
  label: string;
  on: boolean;
  /** Frames: where the bar begins, how long it is, and how many the time line shows. */
  start: number;
  length: number;
  span: number;
  drag: PromoDrag;
  top?: number;
  edges?: 'end' | 'both';
  /** What is carried, where it is not the bar's beginning: a sound's accent, and its seconds. */
  at?: number;
  lasts?: number;
}>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
</script>

<template>
  <TimeBar
    :label="label"
    :on="on"
    :start="start"
    :length="length"
    :span="span"
    :top="top"
    :edges="edges"
    @contextmenu="emit('menu', $event, { kind, id })"
    @pointerdown="drag.down($event, kind, id, at ?? start, lasts ?? length)"
    @pointermove="drag.move"
    @pointerup="drag.up"
    @pointercancel="drag.up"
    @keydown="drag.onKey($event, kind, id, at ?? start, lasts ?? length)"
    ><slot
  /></TimeBar>
</template>
