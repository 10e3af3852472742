<script setup lang="ts">
import { ref } from 'vue';
import { rateLabel, USUAL_RATES } from '@tender-orbit/core/time';
import { api, sentenceOf, type StoredDocument } from '../api/index.ts';
import { PICTURE_SIZES } from './sizes.ts';

const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ made: [id: string] }>();
const name = ref('');
const client = ref('');
const rate = ref(1);
const size = ref(1);
const failure = ref('');
const busy = ref(false);

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
  <v-dialog v-model="open">
    <form class="card make" @submit.prevent="make">
      <h2>New campaign</h2>
      <label>Campaign name<input v-model="name" class="field" name="name" autofocus /></label>
      <label>Client<input v-model="client" class="field" name="client" /></label>
      <label
        >Picture size<select v-model="size" class="field">
          <option v-for="(s, i) in PICTURE_SIZES" :key="s.label" :value="i">{{ s.label }}</option>
        </select></label
      >
      <label
        >Frame rate<select v-model="rate" class="field">
          <option v-for="(r, i) in USUAL_RATES" :key="i" :value="i">{{ rateLabel(r) }} frames a second</option>
        </select></label
      >
      <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
      <div class="row">
        <button type="submit" class="chip primary" :disabled="busy">Create campaign</button>
        <button type="button" class="chip" @click="open = false">Cancel</button>
      </div>
    </form>
  </v-dialog>
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
