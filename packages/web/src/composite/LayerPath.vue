<script setup lang="ts">
import { maskPointsAt } from '@tender-orbit/core/composite';
import type { Layer, MaskPoint, StrokePoint } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { useCampaign, usePlayhead, useRack } from '../stores/index.ts';
import { withPoints } from './mask-shapes.ts';
import PathEditor from './PathEditor.vue';

/** The drawn mask or stroke of the chosen layer over the picture. */
const { layer } = defineProps<{ layer: Layer }>();
const campaign = useCampaign();
const playhead = usePlayhead();
const rack = useRack();

const mask = computed(() => rack.drawing === 'mask' && layer.mask === 'path');
const stroke = computed(() => (rack.drawing === 'stroke' && layer.kind === 'stroke' ? layer : null));
const points = computed(() => maskPointsAt(layer.maskPath, playhead.frame));
const origin = computed((): [number, number] => [
  rack.value(layer, mask.value ? 'maskX' : 'x') as number,
  rack.value(layer, mask.value ? 'maskY' : 'y') as number,
]);
</script>

<template>
  <PathEditor
    v-if="mask"
    :points="points"
    :aspect="campaign.aspect"
    :origin="origin"
    :least="3"
    closed
    :label="`Mask of ${layer.name}`"
    @change="
      (next, gesture) =>
        rack.change(
          layer,
          'Change mask',
          { maskPath: withPoints(layer.maskPath, playhead.frame, next as MaskPoint[]) },
          gesture,
        )
    "
  />
  <PathEditor
    v-else-if="stroke"
    :points="stroke.points"
    :aspect="campaign.aspect"
    :origin="origin"
    :least="2"
    :closed="stroke.closed"
    :label="`Stroke ${layer.name}`"
    @change="
      (next, gesture) =>
        rack.change(layer, 'Change stroke', { points: next as StrokePoint[] } as Partial<Layer>, gesture)
    "
  />
</template>
