<script setup lang="ts">
import { useHandlers } from '../actions/index.ts';
import { changeLength, clearMoves } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { pushIn, turntable } from '@tender-orbit/core/motion';
import { useCampaign, useDocuments, useNotices, useStage } from '../stores/index.ts';
import { NumberField, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const stage = useStage();
const degrees = ref(360);
const closer = ref(30);

const product = computed(
  () => campaign.set?.products.find((p) => p.id === stage.selected) ?? campaign.set?.products[0],
);

function makeTurntable(): void {
  const target = product.value;
  if (!target) {
    notices.refuse('There is no product on the set to turn: put one there in Set first.');
    return;
  }
  documents.run('shot', campaign.shotId, turntable(target, { degrees: degrees.value }));
  stage.selected = target.id;
}
function makePushIn(): void {
  const { camera } = campaign;
  if (!camera) return;
  documents.run('shot', campaign.shotId, pushIn(camera, { share: closer.value / 100 }));
  stage.selected = camera.id;
}
function setLength(frames: number, gesture: string): void {
  documents.run('shot', campaign.shotId, changeLength(frames), gesture);
}
function clear(): void {
  documents.run('shot', campaign.shotId, clearMoves());
}
useHandlers({
  'moves.turntable': makeTurntable,
  'moves.push-in': makePushIn,
  'moves.clear': { run: clear, enabled: () => (campaign.shot?.tracks.length ?? 0) > 0 },
});
</script>

<template>
  <section class="card scroll recipes" aria-label="Move recipes">
    <h2>Move recipes</h2>
    <article>
      <svg viewBox="0 0 120 54" aria-hidden="true">
        <ellipse cx="60" cy="38" rx="40" ry="11" />
        <path class="move" d="M24 42a40 11 0 0 0 70 1" />
        <path class="tip" d="M98 36l-1 11-9-5z" />
        <rect x="49" y="8" width="22" height="30" rx="4" />
      </svg>
      <UiButton tone="primary" @click="makeTurntable">Turntable</UiButton>
      <span class="dim clip">{{ product?.name ?? 'no product yet' }}</span>
      <NumberField
        label="Degrees"
        unit="deg"
        :value="degrees"
        :min="-36000"
        :max="36000"
        :step="15"
        :usual="360"
        @change="(v) => (degrees = v)"
      />
    </article>
    <article>
      <svg viewBox="0 0 120 54" aria-hidden="true">
        <rect x="86" y="12" width="20" height="30" rx="4" />
        <path class="lens" d="M14 20h16v14H14zM30 24l8-5v16l-8-5z" />
        <path class="move" d="M44 27h30" />
        <path class="tip" d="M82 27l-10 5V22z" />
      </svg>
      <UiButton tone="primary" @click="makePushIn">Push-in</UiButton>
      <span class="dim clip">{{ campaign.camera?.name ?? 'no camera' }}</span>
      <NumberField
        label="Closer by"
        unit="%"
        :value="closer"
        :min="-300"
        :max="95"
        :step="5"
        :usual="30"
        @change="(v) => (closer = v)"
      />
    </article>
    <h2>Shot</h2>
    <NumberField
      label="Length"
      unit="f"
      :value="campaign.shot?.length ?? 1"
      :min="1"
      :max="100000"
      :step="1"
      @change="setLength"
    />
    <UiButton class="clear" :disabled="!campaign.shot?.tracks.length" @click="clear"> Clear all moves </UiButton>
  </section>
</template>

<style scoped>
.recipes {
  display: grid;
  align-content: start;
  gap: 10px;
  padding: 12px;
}
article {
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: 6px 8px;
  padding: 8px;
  border-radius: 8px;
  background: var(--ink-0);
}
svg {
  grid-column: 1 / -1;
  width: 100%;
  height: 54px;
  fill: none;
  stroke: var(--bone-dim);
  stroke-width: 1.5;
}
.move {
  stroke: var(--coral);
}
.tip {
  fill: var(--coral);
  stroke: none;
}
.lens {
  stroke: var(--celadon);
}
article > :last-child {
  grid-column: 1 / -1;
  --label-width: 58px;
  margin-left: -18px;
}
.clear {
  justify-self: start;
  margin-left: 20px;
}
</style>
