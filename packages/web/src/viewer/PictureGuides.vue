<script setup lang="ts">
import { computed } from 'vue';

/** Thirds, middle, safe area and masks of other formats over the picture. */
const { guides, mask, aspect } = defineProps<{ guides: readonly string[]; mask: string; aspect: number }>();
/** The part of the picture that a format keeps, in shares of it. */
const kept = computed(() => {
  const [w, h] = mask.split(':').map(Number);
  if (!w || !h) return null;
  const own = w / h;
  const [width, height] = own < aspect ? [own / aspect, 1] : [1, aspect / own];
  return { x: ((1 - width) / 2) * 300, y: ((1 - height) / 2) * 300, width: width * 300, height: height * 300 };
});
</script>

<template>
  <svg class="guides" viewBox="0 0 300 300" preserveAspectRatio="none" aria-hidden="true">
    <path v-if="guides.includes('thirds')" d="M100 0V300M200 0V300M0 100H300M0 200H300" />
    <path v-if="guides.includes('middle')" d="M150 0V300M0 150H300" />
    <rect v-if="guides.includes('safe')" x="15" y="15" width="270" height="270" />
    <template v-if="kept">
      <path
        class="mask"
        fill-rule="evenodd"
        :d="`M0 0H300V300H0ZM${kept.x} ${kept.y}h${kept.width}v${kept.height}h${-kept.width}z`"
      />
      <rect v-bind="kept" />
    </template>
  </svg>
</template>

<style scoped>
.guides {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  fill: none;
  stroke: #fff;
  stroke-opacity: 0.32;
  stroke-width: 1px;
}
.guides * {
  vector-effect: non-scaling-stroke;
}
.mask {
  fill: #16131c;
  fill-opacity: 0.72;
  stroke: none;
}
</style>
