<script setup lang="ts">
import { ref } from 'vue';

/** Another picture over one to compare them: right of a line that is dragged, or what differs between the two. */
const { src, alt, difference = false } = defineProps<{ src: string; alt: string; difference?: boolean }>();
/** Share of the picture left of the line, per cent. */
const wipe = ref(50);
</script>

<template>
  <img
    :src="src"
    :alt="alt"
    :class="{ difference }"
    :style="difference ? {} : { clipPath: `inset(0 0 0 ${wipe}%)` }"
    data-test="compared"
  />
  <v-slider
    v-if="!difference"
    v-model="wipe"
    class="wipe"
    :min="0"
    :max="100"
    :aria-label="`Compare: ${alt} right of here`"
    hide-details
    track-color="transparent"
  />
</template>

<style scoped>
img {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  min-height: 0;
  object-fit: contain;
}
.difference {
  mix-blend-mode: difference;
}
.wipe {
  position: absolute;
  right: 0;
  bottom: 4px;
  left: 0;
}
</style>
