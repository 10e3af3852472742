<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import { setVariables, type PromoVariable } from '@tender-orbit/core/document';
import { slotsOf } from '@tender-orbit/core/promo';
import { computed } from 'vue';
import { useCampaign } from '../stores/index.ts';
import { IconButton, MoreFields, TextField, UiButton } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** Values that titles name in braces: what the campaign knows, and a person's own. */
const campaign = useCampaign();
const { promo, run } = usePromo();
const variables = computed((): readonly PromoVariable[] => promo.value?.variables ?? []);
/** Names that titles ask for and nobody has given a value yet. */
const missing = computed(() => {
  const known = new Set(variables.value.map(({ name }) => name.toLowerCase()));
  const asked = (promo.value?.titles ?? []).flatMap((t) => slotsOf(t.text));
  return [...new Set(asked)].filter((name) => !known.has(name.toLowerCase()));
});
function set(at: number, values: Partial<PromoVariable>): void {
  run(setVariables(variables.value.map((v, i) => (i === at ? { ...v, ...values } : v))));
}
const add = (more: readonly PromoVariable[]): void => run(setVariables([...variables.value, ...more]));
/** What the campaign says of itself. */
function fromCampaign(): void {
  const product = campaign.set?.products[0];
  const found: PromoVariable[] = [
    { name: 'campaign', value: campaign.campaign?.name ?? '' },
    { name: 'product', value: product?.name ?? '' },
    { name: 'date', value: new Date().toISOString().slice(0, 10) },
  ];
  const known = new Set(variables.value.map(({ name }) => name.toLowerCase()));
  add(found.filter(({ name, value }) => value !== '' && !known.has(name)));
}
</script>

<template>
  <MoreFields title="Variables">
    <p class="dim">A title that says {price} shows its value.</p>
    <div v-for="(variable, i) in variables" :key="i" class="line">
      <TextField
        label="Name of the variable"
        :value="variable.name"
        maxlength="60"
        @change="(name) => name.trim() && set(i, { name: name.trim() })"
      />
      <TextField
        label="Value of the variable"
        :value="variable.value"
        maxlength="400"
        @change="(value) => set(i, { value })"
      />
      <IconButton
        small
        :icon="mdiTrashCanOutline"
        :label="`Delete variable ${variable.name}`"
        @click="run(setVariables(variables.filter((_, n) => n !== i)))"
      />
    </div>
    <div class="row">
      <UiButton data-test="campaign-variables" @click="fromCampaign">From the campaign</UiButton>
      <UiButton
        data-test="add-variable"
        @click="add([{ name: missing[0] ?? `value ${variables.length + 1}`, value: '' }])"
        >{{ missing.length > 0 ? `Add ${missing[0]}` : 'Add' }}</UiButton
      >
    </div>
  </MoreFields>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 84px 1fr auto;
  align-items: center;
  gap: 4px;
}
p {
  margin: 0 0 4px 20px;
}
</style>
