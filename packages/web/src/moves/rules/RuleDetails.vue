<script setup lang="ts">
import {
  changeRule,
  findThing,
  findTrack,
  keyAt,
  keyValue,
  moveRule,
  propertyOf,
  removeRule,
  RULES,
  toggleKey,
  type Command,
  type Rule,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { boundsCentre, boundsOf } from '@tender-orbit/core/geometry';
import { bakeRule, RuleValues } from '@tender-orbit/core/motion';
import { modelKey } from '@tender-orbit/core/product';
import type { NumberProperty, Property, PropertyValue } from '@tender-orbit/core/properties';
import { rulePartners } from '@tender-orbit/core/staging';
import { computed, toRaw } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useCampaign, useDocuments, usePlayhead } from '../../stores/index.ts';
import { CheckField, FieldRow, SelectField, UiButton } from '../../ui/index.ts';
import { modelOf } from '../../viewer/models.ts';
import { useMusicLevels } from '../use-music-levels.ts';
import { useMoveSelection } from '../../things/use-move-selection.ts';

/** The rule in hand: its numbers, which can be keyed, its target, and its place among the others. */
const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const musicLevels = useMusicLevels();
const { rule, clear } = useMoveSelection();
const found = computed(() => (rule.value && campaign.set ? findThing(campaign.set, rule.value.thing) : undefined));
const ground = computed(() => (found.value && rule.value?.path ? propertyOf(found.value, rule.value.path) : undefined));
const siblings = computed(() => campaign.shot?.rules.filter((r) => r.thing === rule.value?.thing) ?? []);

/** Its properties; an amount is shown in the unit of what it is added to, axes only for a place. */
const fields = computed((): Array<[string, Property]> => {
  if (!rule.value) return [];
  return Object.entries(RULES[rule.value.kind].properties)
    .filter(([name]) => name !== 'axes' || ground.value?.type === 'place')
    .filter(([name]) => name !== 'part' || parts.value.length > 1)
    .map(([name, property]) => [name, name === 'amount' ? amountIn(property as NumberProperty) : property]);
});
function amountIn(property: NumberProperty): NumberProperty {
  const own = ground.value?.type === 'place' ? ground.value.parts[0] : ground.value;
  const display = own?.type === 'number' || own?.type === 'turn' ? own.display : property.display;
  return { ...property, display };
}
const targets = computed(() => {
  const { set, shot } = campaign;
  if (!rule.value || !set || !shot) return [];
  const kind = RULES[rule.value.kind].target;
  if (!kind) return [];
  const list = kind === 'path' ? shot.paths : rulePartners(rule.value, set, shot);
  const own = kind === 'thing or own aim' ? [{ value: '', title: 'What it aims at' }] : [];
  return [...own, ...list.map(({ id, name }) => ({ value: id, title: name }))];
});
const target = computed(() => (rule.value as { target?: string } | undefined)?.target);

/** Parts of the product that is aimed at. */
const aimedAt = computed(() => campaign.set?.products.find((p) => p.id === target.value));
const parts = computed(() => {
  const product = campaign.products.get(aimedAt.value?.product ?? '');
  const each = product?.parts.map(({ index, name }) => ({ value: String(index), title: name })) ?? [];
  return [{ value: '', title: 'All of it' }, ...each];
});
/** Aims at the middle of a part, or at the thing itself again. */
function aimAtPart(part: string): void {
  const product = campaign.products.get(aimedAt.value?.product ?? '');
  const mesh = product && part ? modelOf(modelKey(product))?.meshes[Number(part)] : undefined;
  if (part && !mesh) return;
  const middle = mesh ? boundsCentre(boundsOf([mesh])) : [0, 0, 0];
  const offset = middle.map((v) => Number((v * (product?.scale ?? 1)).toFixed(6)));
  run(changeRule(rule.value!.id, { part, offset }, 'Aim at a part'));
}

