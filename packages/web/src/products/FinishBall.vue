<script setup lang="ts">
import { linearToHex, type Finish } from '@tender-orbit/core/finish';
import { ballOf } from './looks.ts';
import { PickCard } from '../ui/index.ts';

/** A finish on a lit ball, to choose it by. */
const { finish, on = undefined } = defineProps<{ finish: Finish; on?: boolean }>();
const emit = defineEmits<{ click: [] }>();
/** Stands for the ball while it is being traced: the colour that the finish is known by. */
function plain(f: Finish): string {
  return linearToHex(f.attenuationDistance > 0 ? f.attenuationColor : f.baseColor);
}
</script>

<template>
  <PickCard class="ball" :on="on" @click="emit('click')">
    <img v-if="ballOf(finish)" :src="ballOf(finish)!" width="44" height="44" alt="" />
    <span v-else class="disc" :style="{ background: plain(finish) }" />
    <span class="clip">{{ finish.name }}</span>
  </PickCard>
</template>

<style scoped>
.ball {
  display: grid;
  justify-items: center;
  gap: 3px;
  min-width: 0;
  padding: 5px 2px 3px;
  border: 0;
  border-radius: 8px;
  background: transparent;
  color: var(--bone-dim);
  font: inherit;
  font-size: 12px;
  cursor: pointer;
}
.ball .clip {
  max-width: 100%;
}
.ball:hover {
  background: var(--ink-2);
}
.ball.on {
  background: var(--celadon-deep);
  color: var(--bone);
}
img,
.disc {
  width: 44px;
  height: 44px;
  border-radius: 50%;
}
</style>
