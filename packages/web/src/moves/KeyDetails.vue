<script setup lang="ts">
import { useHandlers } from '../actions/index.ts';
import { computed, toRaw } from 'vue';
import {
  changeKey,
  changeLinkedEase,
  deleteKeys,
  easeKeys,
  findThing,
  isNumeric,
  keyAt,
  linkEase,
  moveKeys,
  propertyOf,
  type Command,
  type Ease,
  type EaseShape,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { resolveEase } from '@tender-orbit/core/motion';
import PropertyField from '../controls/PropertyField.vue';
import { useCampaign, useDocuments, usePlayhead } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import CurveGraph from './CurveGraph.vue';
import { chosenEase, easeChoice, easeName, easeOptions } from './ease-choices.ts';
import EaseFields from './EaseFields.vue';
import { useKeySelection } from './use-key-selection.ts';
import { FieldRow, NumberField, SelectField, TextField, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const selection = useKeySelection();

const chosen = computed(() => (selection.count.value ? selection.list()[0] : null));
const track = computed(() =>
  chosen.value
    ? campaign.shot?.tracks.find((t) => t.thing === chosen.value!.thing && t.path === chosen.value!.path)
    : undefined,
);
const numbers = computed(() => (isNumeric(track.value) ? track.value : undefined));
const key = computed(() => (chosen.value ? keyAt(track.value, chosen.value.frame) : undefined));
const found = computed(() => (campaign.set && chosen.value ? findThing(campaign.set, chosen.value.thing) : undefined));
const property = computed(() => found.value && propertyOf(found.value, chosen.value!.path));
const number = computed(() =>
  property.value?.type === 'number' || property.value?.type === 'turn' ? property.value : undefined,
);
const title = computed(
  () => `${found.value?.name ?? ''} ${property.value?.label.toLowerCase() ?? chosen.value?.path ?? ''}`,
);
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
function setValue(value: number, gesture: string): void {
  run(changeKey(chosen.value!, value), gesture);
}
function setFrame(frame: number): void {
  const from = chosen.value!;
  const to = Math.round(frame) - 1;
  run(moveKeys([from], to - from.frame));
  selection.replace([{ ...from, frame: to }]);
}
function remove(): void {
  run(deleteKeys(selection.list()));
  selection.clear();
}
useHandlers({ 'key.delete': { run: remove, enabled: () => selection.count.value > 0 } });
</script>

<template>
  <section v-if="key && track" class="card key" aria-label="Chosen key" data-test="key-details">
    <div class="row">
      <h2 class="clip">{{ title }}</h2>
      <span class="spread" />
      <UiButton @click="remove">Delete key</UiButton>
    </div>
    <CurveGraph
      v-if="numbers"
      :track="numbers"
      :linked="linked"
      :property="number"
      :length="campaign.shot!.length"
      :frame="playhead.frame"
      :chosen="key.frame"
      :title="title"
      @handle="setShape"
    />
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
    <PropertyField v-if="number" label="Value" :property="number" :value="key.value as number" @change="setValue" />
    <NumberField label="At frame" unit="f" :step="1" :min="1" :value="key.frame + 1" @change="setFrame" />
  </section>
</template>

<style scoped>
.key {
  display: grid;
  gap: 6px;
  padding: 12px 14px;
}
</style>
