<script setup lang="ts">
import { computed, toRaw } from 'vue';
import {
  changeKey,
  changeLinkedEase,
  easeKeys,
  keyAt,
  linkEase,
  moveKeys,
  type Command,
  type Ease,
  type EaseShape,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { resolveEase } from '@tender-orbit/core/motion';
import type { PropertyValue } from '@tender-orbit/core/properties';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import AnyField from '../controls/AnyField.vue';
import { labelIn } from '../things/own-subject.ts';
import { useKeyTools } from './use-key-tools.ts';
import { useShotBeats } from './use-shot-beats.ts';
import { keyedItem } from './keyed-item.ts';
import { chosenEase, easeChoice, easeName, easeOptions } from './ease-choices.ts';
import EaseFields from './EaseFields.vue';
import { useKeySelection } from './use-key-selection.ts';
import { FieldRow, NumberField, SelectField, TextField, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const documents = useDocuments();
const selection = useKeySelection();

const tools = useKeyTools();
const grid = useShotBeats();

const chosen = computed(() => (selection.count.value ? selection.list()[0] : null));
const track = computed(() =>
  chosen.value
    ? campaign.shot?.tracks.find((t) => t.thing === chosen.value!.thing && t.path === chosen.value!.path)
    : undefined,
);
const key = computed(() => (chosen.value ? keyAt(track.value, chosen.value.frame) : undefined));
const item = computed(() => {
  const { set, shot } = campaign;
  return set && shot && chosen.value ? keyedItem(set, shot, chosen.value.thing, chosen.value.path) : undefined;
});
const property = computed(() => item.value?.property);
/** What a reference can be of. */
const references = computed(() => {
  const item = campaign.set?.products.find((p) => p.id === chosen.value?.thing);
  const variants = item && campaign.products.get(item.product)?.variants;
  const list = variants ?? campaign.set?.products ?? [];
  return [
    { value: '', title: variants ? 'As on the set' : 'None' },
    ...list.map(({ id, name }) => ({ value: id, title: name })),
  ];
});
const label = computed(() => {
  if (!chosen.value) return '';
  const { thing, path } = chosen.value;
  return labelIn(campaign, thing, path, property.value?.label.toLowerCase() ?? path);
});
const title = computed(() => `${item.value?.name ?? ''} ${item.value?.part || label.value}`);
const linked = computed(() => campaign.shot?.eases ?? []);
const options = computed(() => easeOptions(linked.value));
/** The ease that keys share with the chosen one, when it is a linked one. */
const link = computed(() => {
  const ease = key.value?.ease;
  return typeof ease === 'object' && ease.kind === 'linked' ? linked.value.find((e) => e.id === ease.id) : undefined;
});
const shaped = computed(() => {
  const ease = key.value && resolveEase(key.value.ease, linked.value);
  return typeof ease === 'object' ? ease : undefined;
});

function run(command: Command<ShotDocument>, gesture = ''): void {
  documents.run('shot', campaign.shotId, command, gesture);
}
function setEase(ease: Ease, gesture = ''): void {
  run(easeKeys(selection.list(), ease), gesture);
}
/** Numbers of a linked ease change it for all that share it. */
function setShape(ease: EaseShape, gesture: string): void {
  if (link.value) run(changeLinkedEase(link.value.id, { ease }), gesture);
  else setEase(ease, gesture);
}
function linkUp(): void {
  const name = `${easeName(shaped.value!, [])} ${linked.value.length + 1}`;
  run(linkEase(selection.list(), { id: freshId('ease'), name, ease: structuredClone(toRaw(shaped.value!)) }));
}
function unlink(): void {
  setEase(structuredClone(toRaw(link.value!.ease)));
}
function setValue(value: PropertyValue, gesture: string): void {
  run(changeKey(chosen.value!, value), gesture);
}
function setFrame(frame: number): void {
  const from = chosen.value!;
  const to = Math.round(frame) - 1;
  run(moveKeys([from], to - from.frame));
  selection.replace([{ ...from, frame: to }]);
}
</script>

<template>
  <section v-if="key && track" class="card key" aria-label="Chosen key" data-test="key-details">
    <div class="row">
      <h2 class="clip">{{ selection.count.value > 1 ? `${selection.count.value} keys` : title }}</h2>
      <span class="spread" />
      <UiButton @click="tools.remove">Delete key</UiButton>
    </div>
    <FieldRow label="Ease">
      <SelectField
        label="Ease"
        :options="options"
        :value="easeChoice(key.ease)"
        data-test="ease"
        @change="(choice) => setEase(chosenEase(choice))"
      />
    </FieldRow>
    <EaseFields v-if="shaped" :ease="shaped" @change="setShape" />
    <FieldRow v-if="link" label="Linked as">
      <TextField
        label="Name of the linked ease"
        :value="link.name"
        @change="(name) => run(changeLinkedEase(link!.id, { name }))"
      />
    </FieldRow>
    <div v-if="shaped" class="row">
      <UiButton v-if="link" tip="These keys get an ease of their own again" @click="unlink"> Unlink </UiButton>
      <UiButton v-else tip="Keys that share an ease change together" data-test="link-ease" @click="linkUp">
        Link {{ selection.count.value > 1 ? `${selection.count.value} eases` : 'this ease' }}
      </UiButton>
    </div>
    <AnyField
      v-if="property && selection.count.value === 1"
      label="Value"
      :property="property"
      :value="key.value"
      :options="references"
      @change="setValue"
    />
    <NumberField
      v-if="selection.count.value === 1"
      label="At frame"
      unit="f"
      :step="1"
      :min="1"
      :value="key.frame + 1"
      @change="setFrame"
    />
    <NumberField
      v-else-if="tools.span.value > 0"
      label="Take"
      title="Brings them closer together or farther apart: about the playhead where it lies among them, else about the first"
      unit="f"
      :step="1"
      :min="1"
      :value="tools.span.value"
      @change="tools.stretchTo"
    />
    <div v-if="grid" class="row wrap">
      <UiButton action="key.beats" tip="Each goes to a beat" @click="tools.fitToBeats">Fit to beats</UiButton>
      <UiButton tip="The key that ends this ease goes to the next first beat of a bar" @click="tools.landOnBar">
        Land on the bar
      </UiButton>
    </div>
  </section>
</template>

<style scoped>
.key {
  display: grid;
  gap: 6px;
  padding: 12px 14px;
}
.wrap {
  flex-wrap: wrap;
}
</style>
