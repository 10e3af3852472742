<script setup lang="ts">
import { mdiPlus, mdiTrashCanOutline } from '@mdi/js';
import {
  newEmitter,
  propertyOf,
  setEmitters,
  SMOKE_SIDES,
  type EmitterMask,
  type SmokeEffect,
  type SmokeEmitter,
} from '@tender-orbit/core/document';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { ownItems } from '@tender-orbit/core/product';
import { computed, ref, toRaw } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useCampaign, useStage } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import EmitterMaskFields from './EmitterMaskFields.vue';
import { CheckField, IconButton, MoreFields, SelectField, type SelectOption } from '../../ui/index.ts';

/** Where smoke comes from, its colours, and which sides of its domain are walls. */
const { effect, keys = false } = defineProps<{
  effect: SmokeEffect;
  /** Things that an emitter can cling to. */
  things: ReadonlyArray<SelectOption<string>>;
  /** Shows the beads that key. */ keys?: boolean;
}>();
const emit = defineEmits<{ change: [path: string, property: Property, value: PropertyValue, gesture: string] }>();
const campaign = useCampaign();
const stage = useStage();
const picked = ref('');
const emitter = computed(() => effect.emitters.find((e) => e.id === picked.value) ?? effect.emitters[0]);

const EMITTER: ReadonlyArray<keyof SmokeEmitter> = ['on', 'shape', 'thing'];
const GIVEN: ReadonlyArray<keyof SmokeEmitter> = ['rate', 'heat', 'noise', 'colour'];
/** Fields of the emitter in hand; a thing's skin has no place or size of its own. */
const fields = computed(() => {
  if (!emitter.value) return [];
  const { id: own, shape } = emitter.value;
  const placed = shape === 'thing' ? ['parts', 'lowest', 'highest'] : ['width', 'height', 'depth', ...axes('position')];
  return [...EMITTER, ...placed, ...GIVEN, ...axes('velocity')].flatMap((name) => {
    const path = `emitters.${own}.${name}`;
    const property = propertyOf({ role: 'effect', thing: effect }, path);
    return property ? [{ path, property }] : [];
  });
});
const axes = (name: string): string[] => [0, 1, 2].map((axis) => `${name}.${axis}`);
const property = (path: string): Property => propertyOf({ role: 'effect', thing: effect }, path)!;
const valueOf = (path: string): PropertyValue => stage.value(effect.id, path)!;
function change(path: string, of: Property, value: PropertyValue, gesture = ''): void {
  emit('change', path, of, value, gesture);
}
/** Parts of the product that the emitter in hand clings to. */
const parts = computed(() => {
  const item = campaign.set?.products.find(({ id }) => id === emitter.value?.thing);
  const product = campaign.products.get(item?.product ?? '');
  const own = product ? ownItems(product).filter(({ group }) => group === 'parts') : [];
  return [{ value: '', title: 'All of it' }, ...own.map(({ item: value, name: title }) => ({ value, title }))];
});
/** What the second colour is reached at. */
const tints = computed(() => {
  const at = { even: [], 'by density': ['otherColour', 'tintDensity'], 'by heat': ['otherColour', 'tintHeat'] };
  return ['colour', 'tint', ...at[effect.tint]];
});
const copy = (e: SmokeEmitter): SmokeEmitter => structuredClone(toRaw(e));
function addEmitter(): void {
  const made = newEmitter(freshId('emitter'), `Source ${effect.emitters.length + 1}`);
  const near = emitter.value;
  if (near) Object.assign(made, copy(near), { id: made.id, name: made.name, order: undefined });
  stage.run(setEmitters(effect.id, [...effect.emitters.map(copy), made], 'Add emitter'));
  picked.value = made.id;
}
function setMask(mask: EmitterMask | null): void {
  const own = emitter.value!.id;
  const changed = effect.emitters.map((e) => (e.id === own ? { ...copy(e), mask: mask && { ...mask } } : copy(e)));
  stage.run(setEmitters(effect.id, changed, mask ? 'Mask an emitter' : 'Remove a mask'));
}
function removeEmitter(): void {
  const left = effect.emitters.filter((e) => e.id !== emitter.value?.id);
  stage.run(setEmitters(effect.id, left.map(copy), 'Delete emitter'));
}
</script>

<template>
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
      :options="path.endsWith('.parts') ? parts : things"
      :keyable="keys"
      :keyed="stage.isKeyed(effect.id, path)"
      @change="(value, gesture) => change(path, own, value, gesture)"
      @key="stage.toggleKey(effect.id, path, own.label.toLowerCase())"
    />
    <EmitterMaskFields v-if="emitter" :mask="emitter.mask" @change="setMask" />
  </fieldset>
  <MoreFields title="Colour">
    <AnyField
      v-for="path in tints"
      :key="path"
      :property="property(path)"
      :value="valueOf(path)"
      :keyable="keys"
      :keyed="stage.isKeyed(effect.id, path)"
      @change="(value, gesture) => change(path, property(path), value, gesture)"
      @key="stage.toggleKey(effect.id, path, property(path).label.toLowerCase())"
    />
  </MoreFields>
  <MoreFields title="Walls">
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
  </MoreFields>
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
.pick {
  gap: 4px;
  padding-left: 20px;
}
</style>
