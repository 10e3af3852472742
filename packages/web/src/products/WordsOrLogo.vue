<script setup lang="ts">
import { shortened } from '@tender-orbit/core/text';
import { ref } from 'vue';
import type { Builder } from '@tender-orbit/core/document';
import { newBuilder } from '@tender-orbit/core/product';
import { useNotices } from '../stores/index.ts';
import { LETTERS, outlinesOfSvg, outlinesOfWords, type Letters } from './outlines.ts';
import { FieldRow, FilePick, SelectField, TextField, UiButton } from '../ui/index.ts';

const emit = defineEmits<{ make: [name: string, builder: Builder]; close: [] }>();
const notices = useNotices();
const words = ref('');
const picker = ref<InstanceType<typeof FilePick>>();
const letters = ref<Letters>('fraunces');

function cut(name: string, outlines: number[][]): void {
  const label = shortened(name, 120) || 'Logo';
  emit('make', label, { ...newBuilder('cutout'), label, outlines } as Builder);
}
async function fromWords(): Promise<void> {
  const said = words.value.trim();
  if (said) await notices.guard(async () => cut(said, await outlinesOfWords(said, letters.value)));
}
async function fromFile(file: File): Promise<void> {
  await notices.guard(async () => cut(file.name.replace(/\.svg$/i, ''), outlinesOfSvg(await file.text(), file.name)));
}
</script>

<template>
  <form class="card ask" @submit.prevent="fromWords">
    <h2>Words or a logo with depth</h2>
    <FieldRow label="Words">
      <TextField
        label="Words"
        :value="words"
        maxlength="60"
        placeholder="Vellowmere"
        data-test="words"
        @typed="(text) => (words = text)"
      />
    </FieldRow>
    <FieldRow label="Letters">
      <SelectField
        label="Letters"
        :options="LETTERS.map((l) => ({ value: l.id, title: l.label }))"
        :value="letters"
        @change="(l) => (letters = l)"
      />
    </FieldRow>
    <div class="row">
      <UiButton type="submit" tone="primary" :disabled="!words.trim()" data-test="cut-words">Make the words</UiButton>
      <UiButton @click="picker?.open()">Choose an .svg</UiButton>
      <FilePick
        ref="picker"
        label="Drawing of a logo"
        accept=".svg,image/svg+xml"
        data-test="svg-input"
        @pick="([file]) => fromFile(file)"
      />
      <span class="spread" />
      <UiButton @click="emit('close')">Close</UiButton>
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
