<script setup lang="ts">
import { computed } from 'vue';
import {
  carryOverlay,
  OVERLAY_PROPERTIES,
  type Arrival,
  type OverlayPath,
  type OwnSound,
  type PromoOverlay,
} from '@tender-orbit/core/document';
import { FieldRow, MoreFields, NumberField, SelectField, UiButton } from '../ui/index.ts';
import KeyEase from './KeyEase.vue';
import KeyedFields from './KeyedFields.vue';
import OwnSoundFields from './OwnSoundFields.vue';
import { useOverlayValues } from './use-overlay-values.ts';
import { usePromo } from './use-promo.ts';

/** Footage or a take over the picture: where and how large it is, how it comes and goes. */
const { overlay } = defineProps<{ overlay: PromoOverlay }>();
const { promo, run, editOverlay, sourceOf } = usePromo();
const source = computed(() => sourceOf(overlay.footage));
const keys = useOverlayValues(() => overlay);
const PLACE: readonly OverlayPath[] = ['x', 'y', 'size', 'rotation', 'opacity'];
const EDGES: readonly OverlayPath[] = ['radius', 'cropLeft', 'cropRight', 'cropTop', 'cropBottom'];
const rest = (label: string, values: Partial<PromoOverlay>, gesture: string): void =>
  editOverlay(overlay.id, `Change ${label} of overlay`, values, gesture);
const KINDS = (['none', 'fade', 'rise', 'slide', 'scale'] as const).map((value) => ({
  value,
  title: value === 'none' ? 'At once' : value.replace(/^./, (c) => c.toUpperCase()),
}));
function setArrival(side: 'arrive' | 'leave', values: Partial<Arrival>): void {
  const label = side === 'arrive' ? 'Change arrival' : 'Change leaving';
  editOverlay(overlay.id, label, { [side]: { ...overlay[side], ...values } });
}
const setSound = (label: string, sound: OwnSound | null, gesture?: string): void =>
  editOverlay(overlay.id, label, { sound: sound ?? undefined }, gesture);
</script>

<template>
  <h2 class="clip">{{ source?.name ?? 'Overlay of nothing' }}</h2>
  <KeyedFields :of="keys" :properties="OVERLAY_PROPERTIES" :paths="PLACE" />
  <KeyEase :thing="overlay.id" :frame="keys.at.value" />
  <MoreFields title="Crop and corners">
    <KeyedFields :of="keys" :properties="OVERLAY_PROPERTIES" :paths="EDGES" />
  </MoreFields>
  <NumberField
    label="Starts at"
    unit="f"
    :value="overlay.start + 1"
    :min="1"
    :max="100001"
    :step="1"
    @change="(v, g) => rest('beginning', { start: Math.round(v) - 1 }, g)"
  />
  <NumberField
    label="Stays for"
    unit="f"
    :value="overlay.length"
    :min="1"
    :max="100000"
    :step="1"
    @change="(v, g) => rest('length', { length: Math.round(v) }, g)"
  />
  <template v-if="source && source.length > 1">
    <NumberField
      label="From frame"
      unit="f"
      :value="overlay.first + 1"
      :min="1"
      :max="100001"
      :step="1"
      :usual="1"
      @change="(v, g) => rest('first frame', { first: Math.round(v) - 1 }, g)"
    />
    <NumberField
      label="Speed"
      unit="%"
      :value="overlay.speed * 100"
      :min="0"
      :max="10000"
      :step="1"
      @change="(v, g) => rest('speed', { speed: v / 100 }, g)"
    />
  </template>
  <OwnSoundFields :source="overlay.footage" :sound="overlay.sound" @change="setSound" />
  <div v-if="promo && promo.overlays.length > 1" class="row">
    <UiButton @click="run(carryOverlay(overlay.id, 'front'))">To the front</UiButton>
    <UiButton @click="run(carryOverlay(overlay.id, 'back'))">To the back</UiButton>
  </div>
  <template v-for="side in ['arrive', 'leave'] as const" :key="side">
    <FieldRow :label="side === 'arrive' ? 'Arrives by' : 'Leaves by'">
      <SelectField
        :label="side === 'arrive' ? 'Arrives by' : 'Leaves by'"
        :options="KINDS"
        :value="overlay[side].kind === 'type' ? 'none' : overlay[side].kind"
        @change="(kind) => setArrival(side, { kind })"
      />
    </FieldRow>
    <NumberField
      v-if="overlay[side].kind !== 'none'"
      :label="side === 'arrive' ? 'within' : 'over'"
      unit="f"
      :value="overlay[side].frames"
      :min="0"
      :max="1000"
      :step="1"
      @change="(v) => setArrival(side, { frames: Math.round(v) })"
    />
  </template>
</template>
