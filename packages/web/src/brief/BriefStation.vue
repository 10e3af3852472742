<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  chooseFrameRate,
  retimePromo,
  retimeShot,
  choosePictureSize,
  orderBoards,
  writeBrief,
  type BriefField,
} from '@tender-orbit/core/document';
import { rateLabel, USUAL_RATES } from '@tender-orbit/core/time';
import BoardCard from './BoardCard.vue';
import { PICTURE_SIZES } from '../campaigns/sizes.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { SelectField, SortList, StackField, TextArea, TextField, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const brief = computed(() => campaign.campaign!);
const seconds = computed(
  () => campaign.shots.reduce((n, s) => n + (s.document?.length ?? 0), 0) * (campaign.rate.den / campaign.rate.num),
);
const sizes = computed(() => {
  const { width, height } = brief.value;
  const own = PICTURE_SIZES.some((s) => s.width === width && s.height === height)
    ? []
    : [{ label: `${width} x ${height}`, width, height }];
  return [...own, ...PICTURE_SIZES];
});

/** A promo that had the campaign's size goes with it; one that was given its own keeps it. */
function chooseSize({ width, height }: { width: number; height: number }): void {
  const { promo } = campaign;
  const follows = promo?.width === brief.value.width && promo.height === brief.value.height;
  const command = choosePictureSize({ width, height });
  documents.run('campaign', campaign.id, command);
  if (follows) documents.run('promo', campaign.promoId, command);
}
/** Gives every board that has no picture yet the drawing of its shot. */
const drawing = ref(false);
async function sketchBoards(): Promise<void> {
  drawing.value = true;
  await notices.guard(async () => {
    for (const { id } of [...campaign.unseen]) await campaign.sketchShot(id);
  });
  drawing.value = false;
}
function write(field: BriefField, text: string): void {
  const command = writeBrief(field, text);
  documents.run('campaign', campaign.id, command, `brief-${field}`);
}
function order(shots: ReadonlyArray<{ id: string }>): void {
  const command = orderBoards(shots.map(({ id }) => id));
  documents.run('campaign', campaign.id, command);
}
const RATES = USUAL_RATES.map((r, value) => ({ value, title: `${rateLabel(r)} frames a second` }));
function chooseRate(at: number): void {
  const rate = USUAL_RATES[at];
  const { num, den } = campaign.rate;
  const factor = (rate.num * den) / (rate.den * num);
  if (factor === 1) return;
  const gesture = `rate-${Date.now()}`;
  documents.run('campaign', campaign.id, chooseFrameRate({ ...rate }), gesture);
  // What moves keeps its time, in every shot and in the cut.
  for (const { id } of campaign.shots) documents.run('shot', id, retimeShot(factor), gesture);
  if (campaign.promo) documents.run('promo', campaign.promoId, retimePromo(factor), gesture);
}
</script>

<template>
  <div class="brief">
    <section class="card scroll words" aria-label="Brief">
      <h2>Brief</h2>
      <StackField label="Campaign name"
        ><TextField label="Campaign name" :value="brief.name" maxlength="120" @typed="(text) => write('name', text)"
      /></StackField>
      <StackField label="Client"
        ><TextField label="Client" :value="brief.client" maxlength="120" @typed="(text) => write('client', text)"
      /></StackField>
      <StackField label="What it must say, and to whom"
        ><TextArea
          label="What it must say, and to whom"
          :rows="5"
          maxlength="4000"
          :value="brief.message"
          @typed="(text) => write('message', text)"
      /></StackField>
      <StackField label="Notes: must, must not, references, dates"
        ><TextArea
          label="Notes: must, must not, references, dates"
          :rows="8"
          maxlength="4000"
          :value="brief.notes"
          @typed="(text) => write('notes', text)"
      /></StackField>
      <div class="pair">
        <StackField label="Picture size"
          ><SelectField
            label="Picture size"
            :options="sizes.map(({ label }, value) => ({ value, title: label }))"
            :value="sizes.findIndex((s) => s.width === brief.width && s.height === brief.height)"
            @change="(i) => chooseSize(sizes[i])"
        /></StackField>
        <StackField label="Frame rate"
          ><SelectField
            label="Frame rate"
            :options="RATES"
            :value="USUAL_RATES.findIndex((r) => r.num === brief.frameRate.num && r.den === brief.frameRate.den)"
            @change="chooseRate"
        /></StackField>
      </div>
    </section>
    <section class="card scroll boards" aria-label="Storyboard">
      <div class="row head">
        <h2>Storyboard</h2>
        <span class="mono dim">{{ campaign.shots.length }} shots, {{ seconds.toFixed(1) }} s</span>
        <span class="spread" />
        <UiButton
          v-if="campaign.unseen.length > 0"
          :disabled="drawing"
          tip="Draws the shots that have no picture yet, as they stand on their sets"
          data-test="sketch-boards"
          @click="sketchBoards"
          >{{ drawing ? 'Drawing...' : 'Sketch the boards' }}</UiButton
        >
        <UiButton tone="primary" @click="notices.guard(campaign.addShot)">Add a shot</UiButton>
      </div>
      <SortList
        class="grid"
        :style="{ '--boards': Math.max(1, campaign.shots.length) }"
        :items="campaign.shots"
        @order="order"
      >
        <template #default="{ item, index }"><BoardCard :shot-id="item.id" :number="index + 1" /></template>
      </SortList>
    </section>
  </div>
</template>

<style scoped>
.brief {
  display: grid;
  grid-template-columns: minmax(320px, 420px) 1fr;
  gap: 8px;
  height: 100%;
}
.words {
  display: grid;
  align-content: start;
  gap: 14px;
  padding: 18px;
}
label {
  display: grid;
  gap: 4px;
  color: var(--bone-dim);
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.boards {
  padding: 18px;
}
.head {
  gap: 12px;
  margin-bottom: 14px;
}
.grid {
  display: grid;
  /* Few boards are large, many are small. */
  grid-template-columns: repeat(auto-fill, minmax(max(236px, min(500px, 100% / var(--boards) - 16px)), 1fr));
  gap: 14px;
}
</style>
