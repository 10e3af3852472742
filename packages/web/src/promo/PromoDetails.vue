<script setup lang="ts">
import { choosePictureSize, renamePromo } from '@tender-orbit/core/document';
import { computed } from 'vue';
import type { Sound } from '@tender-orbit/core/audio';
import { framesToSeconds } from '@tender-orbit/core/time';
import { useCampaign, useLooks, useRack } from '../stores/index.ts';
import ClipDetails from './ClipDetails.vue';
import LayerDetails from '../composite/LayerDetails.vue';
import type { SoundStems } from '@tender-orbit/core/promo';
import MixerPanel from './MixerPanel.vue';
import KeyEase from './KeyEase.vue';
import MarkerDetails from './MarkerDetails.vue';
import MusicDetails from './MusicDetails.vue';
import OverlayDetails from './OverlayDetails.vue';
import PromoVariables from './PromoVariables.vue';
import SoundDetails from './SoundDetails.vue';
import TitleDetails from './TitleDetails.vue';
import { usePromo } from './use-promo.ts';
import { NumberField, TextField, UiButton } from '../ui/index.ts';

const { track = null, stems = null } = defineProps<{
  /** The promo's sound, as it is played, and what it is mixed from. */
  track?: Sound | null;
  stems?: SoundStems | null;
}>();
const emit = defineEmits<{ music: []; make: []; captions: [] }>();
const campaign = useCampaign();
const rack = useRack();
const looks = useLooks();
const { promo, length, chosen, frame, run } = usePromo();
const title = computed(() =>
  chosen.value?.kind === 'title'
    ? promo.value?.titles.find((t) => t.id === (chosen.value as { id: string }).id)
    : undefined,
);
const clip = computed(() =>
  chosen.value?.kind === 'clip'
    ? promo.value?.clips.find((c) => c.id === (chosen.value as { id: string }).id)
    : undefined,
);
const overlay = computed(() =>
  chosen.value?.kind === 'overlay'
    ? promo.value?.overlays.find((o) => o.id === (chosen.value as { id: string }).id)
    : undefined,
);
const marker = computed(() =>
  chosen.value?.kind === 'marker'
    ? promo.value?.markers.find((m) => m.id === (chosen.value as { id: string }).id)
    : undefined,
);
const sound = computed(() =>
  chosen.value?.kind === 'sound'
    ? promo.value?.sounds.find((s) => s.id === (chosen.value as { id: string }).id)
    : undefined,
);

function rename(text: string): void {
  const name = text.trim();
  if (name) run(renamePromo(name));
}
function setSize(side: 'width' | 'height', value: number, gesture: string): void {
  run(choosePictureSize({ [side]: value }), gesture);
}
</script>

<template>
  <section class="card scroll details" aria-label="Details" data-test="promo-details">
    <TitleDetails v-if="title" :key="title.id" :title="title" />
    <ClipDetails v-else-if="clip" :clip="clip" />
    <OverlayDetails v-else-if="overlay" :key="overlay.id" :overlay="overlay" />
    <MarkerDetails v-else-if="marker" :key="marker.id" :marker="marker" />
    <div v-else-if="chosen?.kind === 'layer' && rack.layer" class="layer">
      <h2 class="clip">{{ rack.layer.name }}</h2>
      <KeyEase :thing="rack.layer.id" :frame="frame" />
      <LayerDetails :key="rack.layer.id" :layer="rack.layer" />
      <div class="row">
        <UiButton :pressed="!rack.layer.visible" @click="rack.setValue(rack.layer, 'visible', !rack.layer.visible)"
          >Hidden</UiButton
        >
        <UiButton @click="rack.duplicate(rack.layer)">Duplicate</UiButton>
        <UiButton tip="It lies on the shelf of every shot and promo" @click="looks.keep(rack.layer)"
          >Keep look</UiButton
        >
      </div>
    </div>
    <SoundDetails v-else-if="sound" :key="sound.id" :sound="sound" />
    <MusicDetails
      v-else-if="chosen?.kind === 'music' && promo?.music"
      :music="promo.music"
      :track="track"
      @swap="emit('music')"
      @make="emit('make')"
    />
    <MixerPanel v-else-if="chosen?.kind === 'mixer'" :stems="stems" />
    <template v-else-if="promo">
      <h2>Promo</h2>
      <TextField :value="promo.name" label="Name of the promo" maxlength="120" @change="rename" />
      <NumberField
        label="Width"
        unit="px"
        :value="promo.width"
        :min="64"
        :max="4096"
        :step="2"
        @change="(v, g) => setSize('width', v, g)"
      />
      <NumberField
        label="Height"
        unit="px"
        :value="promo.height"
        :min="64"
        :max="4096"
        :step="2"
        @change="(v, g) => setSize('height', v, g)"
      />
      <dl>
        <dt>Length</dt>
        <dd class="mono">{{ framesToSeconds(length, campaign.rate).toFixed(2) }} s</dd>
        <dt>Clips</dt>
        <dd class="mono">{{ promo.clips.length }}</dd>
        <dt>Titles</dt>
        <dd class="mono">{{ promo.titles.length }}</dd>
        <dt>Sounds</dt>
        <dd class="mono">{{ promo.sounds.length }}</dd>
        <dt>Music</dt>
        <dd>{{ promo.music?.name ?? 'none' }}</dd>
      </dl>
      <UiButton @click="emit('music')">
        {{ promo.music ? 'Change music' : 'Add music' }}
      </UiButton>
      <UiButton data-test="open-make-music" @click="emit('make')">Make music</UiButton>
      <PromoVariables />
      <UiButton data-test="captions" @click="emit('captions')">Bring in captions</UiButton>
    </template>
  </section>
</template>

<style scoped>
.details {
  display: grid;
  /* Or a heading that is cut with dots would shrink to nothing in a full panel. */
  grid-auto-rows: max-content;
  align-content: start;
  gap: 6px;
  padding: 12px 14px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
  margin: 6px 0 6px 20px;
}
dt {
  color: var(--bone-dim);
}
dd {
  margin: 0;
}
.chip {
  justify-self: start;
}
</style>