const tracks = computed(() => campaign.shot?.tracks.filter((t) => t.thing === rule.value?.id) ?? []);
function valueOf(name: string): PropertyValue {
  const own = (rule.value as unknown as Record<string, PropertyValue>)[name];
  if (typeof own !== 'number') return own;
  return new RuleValues(toRaw(rule.value!), toRaw(tracks.value), campaign.shot!.eases).number(name, playhead.frame);
}
function keyed(name: string): 'key' | 'track' | 'none' {
  const track = findTrack(campaign.shot!, rule.value!.id, name);
  if (!track) return 'none';
  return keyAt(track, playhead.frame) ? 'key' : 'track';
}
function run(command: Command<ShotDocument>, gesture = ''): void {
  documents.run('shot', campaign.shotId, command, gesture);
}
const labelOf = (name: string): string => `Change ${name} of ${rule.value!.name}`;
function set(name: string, value: PropertyValue, gesture: string): void {
  if (name === 'part') {
    aimAtPart(value as string);
    return;
  }
  const at = { thing: rule.value!.id, path: name, frame: playhead.frame };
  if (keyed(name) === 'none') run(changeRule(rule.value!.id, { [name]: value }, labelOf(name)), gesture);
  else run(keyValue(at, value, labelOf(name)), gesture);
}
function key(name: string): void {
  run(toggleKey({ thing: rule.value!.id, path: name, frame: playhead.frame }, valueOf(name), name));
}
/** A part is one of the thing that was aimed at. */
function retarget(id: string): void {
  const now = rule.value!;
  const whole = now.kind === 'aim' && now.part !== '' ? { part: '', offset: [0, 0, 0] } : {};
  run(changeRule(rule.value!.id, { target: id, ...whole }, 'Change target'));
}
async function measure(): Promise<void> {
  const { id, band } = rule.value as Extract<Rule, { kind: 'music' }>;
  const levels = await musicLevels(band);
  if (levels) run(changeRule(id, { levels }, 'Measure the music'));
}
function remove(): void {
  run(removeRule(rule.value!.id));
  clear();
}
function bake(): void {
  run(bakeRule(toRaw(campaign.set!), rule.value!.id));
  clear();
}
const isNumber = (property: Property): boolean => property.type === 'number' || property.type === 'turn';
const title = (r: Rule): string => (ground.value ? `${r.name} on ${ground.value.label.toLowerCase()}` : r.name);
</script>

<template>
  <section v-if="rule" class="card rule" aria-label="Chosen rule" data-test="rule-details">
    <div class="row">
      <h2 class="clip">{{ title(rule) }}</h2>
      <span class="spread" />
      <UiButton tip="One key a frame does what it did" @click="bake">Bake</UiButton>
      <UiButton @click="remove">Remove</UiButton>
    </div>
    <FieldRow v-if="targets.length" label="Target">
      <SelectField
        label="Target of the rule"
        :options="targets"
        :value="target"
        data-test="rule-target"
        @change="retarget"
      />
    </FieldRow>
    <AnyField
      v-for="[name, property] in fields"
      :key="name"
      :property="property"
      :value="valueOf(name)"
      :options="parts"
      :keyable="isNumber(property)"
      :keyed="keyed(name)"
      @change="(value, gesture) => set(name, value, gesture)"
      @key="key(name)"
    />
    <UiButton
      v-if="rule.kind === 'music'"
      tip="After other music, another band, or another place of the shot in it"
      @click="measure"
    >
      Measure the music anew
    </UiButton>
    <div class="row">
      <CheckField label="Muted" :value="rule.muted" @change="(muted) => run(changeRule(rule!.id, { muted }))" />
      <span class="spread" />
      <template v-if="siblings.length > 1">
        <UiButton
          tip="It acts before the one that is before it now"
          :disabled="siblings[0].id === rule.id"
          @click="run(moveRule(rule.id, -1))"
        >
          Earlier
        </UiButton>
        <UiButton :disabled="siblings.at(-1)!.id === rule.id" @click="run(moveRule(rule.id, 1))">Later</UiButton>
      </template>
    </div>
  </section>
</template>

<style scoped>
.rule {
  display: grid;
  gap: 4px;
  padding: 12px 14px;
}
</style>
