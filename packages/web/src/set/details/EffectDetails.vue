<script setup lang="ts">
import { EFFECT_LEVELS, propertyOf, type EffectLevel } from '@tender-orbit/core/document';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { effectCost } from '@tender-orbit/core/simulate';
import { framesToSeconds } from '@tender-orbit/core/time';
import { computed } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useEffects } from '../../effects/index.ts';
import { useCampaign, useStage } from '../../stores/index.ts';
import { MoreFields, ProgressBar, ToggleRow } from '../../ui/index.ts';
import ParticleDetails from './ParticleDetails.vue';
import ServerSimulation from './ServerSimulation.vue';
import SmokeDetails from './SmokeDetails.vue';

/** An effect: how fine it is simulated, how it is played, and what its kind has besides numbers. */
const { id, keys = false } = defineProps<{ id: string; /** Shows the beads that key. */ keys?: boolean }>();
const campaign = useCampaign();
const stage = useStage();
const effects = useEffects();
const effect = computed(() => campaign.set?.effects.find((e) => e.id === id));

const megabytes = (bytes: number): string =>
  bytes < 1e9 ? `${Math.max(1, Math.round(bytes / 1e6))} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
function counted(count: number): string {
  if (count < 10_000) return String(count);
  return count < 1e6 ? `${Math.round(count / 1000)} thousand` : `${(count / 1e6).toFixed(1)} million`;
}
const level = computed(() => effects.levelOf(id));
const levels = EFFECT_LEVELS.map((value) => ({ value, label: value.replace(/^./, (c) => c.toUpperCase()) }));
const words = computed(() => {
  if (!effect.value) return '';
  const { count, bytes } = effectCost(effect.value, level.value, framesToSeconds(1, campaign.rate));
  const pace = effects.pace.get(id);
  const time = pace && campaign.shot ? (pace * (campaign.shot.length - effect.value.start)) / 1000 : 0;
  const what = effect.value.kind === 'smoke' ? 'cells' : 'at once';
  return [`${counted(count)} ${what}`, megabytes(bytes), ...(time ? [`about ${Math.ceil(time)} s`] : [])].join(', ');
});
const share = computed(() => effects.share(id));
const things = computed(() => [
  { value: '', title: 'Nothing: its place is the set’s' },
  ...[...(campaign.set?.products ?? []), ...(campaign.set?.surfaces ?? [])].map((t) => ({
    value: t.id,
    title: t.name,
  })),
]);
const property = (path: string): Property => propertyOf({ role: 'effect', thing: effect.value! }, path)!;
const valueOf = (path: string): PropertyValue => stage.value(id, path)!;
function change(path: string, { label }: Property, value: PropertyValue, gesture = ''): void {
  stage.setValues(id, { [path]: value }, `Change ${label.toLowerCase()} of ${effect.value?.name}`, gesture);
}
</script>

<template>
  <template v-if="effect">
    <p v-if="effects.problems.get(id)" class="warn" role="alert">{{ effects.problems.get(id) }}</p>
    <ToggleRow
      label="Level that is simulated here"
      :options="levels"
      :value="level"
      @change="(v) => effects.levels.set(id, v as EffectLevel)"
    />
    <p class="dim words" data-test="effect-cost">{{ words }}</p>
    <ProgressBar v-if="share < 1 && !effects.problems.get(id)" :value="share" label="Simulated" />
    <ServerSimulation :effect="id" :level="level" />
    <AnyField
      v-for="path in ['level', `cells.${level}`]"
      :key="path"
      :property="property(path)"
      :value="valueOf(path)"
      @change="(value, gesture) => change(path, property(path), value, gesture)"
    />
    <MoreFields title="Playing">
      <AnyField
        v-for="path in ['start', 'seed', 'playback.backwards', 'playback.speed', 'playback.offset', 'playback.loop']"
        :key="path"
        :property="property(path)"
        :value="valueOf(path)"
        @change="(value, gesture) => change(path, property(path), value, gesture)"
      />
    </MoreFields>
    <SmokeDetails v-if="effect.kind === 'smoke'" :effect="effect" :things="things" :keys="keys" @change="change" />
    <ParticleDetails v-else :effect="effect" :things="things" @change="change" />
  </template>
</template>

<style scoped>
.words {
  margin: 4px 0;
}
.warn {
  margin: 0 0 8px;
  color: var(--coral);
}
</style>
