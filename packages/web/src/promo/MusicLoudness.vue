<script setup lang="ts">
import { computed, ref } from 'vue';
import { measureLoudness, type Sound } from '@tender-orbit/core/audio';
import type { MusicUse } from '@tender-orbit/core/document';
import { usePromo } from './use-promo.ts';
import { FieldRow, NumberField, SelectField, optionsOf } from '../ui/index.ts';

/** How loud the promo is, and how loud it is to be. */
const { music, track } = defineProps<{ music: MusicUse; track: Sound | null }>();
const { editMusic } = usePromo();
const measured = computed(() => (track && track.left.length > 0 ? measureLoudness(track) : null));
const TARGETS = optionsOf<'none' | '-14' | '-16' | '-23' | 'own'>({
  none: 'as it is',
  '-14': '-14 LUFS',
  '-16': '-16 LUFS',
  '-23': '-23 LUFS, broadcast',
  own: 'own target',
});
const own = ref(false);
const target = computed(() => {
  if (music.loudness === undefined) return 'none';
  const found = TARGETS.find(({ value }) => value === String(music.loudness));
  return own.value || !found ? 'own' : found.value;
});
const aim = (loudness: number | undefined, gesture?: string): void => editMusic('Set loudness', { loudness }, gesture);
function choose(to: (typeof TARGETS)[number]['value']): void {
  own.value = to === 'own';
  if (to !== 'own') aim(to === 'none' ? undefined : Number(to));
  else if (music.loudness === undefined) aim(-18);
}
const short = computed(() => {
  const { loudness } = music;
  return loudness !== undefined && measured.value ? loudness - measured.value.integrated : 0;
});
const told = (value: number): string => (Number.isFinite(value) ? value.toFixed(1) : 'silent');
</script>

<template>
  <FieldRow label="Loudness">
    <SelectField label="Loudness" :options="TARGETS" :value="target" @change="choose" />
  </FieldRow>
  <NumberField
    v-if="target === 'own'"
    label="Target"
    unit="LUFS"
    :value="music.loudness!"
    :min="-60"
    :max="0"
    :step="0.5"
    @change="aim"
  />
  <dl v-if="measured" aria-label="Measured loudness" class="mono">
    <dt>Integrated</dt>
    <dd>{{ told(measured.integrated) }} LUFS</dd>
    <dt>Short-term, most</dt>
    <dd>{{ told(measured.shortTerm) }} LUFS</dd>
    <dt>Momentary, most</dt>
    <dd>{{ told(measured.momentary) }} LUFS</dd>
    <dt>Range</dt>
    <dd>{{ measured.range.toFixed(1) }} LU</dd>
    <dt>True peak</dt>
    <dd>{{ measured.truePeak.toFixed(1) }} dBTP</dd>
  </dl>
  <p v-if="short > 0.15" class="dim">
    {{ short.toFixed(1) }} LU quieter than asked for: its peaks stay below -1 dBTP, limited by no more than 6 dB.
  </p>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
  margin: 2px 0 6px 20px;
  font-size: 12px;
}
dt {
  color: var(--bone-dim);
}
dd {
  margin: 0;
  text-align: right;
}
</style>
