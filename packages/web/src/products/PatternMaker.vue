<script setup lang="ts">
import { patternFinish } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { candidatesFor, PATTERN_KINDS, type PatternRecipe } from '@tender-orbit/core/finish';
import { useDesk } from '../stores/index.ts';
import SheetPicture from './SheetPicture.vue';
import { useArt } from './use-art.ts';
import { ColourField, FieldRow, NumberField, PickCard, SelectField, TextField, UiButton } from '../ui/index.ts';

/** Patterns from a few words: three candidates, one of which is changed further and kept as a sheet. */
const desk = useDesk();
const { addPattern } = useArt();
const words = ref('golden honeycomb');
const seed = ref(1);
const three = computed(() => candidatesFor(words.value, seed.value));
const own = ref<PatternRecipe | null>(null);
const PREVIEW = 128;
const source = (recipe: PatternRecipe) => ({
  ...{ asset: '', look: null, emboss: false },
  pattern: { ...recipe, size: PREVIEW },
});
function change(values: Partial<PatternRecipe>): void {
  if (own.value) own.value = { ...own.value, ...values };
}
function paint(at: number, hex: string): void {
  if (!own.value) return;
  const colours = [...own.value.colours] as PatternRecipe['colours'];
  colours[at] = hex;
  change({ colours });
}
function keep(): void {
  if (own.value) addPattern(own.value, words.value.trim() || own.value.kind);
}
/** On every part that has this finish, as its colour. */
function useAsFinish(): void {
  if (own.value) desk.run(patternFinish(desk.finish, own.value));
}
const KINDS = PATTERN_KINDS.map((value) => ({ value, title: value }));
const COLOURS = ['Ground', 'Figure', 'Accent'] as const;
</script>

<template>
  <div class="maker" data-test="pattern-maker">
    <div class="row">
      <TextField
        class="spread"
        label="Words for the pattern"
        :value="words"
        maxlength="80"
        data-test="pattern-words"
        @typed="(text) => (words = text)"
      />
      <UiButton @click="seed++">Others</UiButton>
    </div>
    <div class="three">
      <PickCard
        v-for="(recipe, i) in three"
        :key="`${words} ${seed} ${i}`"
        class="candidate"
        :label="`Candidate ${i + 1}: ${recipe.kind}`"
        data-test="candidate"
        @click="own = recipe"
      >
        <SheetPicture :key="`${words} ${seed} ${i}`" :picture="source(recipe)" :side="78" />
      </PickCard>
    </div>
    <template v-if="own">
      <FieldRow label="Pattern">
        <SelectField label="Pattern" :options="KINDS" :value="own.kind" @change="(kind) => change({ kind })" />
      </FieldRow>
      <NumberField
        label="Across"
        :value="own.count"
        :min="1"
        :max="64"
        @change="(v) => change({ count: Math.round(v) })"
      />
      <NumberField
        label="Amount"
        unit="%"
        :value="own.amount * 100"
        :min="0"
        :max="100"
        @change="(v) => change({ amount: v / 100 })"
      />
      <NumberField
        label="Softness"
        unit="%"
        :value="own.softness * 100"
        :min="0"
        :max="100"
        @change="(v) => change({ softness: v / 100 })"
      />
      <ColourField
        v-for="(name, i) in COLOURS"
        :key="name"
        :label="name"
        :value="own.colours[i]"
        @change="(hex) => paint(i, hex)"
      />
      <div class="row">
        <SheetPicture :key="JSON.stringify(own)" :picture="source(own)" :side="58" />
        <UiButton tone="primary" data-test="keep-pattern" @click="keep">Keep as sheet</UiButton>
        <UiButton @click="useAsFinish">Use as finish</UiButton>
      </div>
    </template>
  </div>
</template>

<style scoped>
.maker {
  display: grid;
  gap: 4px;
  margin: 8px -6px;
  padding: 8px 6px;
  border-radius: 8px;
  background: var(--ink-0);
}
.three {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
}
.candidate {
  display: grid;
  place-items: center;
  padding: 3px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: transparent;
  cursor: pointer;
}
.candidate:hover {
  border-color: var(--celadon);
}
</style>
