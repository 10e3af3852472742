<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { recut } from '@tender-orbit/core/document';
import {
  CUT_PATTERNS,
  cutFrames,
  cutOnBeats,
  promoLength,
  promoSections,
  type CutPattern,
} from '@tender-orbit/core/promo';
import { framesToSeconds, secondsToFrames } from '@tender-orbit/core/time';
import { musicOf } from '../music/music.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { usePromo } from './use-promo.ts';
import { CheckField, DialogCard, FieldRow, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';

/** Lays a cut of chosen takes on the beats of the music, in the place of the clips that are there. */
const { open } = defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const campaign = useCampaign();
const notices = useNotices();
const { promo, grid, chosen, run } = usePromo();

const PATTERNS = optionsOf<CutPattern>({
  beat: 'every beat',
  'two beats': 'every two beats',
  bar: 'every bar',
  'two bars': 'every two bars',
  parts: 'parts of the music',
});
const patterns = computed(() =>
  PATTERNS.filter(({ value }) => value !== 'parts' || (promo.value?.music?.sections.length ?? 0) > 0),
);
const pattern = ref<CutPattern>(CUT_PATTERNS[2]);
const seconds = ref(12);
const seed = ref(1);
const left = ref(new Set<string>());
const takes = computed(() => campaign.wholeTakes.filter((t) => t.state === 'done'));
const used = computed(() => takes.value.filter((t) => !left.value.has(t.id)));
watch(
  () => open,
  (now) => {
    if (!now || !promo.value) return;
    const there = framesToSeconds(promoLength(promo.value), campaign.rate);
    const sound = musicOf(promo.value.music?.asset);
    const heard = sound ? sound.left.length / sound.sampleRate - (promo.value.music?.trim ?? 0) : 12;
    seconds.value = Math.round(10 * (there > 0 ? there : Math.min(15, heard))) / 10;
  },
);
const options = computed(() => ({
  takes: used.value.map(({ id, length }) => ({ id, length })),
  grid: grid.value!,
  parts: promo.value ? promoSections(promo.value) : [],
  rate: campaign.rate,
  pattern: pattern.value,
  length: Math.max(1, Math.round(secondsToFrames(seconds.value, campaign.rate))),
  seed: seed.value,
  newId: () => freshId('clip'),
}));
const clips = computed(() => (grid.value ? cutFrames(options.value).length - 1 : 0));

function use(take: string, on: boolean): void {
  const next = new Set(left.value);
  if (on) next.delete(take);
  else next.add(take);
  left.value = next;
}
function cut(): void {
  try {
    run(recut(cutOnBeats(options.value)));
    chosen.value = null;
    emit('close');
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <DialogCard :open="open" title="Cut on beats" data-test="cut-on-beats" @close="emit('close')">
    <FieldRow label="Cuts at">
      <SelectField label="Cuts at" :options="patterns" :value="pattern" @change="(p) => (pattern = p)" />
    </FieldRow>
    <NumberField
      label="Length"
      unit="s"
      :value="seconds"
      :min="0.5"
      :max="600"
      :step="0.5"
      @change="(v) => (seconds = v)"
    />
    <NumberField
      label="Seed"
      unit=""
      :value="seed"
      :min="0"
      :max="9999"
      :step="1"
      @change="(v) => (seed = Math.round(v))"
    />
    <div role="group" aria-label="Takes to cut" class="takes">
      <CheckField
        v-for="take in takes"
        :key="take.id"
        :label="`${take.name}, ${framesToSeconds(take.length, campaign.rate).toFixed(1)} s`"
        :value="!left.has(take.id)"
        @change="(on) => use(take.id, on)"
      />
    </div>
    <p class="dim">
      Makes {{ clips }} {{ clips === 1 ? 'clip' : 'clips' }} of {{ used.length }}
      {{ used.length === 1 ? 'take' : 'takes' }}; takes the place of the clips that are there. Titles stay.
    </p>
    <template #end>
      <UiButton @click="seed = seed + 1">Shuffle</UiButton>
      <UiButton tone="primary" :disabled="used.length === 0 || clips === 0" data-test="cut" @click="cut">Cut</UiButton>
    </template>
  </DialogCard>
</template>

<style scoped>
.takes {
  display: grid;
  max-height: 240px;
  overflow: auto;
}
</style>
