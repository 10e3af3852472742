<script setup lang="ts">
import { mdiPlus, mdiTrashCanOutline } from '@mdi/js';
import {
  EFFECT_LEVELS,
  newEmitter,
  propertyOf,
  setEmitters,
  SMOKE_SIDES,
  type EffectLevel,
  type SmokeEmitter,
} from '@tender-orbit/core/document';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { computed, ref, toRaw } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useEffects } from '../../effects/index.ts';
import { useCampaign, useStage } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import { CheckField, IconButton, MoreFields, ProgressBar, SelectField, ToggleRow } from '../../ui/index.ts';

/** An effect: how fine it is simulated, how it is played, where its smoke comes from and what it meets. */
const { id, keys = false } = defineProps<{ id: string; /** Shows the beads that key. */ keys?: boolean }>();
const campaign = useCampaign();
const stage = useStage();
const effects = useEffects();
const effect = computed(() => campaign.set?.effects.find((e) => e.id === id));
const picked = ref('');
const emitter = computed(() => effect.value?.emitters.find((e) => e.id === picked.value) ?? effect.value?.emitters[0]);

const megabytes = (bytes: number): string =>
  bytes < 1e9 ? `${Math.max(1, Math.round(bytes / 1e6))} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
const cells = (count: number): string =>
  count < 1e6 ? `${Math.round(count / 1000)} thousand` : `${(count / 1e6).toFixed(1)} million`;
const level = computed(() => effects.levelOf(id));
/** Seconds that all frames take at a level, from what the last frame of the level in hand took. */
function secondsOf(wanted: EffectLevel): number | null {
  const pace = effects.pace.get(id);
  if (!effect.value || !pace || !campaign.shot) return null;
  const ratio = effects.cost(effect.value, wanted).cells / effects.cost(effect.value, level.value).cells;
  return (pace * ratio * (campaign.shot.length - effect.value.start)) / 1000;
}
const levels = computed(() =>
  EFFECT_LEVELS.map((value) => ({ value, label: value.replace(/^./, (c) => c.toUpperCase()) })),
);
const words = computed(() => {
  if (!effect.value) return '';
  const cost = effects.cost(effect.value, level.value);
  const time = secondsOf(level.value);
  const parts = [`${cells(cost.cells)} cells`, megabytes(cost.bytes), ...(time ? [`about ${Math.ceil(time)} s`] : [])];
  return parts.join(', ');
});
const share = computed(() => effects.share(id));
const things = computed(() => [
  { value: '', title: 'Nothing: its place is the set’s' },
  ...[...(campaign.set?.products ?? []), ...(campaign.set?.surfaces ?? [])].map((t) => ({
    value: t.id,
    title: t.name,
  })),
]);

const EMITTER: ReadonlyArray<keyof SmokeEmitter> = ['on', 'shape', 'thing', 'rate', 'heat', 'noise'];
/** Fields of the emitter in hand; a thing's skin has no place or size of its own. */
const fields = computed(() => {
  if (!effect.value || !emitter.value) return [];
  const { id: own, shape } = emitter.value;
  const sized = shape === 'thing' ? [] : ['width', 'height', 'depth', ...axes('position')];
  return [...EMITTER, ...sized, ...axes('velocity')].flatMap((name) => {
    const path = `emitters.${own}.${name}`;
    const property = propertyOf({ role: 'effect', thing: effect.value! }, path);
    return property ? [{ path, property }] : [];
  });
});
const axes = (name: string): string[] => [0, 1, 2].map((axis) => `${name}.${axis}`);
const property = (path: string): Property => propertyOf({ role: 'effect', thing: effect.value! }, path)!;
const valueOf = (path: string): PropertyValue => stage.value(id, path)!;
function change(path: string, { label }: Property, value: PropertyValue, gesture = ''): void {
  stage.setValues(id, { [path]: value }, `Change ${label.toLowerCase()} of ${effect.value?.name}`, gesture);
}
function addEmitter(): void {
  const made = newEmitter(freshId('emitter'), `Source ${effect.value!.emitters.length + 1}`);
  const near = emitter.value;
  if (near) Object.assign(made, structuredClone(toRaw(near)), { id: made.id, name: made.name, order: undefined });
  stage.run(setEmitters(id, [...effect.value!.emitters.map((e) => structuredClone(toRaw(e))), made], 'Add emitter'));
  picked.value = made.id;
}
function removeEmitter(): void {
  const left = effect.value!.emitters.filter((e) => e.id !== emitter.value?.id);
  stage.run(
    setEmitters(
      id,
      left.map((e) => structuredClone(toRaw(e))),
      'Delete emitter',
    ),
  );
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
    <fieldset>
      <legend>Emitters</legend>
      <div class="row pick">
        <SelectField
          class="spread"
          label="Emitter"
          :options="effect.emitters.map((e) => ({ value: e.id, title: e.name }))"
          :value="emitter?.id ?? ''"
          placeholder="None"
          @change="(v) => (picked = v)"
        />
        <IconButton small :icon="mdiPlus" label="Add emitter" @click="addEmitter" />
        <IconButton v-if="emitter" small :icon="mdiTrashCanOutline" label="Delete emitter" @click="removeEmitter" />
      </div>
      <AnyField
        v-for="{ path, property: own } in fields"
        :key="path"
        :property="own"
        :value="valueOf(path)"
        :options="things"
        :keyable="keys"
        :keyed="stage.isKeyed(id, path)"
        @change="(value, gesture) => change(path, own, value, gesture)"
        @key="stage.toggleKey(id, path, own.label.toLowerCase())"
      />
    </fieldset>
    <MoreFields title="Walls and colour">
      <CheckField
        v-for="side in SMOKE_SIDES"
        :key="side"
        :label="property(`walls.${side}`).label"
        :value="effect.walls[side]"
        @change="(on) => change(`walls.${side}`, property(`walls.${side}`), on)"
      />
      <CheckField
        label="Flows round things"
        :value="effect.collides"
        @change="(on) => change('collides', property('collides'), on)"
      />
      <AnyField
        :property="property('colour')"
        :value="valueOf('colour')"
        @change="(value, gesture) => change('colour', property('colour'), value, gesture)"
      />
    </MoreFields>
  </template>
</template>

<style scoped>
fieldset {
  border: 0;
  margin: 6px 0;
  padding: 0;
}
legend {
  margin: 4px 0 2px 20px;
  font-weight: 600;
}
.words {
  margin: 4px 0;
}
.warn {
  margin: 0 0 8px;
  color: var(--coral);
}
.pick {
  gap: 4px;
  padding-left: 20px;
}
</style>
