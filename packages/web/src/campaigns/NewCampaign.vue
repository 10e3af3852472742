<script setup lang="ts">
import { ref } from 'vue';
import { rateLabel, USUAL_RATES } from '@tender-orbit/core/time';
import { api, sentenceOf, type StoredDocument } from '../api/index.ts';
import { PICTURE_SIZES } from './sizes.ts';
import { DialogCard, SelectField, StackField, TextField, UiButton } from '../ui/index.ts';

const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ made: [id: string] }>();
const name = ref('');
const client = ref('');
const rate = ref(1);
const size = ref(1);
const failure = ref('');
const busy = ref(false);
const SIZES = PICTURE_SIZES.map(({ label }, value) => ({ value, title: label }));
const RATES = USUAL_RATES.map((r, value) => ({ value, title: `${rateLabel(r)} frames a second` }));

async function make(): Promise<void> {
  failure.value = '';
  busy.value = true;
  try {
    const { width, height } = PICTURE_SIZES[size.value];
    const stored = await api<StoredDocument<'campaign'>>('POST', '/campaigns', {
      name: name.value,
      client: client.value,
      frameRate: USUAL_RATES[rate.value],
      width,
      height,
    });
    open.value = false;
    emit('made', stored.id);
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <DialogCard :open="open" title="New campaign" @close="open = false">
    <form id="new-campaign" class="make" @submit.prevent="make">
      <StackField label="Campaign name">
        <TextField label="Campaign name" name="name" autofocus :value="name" @typed="(text) => (name = text)" />
      </StackField>
      <StackField label="Client">
        <TextField label="Client" name="client" :value="client" @typed="(text) => (client = text)" />
      </StackField>
      <StackField label="Picture size">
        <SelectField label="Picture size" :options="SIZES" :value="size" @change="(s) => (size = s)" />
      </StackField>
      <StackField label="Frame rate">
        <SelectField label="Frame rate" :options="RATES" :value="rate" @change="(r) => (rate = r)" />
      </StackField>
      <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    </form>
    <template #end>
      <UiButton @click="open = false">Cancel</UiButton>
      <UiButton type="submit" form="new-campaign" tone="primary" :busy="busy">Create campaign</UiButton>
    </template>
  </DialogCard>
</template>

<style scoped>
.make {
  display: grid;
  gap: 12px;
  padding: 22px;
}
label {
  display: grid;
  gap: 4px;
  color: var(--bone-dim);
}
.failure {
  margin: 0;
  color: var(--coral);
}
</style>
