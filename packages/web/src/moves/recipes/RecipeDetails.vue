<script setup lang="ts">
import {
  changeRecipe,
  PART_JOINT,
  recipeFacts,
  removeRecipe,
  type AppliedRecipe,
  type Command,
  type EaseShape,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { dissolveRecipe, resolveEase } from '@tender-orbit/core/motion';
import { modelKey, ownSubject } from '@tender-orbit/core/product';
import type { PropertyValue } from '@tender-orbit/core/properties';
import { beatsBetween, secondsToFrames } from '@tender-orbit/core/time';
import { computed, toRaw } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useCampaign, useDocuments } from '../../stores/index.ts';
import { CheckField, FieldRow, NumberField, SelectField, TextField, UiButton } from '../../ui/index.ts';
import { chosenEase, easeChoice, easeOptions } from '../ease-choices.ts';
import EaseFields from '../EaseFields.vue';
import { modelOf } from '../../viewer/models.ts';
import { useMoveSelection } from '../../things/use-move-selection.ts';
import { useShotBeats } from '../use-shot-beats.ts';
import RecipeThings from './RecipeThings.vue';

/** The recipe in hand: what it moves, when, and its own numbers. It stays a recipe until it is dissolved. */
const campaign = useCampaign();
const documents = useDocuments();
const { recipe, clear } = useMoveSelection();
const grid = useShotBeats();
const facts = computed(() => recipe.value && recipeFacts(recipe.value.kind));
const linked = computed(() => campaign.shot?.eases ?? []);
const shaped = computed(() => {
  const ease = recipe.value && resolveEase(recipe.value.ease, linked.value);
  return typeof ease === 'object' ? ease : undefined;
});
const candidates = computed(() => {
  const { set } = campaign;
  if (!set || !facts.value) return [];
  const role = facts.value.others ?? facts.value.role;
  if (role === 'product') return set.products;
  if (role === 'light') return set.lights;
  return role === 'card' ? set.surfaces.filter((s) => s.kind === 'card') : [];
});
const product = computed(() => {
  const item = campaign.set?.products.find((p) => p.id === recipe.value?.things[0]);
  return campaign.products.get(item?.product ?? '');
});
const variants = computed(() => product.value?.variants ?? []);
/** Which parts a recipe can move: each alone, and those that it moves now. */
const parts = computed(() => {
  if (!product.value || !facts.value?.parts) return [];
  const now = recipe.value!.options.part as string;
  const own = product.value.builder?.kind === 'carton' ? [{ value: '', title: "The carton's lid" }] : [];
  const each = product.value.parts.map(({ index, name }) => ({ value: String(index), title: name }));
  const together = now.includes(PART_JOINT)
    ? [{ value: now, title: ownSubject(product.value, `own.parts.${now}.turn`) }]
    : [];
  return [...own, ...together, ...each];
});
const animations = computed(() => (facts.value?.clips ? (product.value?.origin?.animations ?? []) : []));
/** A model of before animations were kept has none to play until its file is read again. */
const still = computed(() => {
  const model = facts.value?.clips && product.value ? modelOf(modelKey(product.value)) : undefined;
  return model !== undefined && !model.meshes.some((mesh) => mesh.rig);
});
/** What a reference among its options can be of. */
const references = computed(() =>
  facts.value?.clips
    ? animations.value.map(({ name, seconds }, i) => ({ value: String(i), title: `${name}, ${seconds.toFixed(2)} s` }))
    : parts.value,
);
/** How fast the model's animation goes, times its own speed: its length says it. */
const speed = computed(() => {
  const { options, length } = recipe.value!;
  const seconds = Math.abs((options.to as number) - (options.from as number)) * (options.rounds as number);
  return secondsToFrames(seconds, campaign.rate) / length;
});
function setSpeed(times: number, gesture: string): void {
  change({ length: Math.max(1, Math.round((recipe.value!.length * speed.value) / times)) }, gesture);
}
const several = computed(() => (facts.value?.many || facts.value?.others) && (recipe.value?.things.length ?? 0) > 0);

function run(command: Command<ShotDocument>, gesture = ''): void {
  documents.run('shot', campaign.shotId, command, gesture);
}
function change(values: Partial<AppliedRecipe>, gesture = ''): void {
  run(changeRecipe(recipe.value!.id, values), gesture);
}
function setOption(name: string, value: PropertyValue, gesture: string): void {
  // Another animation is played whole, at its own speed.
  const other = name === 'animation' ? animations.value[Number(value)] : undefined;
  if (other) {
    const length = Math.max(1, Math.round(secondsToFrames(other.seconds, campaign.rate)));
    change({ length, options: { animation: value, from: 0, to: other.seconds, rounds: 1 } });
    return;
  }
  change({ options: { [name]: value } }, gesture);
}
function setShape(ease: EaseShape, gesture: string): void {
  change({ ease }, gesture);
}

