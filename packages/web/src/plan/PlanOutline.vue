<script setup lang="ts">
import { computed } from 'vue';
import type { PlanMark } from '@tender-orbit/core/staging';

/** One thing as it is drawn from above, and its name. */
const {
  mark,
  at,
  scale,
  chosen = false,
} = defineProps<{
  mark: PlanMark;
  /** Its place in the drawing, and drawing units a metre. */
  at: { x: number; y: number };
  scale: number;
  chosen?: boolean;
}>();
const facing = computed(() => Math.atan2(mark.aim[2] - mark.position[2], mark.aim[0] - mark.position[0]));
const turned = computed(() => `translate(${at.x} ${at.y}) rotate(${(facing.value * 180) / Math.PI})`);
/** Half the length of a card, so long that it can be pressed. */
const half = computed(() => (mark.outline.kind === 'bar' ? Math.max(6, (mark.outline.width / 2) * scale) : 0));
const body = computed(() => {
  if (mark.outline.kind === 'domain') {
    const [w, h] = [mark.outline.width * scale, mark.outline.depth * scale];
    return { x: at.x - w / 2, y: at.y - h / 2, width: w, height: h, rx: 2 };
  }
  if (mark.outline.kind !== 'body') return {};
  const { width, depth, turn, round } = mark.outline;
  const [w, h] = [width * scale, depth * scale];
  const transform = `rotate(${-turn} ${at.x} ${at.y})`;
  return { x: at.x - w / 2, y: at.y - h / 2, width: w, height: h, rx: round ? w / 2 : 1, transform };
});
</script>

<template>
  <circle
    v-if="mark.outline.kind === 'product'"
    :cx="at.x"
    :cy="at.y"
    :r="Math.max(3.5, mark.outline.radius * scale)"
  />
  <line v-else-if="mark.outline.kind === 'bar'" x1="0" x2="0" :y1="-half" :y2="half" :transform="turned" />
  <rect v-else-if="mark.outline.kind === 'body'" v-bind="body" />
  <rect
    v-else-if="mark.outline.kind === 'domain'"
    v-bind="body"
    style="fill: none; stroke: var(--violet); stroke-dasharray: 3 2"
  />
  <path v-else-if="mark.outline.kind === 'null'" :d="`M${at.x - 5} ${at.y}h10M${at.x} ${at.y - 5}v10`" />
  <g v-else-if="mark.outline.kind === 'camera'" :transform="turned"><path d="M8 0L-5 6L-5 -6Z" /></g>
  <circle
    v-else-if="mark.outline.kind === 'lamp'"
    :cx="at.x"
    :cy="at.y"
    :r="chosen ? 7 : 5.5"
    :style="{ fill: mark.outline.mark }"
  />
  <text v-if="mark.raised" :x="at.x" :y="at.y + (mark.position[2] > 0 ? 17 : -10)" text-anchor="middle" class="name">
    {{ mark.name }}
  </text>
</template>
