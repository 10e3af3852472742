<script setup lang="ts">
import { copyMotion, findThing, propertyOf, removeMotion, thingsOf } from '@tender-orbit/core/document';
import { computed, ref, watch } from 'vue';
import { useHandlers } from '../actions/index.ts';
import { labelIn } from '../things/own-subject.ts';
import { useCampaign, useDocuments, useStage } from '../stores/index.ts';
import { CheckField, DialogCard, FieldRow, SelectField, UiButton } from '../ui/index.ts';

/** Copies chosen attributes of a thing's motion to other things, or takes them from many. */
const campaign = useCampaign();
const documents = useDocuments();
const stage = useStage();
const open = ref(false);
const source = ref('');
const paths = ref(new Set<string>());
const targets = ref(new Set<string>());
useHandlers({
  'motion.copy': {
    run: () => {
      source.value = movers.value.some((m) => m.value === stage.selected)
        ? stage.selected
        : (movers.value[0]?.value ?? '');
      targets.value = new Set();
      open.value = true;
    },
    enabled: () => movers.value.length > 0,
  },
});

/** Things with keys. */
const movers = computed(() => {
  const { set, shot } = campaign;
  if (!set || !shot) return [];
  const keyed = new Set(shot.tracks.map((t) => t.thing));
  return thingsOf(set)
    .filter((t) => keyed.has(t.id))
    .map(({ id, name }) => ({ value: id, title: name }));
});
const attributes = computed(() => {
  const found = campaign.set && findThing(campaign.set, source.value);
  const tracks = campaign.shot?.tracks.filter((t) => t.thing === source.value) ?? [];
  return tracks.map(({ path, keys }) => ({
    path,
    count: keys.length,
    label: labelIn(campaign, source.value, path, (found && propertyOf(found, path)?.label) ?? path),
  }));
});
watch([source, open], () => (paths.value = new Set(attributes.value.map((a) => a.path))));
/** Things that have at least one of the attributes, with how many of their keys are on those. */
const others = computed(() => {
  const { set, shot } = campaign;
  if (!set || !shot) return [];
  return thingsOf(set)
    .filter((found) => found.id !== source.value && [...paths.value].some((path) => propertyOf(found, path)))
    .map(({ id, name }) => ({
      ...{ id, name },
      keys: shot.tracks
        .filter((t) => t.thing === id && paths.value.has(t.path))
        .reduce((sum, t) => sum + t.keys.length, 0),
    }));
});
function toggle(set: Set<string>, value: string, on: boolean): Set<string> {
  const next = new Set(set);
  if (on) next.add(value);
  else next.delete(value);
  return next;
}
function copy(): void {
  documents.run('shot', campaign.shotId, copyMotion(source.value, [...targets.value], [...paths.value]));
  open.value = false;
}
function remove(): void {
  const things = [source.value, ...targets.value];
  documents.run('shot', campaign.shotId, removeMotion(things, [...paths.value]));
  open.value = false;
}
const nothing = computed(() => paths.value.size === 0 || targets.value.size === 0);
const words = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? '' : 's'}`;
</script>

<template>
  <DialogCard :open="open" title="Copy motion" :width="560" data-test="motion-dialog" @close="open = false">
    <FieldRow label="From">
      <SelectField label="From which thing" :options="movers" :value="source" @change="(id) => (source = id)" />
    </FieldRow>
    <div class="columns">
      <fieldset>
        <legend>What</legend>
        <CheckField
          v-for="a in attributes"
          :key="a.path"
          :label="`${a.label}, ${words(a.count, 'key')}`"
          :value="paths.has(a.path)"
          @change="(on) => (paths = toggle(paths, a.path, on))"
        />
      </fieldset>
      <fieldset class="scroll">
        <legend>To</legend>
        <CheckField
          v-for="thing in others"
          :key="thing.id"
          :label="thing.keys ? `${thing.name}, has ${words(thing.keys, 'key')}` : thing.name"
          :value="targets.has(thing.id)"
          @change="(on) => (targets = toggle(targets, thing.id, on))"
        />
      </fieldset>
    </div>
    <p class="dim">Keys that a thing has already on what is chosen give way. Times stay as they are.</p>
    <div class="row ends">
      <UiButton :disabled="paths.size === 0" @click="remove">
        Remove from {{ words(targets.size + 1, 'thing') }}
      </UiButton>
      <span class="spread" />
      <UiButton @click="open = false">Cancel</UiButton>
      <UiButton tone="primary" :disabled="nothing" data-test="copy-motion" @click="copy">
        Copy to {{ words(targets.size, 'thing') }}
      </UiButton>
    </div>
  </DialogCard>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  margin: 8px 0;
}
fieldset {
  max-height: 300px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  font-weight: 600;
}
</style>