const beats = computed(() =>
  grid.value ? beatsBetween(grid.value, campaign.rate, 0, (campaign.shot?.length ?? 0) + 200) : [],
);
/** The end goes to the next downbeat after where it is. */
function landOnDownbeat(): void {
  const { start, length } = recipe.value!;
  const next = beats.value.find((b) => b.beat === 1 && Math.round(b.frame) > start + length * 0.75);
  if (next) change({ length: Math.max(1, Math.round(next.frame) - start) });
}
/** Each thing begins so many beats after the one before. */
function beatsApart(every: number): void {
  const { start, things } = recipe.value!;
  const later = beats.value.filter((b) => Math.round(b.frame) >= start);
  const at = things.map((_, i) => later[i * every]);
  if (at.every(Boolean)) change({ at: at.map((b) => Math.round(b.frame) - start) });
}
function remove(): void {
  run(removeRecipe(recipe.value!.id));
  clear();
}
function dissolve(): void {
  run(dissolveRecipe(toRaw(campaign.set!), recipe.value!.id));
  clear();
}
</script>

<template>
  <section v-if="recipe && facts" class="card recipe" aria-label="Chosen recipe" data-test="recipe-details">
    <div class="row">
      <h2 class="clip">{{ recipe.name }}</h2>
      <span class="spread" />
      <UiButton tip="Its keys and rules become your own, to be changed one by one" @click="dissolve">Dissolve</UiButton>
      <UiButton @click="remove">Remove</UiButton>
    </div>
    <p class="dim">{{ facts.says }}</p>
    <p v-if="still" role="status">
      This model was brought before animations were kept: choose a pose of it in Products once, then it moves.
    </p>
    <FieldRow label="Name">
      <TextField label="Name of the recipe" :value="recipe.name" @change="(name) => change({ name })" />
    </FieldRow>
    <FieldRow v-if="!several && recipe.things.length" label="Moves">
      <SelectField
        label="What it moves"
        :options="candidates.map(({ id, name }) => ({ value: id, title: name }))"
        :value="recipe.things[0]"
        @change="(id) => change({ things: [id] })"
      />
    </FieldRow>
    <NumberField
      label="Begins"
      unit="f"
      :step="1"
      :value="recipe.start + 1"
      @change="(v, gesture) => change({ start: Math.round(v) - 1 }, gesture)"
    />
    <NumberField
      label="Takes"
      unit="f"
      :step="1"
      :min="1"
      :value="recipe.length"
      @change="(v, gesture) => change({ length: Math.round(v) }, gesture)"
    />
    <NumberField
      v-if="facts.clips"
      label="Speed"
      unit="×"
      :step="0.05"
      :min="0.01"
      :max="100"
      :value="speed"
      @change="setSpeed"
    />
    <AnyField
      v-for="(property, name) in facts.properties"
      :key="name"
      :property="property"
      :value="recipe.options[name]"
      :options="references"
      @change="(value, gesture) => setOption(String(name), value, gesture)"
    />
    <template v-if="recipe.ease !== 'hold'">
      <FieldRow label="Ease">
        <SelectField
          label="Ease of the recipe"
          :options="easeOptions(linked)"
          :value="easeChoice(recipe.ease)"
          @change="(choice) => change({ ease: chosenEase(choice) })"
        />
      </FieldRow>
      <EaseFields v-if="shaped" :ease="shaped" @change="setShape" />
    </template>
    <div v-if="grid" class="row wrap">
      <UiButton tip="The end moves to the next first beat of a bar" @click="landOnDownbeat">Land on the bar</UiButton>
      <template v-if="'apart' in facts.properties && recipe.things.length > 1">
        <UiButton v-for="n in [1, 2, 4]" :key="n" tip="Each thing begins on a beat" @click="beatsApart(n)">
          {{ n === 1 ? 'A beat' : `${n} beats` }} apart
        </UiButton>
        <UiButton v-if="recipe.at.length" @click="change({ at: [] })">Evenly apart</UiButton>
      </template>
    </div>
    <RecipeThings
      v-if="several"
      label="Things"
      :ids="recipe.things"
      :all="candidates"
      @change="(things) => change({ things })"
    />
    <RecipeThings
      v-if="facts.swaps"
      label="Variants in order"
      again
      :ids="recipe.variants"
      :all="variants"
      @change="(ids) => change({ variants: ids })"
    />
    <CheckField label="Muted" :value="recipe.muted" @change="(muted) => change({ muted })" />
  </section>
</template>

<style scoped>
.recipe {
  display: grid;
  gap: 4px;
  padding: 12px 14px;
}
p {
  margin: 0;
}
.wrap {
  flex-wrap: wrap;
  padding-left: 20px;
}
</style>
