<script setup lang="ts">
import {
  mdiBlurRadial,
  mdiCircleMultipleOutline,
  mdiCircleSlice8,
  mdiCloudOutline,
  mdiCreationOutline,
  mdiCubeOffOutline,
  mdiCubeOutline,
  mdiFlower,
  mdiFlowerOutline,
  mdiGrain,
  mdiHexagonMultipleOutline,
  mdiPaletteOutline,
  mdiLeaf,
  mdiPotSteamOutline,
  mdiSeedOutline,
  mdiSmoke,
  mdiSnowflake,
  mdiGlassFragile,
  mdiWeatherFog,
  mdiWeatherWindy,
} from '@mdi/js';
import {
  BODY_KITS,
  PARTICLE_KITS,
  SMOKE_KITS,
  type BodyKit,
  type ParticleKit,
  type SmokeKit,
} from '@tender-orbit/core/staging';
import { useActions } from '../../actions/index.ts';
import { usePlayhead, useStage } from '../../stores/index.ts';
import { PickCard } from '../../ui/index.ts';
import { useBodyKits } from './use-body-kits.ts';
import { useRecipes } from './use-recipes.ts';

/** Smoke, particles and bodies made up for the product, which begin at the playhead or the beat that is nearest to it. */
const stage = useStage();
const playhead = usePlayhead();
const actions = useActions();
const { nearestBeat } = useRecipes();
const bodies = useBodyKits(nearestBeat);
const ICONS: Record<SmokeKit | ParticleKit | BodyKit, string> = {
  'smoke reveal': mdiSmoke,
  'two colours': mdiPaletteOutline,
  'smoke wipe': mdiWeatherWindy,
  'floor fog': mdiWeatherFog,
  steam: mdiPotSteamOutline,
  'plain smoke': mdiCloudOutline,
  'dust in light': mdiGrain,
  'petal burst': mdiFlower,
  'falling petals': mdiFlowerOutline,
  'falling leaves': mdiLeaf,
  'falling seeds': mdiSeedOutline,
  snow: mdiSnowflake,
  'falling ice': mdiCubeOutline,
  'falling beads': mdiCircleMultipleOutline,
  'specks from the product': mdiCreationOutline,
  'ice drop': mdiCubeOffOutline,
  marbles: mdiCircleSlice8,
  sweets: mdiHexagonMultipleOutline,
};
const start = (): number => nearestBeat(playhead.frame);
const TILES = [
  ...SMOKE_KITS.map((kit) => ({ kit, icon: ICONS[kit], run: () => stage.addSmoke(kit, start()) })),
  ...PARTICLE_KITS.map((kit) => ({ kit, icon: ICONS[kit], run: () => stage.addParticles(kit, start()) })),
  ...BODY_KITS.map((kit) => ({ kit, icon: ICONS[kit], run: () => bodies.place(kit) })),
  { kit: 'drop as bodies', icon: mdiBlurRadial, run: () => actions.run('motion.drop') },
  { kit: 'shatter', icon: mdiGlassFragile, run: () => actions.run('motion.shatter') },
];
</script>

<template>
  <div class="tiles">
    <PickCard
      v-for="{ kit, icon, run } in TILES"
      :key="kit"
      class="tile"
      :disabled="bodies.busy.value === kit"
      :data-test="`effect-${kit.replaceAll(' ', '-')}`"
      @click="run"
    >
      <v-icon :icon="icon" size="26" class="icon" />
      <span>{{ kit.replace(/^./, (c) => c.toUpperCase()) }}</span>
    </PickCard>
  </div>
</template>

<style scoped>
.tiles {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
}
.tile {
  display: grid;
  justify-items: center;
  align-content: start;
  gap: 4px;
  padding: 8px 2px 6px;
  font-size: 12px;
  line-height: 1.2;
  text-align: center;
}
.icon {
  color: var(--violet);
}
</style>
