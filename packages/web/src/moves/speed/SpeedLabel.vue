<script setup lang="ts">
import { computed } from 'vue';
import { MenuButton } from '../../ui/index.ts';
import { useScreenSpeed } from './use-screen-speed.ts';

/** What the graph of screen speed says in words, and what helps. */
const { name, speeds, strobing, cures } = useScreenSpeed();
/** Lines of the picture that speeds are said in. */
const LINES = 1080;
const fastest = computed(() => Math.round(Math.max(0, ...speeds.value.map(({ speed }) => speed)) * LINES));
</script>

<template>
  <div class="words">
    <strong class="clip">{{ name }}</strong>
    <span class="dim">up to {{ fastest }} px a frame</span>
    <MenuButton
      v-if="strobing.length"
      class="cure"
      :lines="cures"
      tip="It jumps further than its own features: separate pictures are seen"
      data-test="strobe-cure"
    >
      Strobes
    </MenuButton>
    <span v-else class="dim">no strobing</span>
  </div>
</template>

<style scoped>
.words {
  display: grid;
  align-content: center;
  justify-items: start;
  gap: 2px;
  height: 72px;
  padding: 0 6px;
  font-size: 12px;
}
.cure {
  color: var(--coral);
}
</style>
