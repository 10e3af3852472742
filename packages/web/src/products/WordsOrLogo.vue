<script setup lang="ts">
import { ref } from 'vue';
import type { Builder } from '@tender-orbit/core/document';
import { newBuilder } from '@tender-orbit/core/product';
import FieldRow from '../controls/FieldRow.vue';
import { useNotices } from '../stores/index.ts';
import { LETTERS, outlinesOfSvg, outlinesOfWords, type Letters } from './outlines.ts';

const emit = defineEmits<{ make: [name: string, builder: Builder]; close: [] }>();
const notices = useNotices();
const words = ref('');
const letters = ref<Letters>('fraunces');

function cut(name: string, outlines: number[][]): void {
  const label = name.slice(0, 120) || 'Logo';
  emit('make', label, { ...newBuilder('cutout'), label, outlines } as Builder);
}
async function fromWords(): Promise<void> {
  const said = words.value.trim();
  if (said) await notices.guard(async () => cut(said, await outlinesOfWords(said, letters.value)));
}
async function fromFile(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (file)
    await notices.guard(async () => cut(file.name.replace(/\.svg$/i, ''), outlinesOfSvg(await file.text(), file.name)));
}
</script>

<template>
  <form class="card ask" @submit.prevent="fromWords">
    <h2>Words or a logo with depth</h2>
    <FieldRow label="Words">
      <input v-model="words" class="field" maxlength="60" placeholder="Vellowmere" data-test="words" />
    </FieldRow>
    <FieldRow label="Letters">
      <select v-model="letters" class="field">
        <option v-for="l in LETTERS" :key="l.id" :value="l.id">{{ l.label }}</option>
      </select>
    </FieldRow>
    <div class="row">
      <button type="submit" class="chip primary" :disabled="!words.trim()" data-test="cut-words">Make the words</button>
      <label class="chip">
        Choose an .svg
        <input type="file" accept=".svg,image/svg+xml" class="sr-only" data-test="svg-input" @change="fromFile" />
      </label>
      <span class="spread" />
      <button type="button" class="chip" @click="emit('close')">Close</button>
    </div>
  </form>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 10px;
  padding: 20px;
}
</style>
