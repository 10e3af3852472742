<script setup lang="ts">
import { computed } from 'vue';
import { measureLoudness, type Sound } from '@tender-orbit/core/audio';
import type { MusicUse } from '@tender-orbit/core/document';
import { usePromo } from './use-promo.ts';
import { FieldRow, SelectField, optionsOf } from '../ui/index.ts';

/** How loud the promo is, and how loud it is to be. */
const { music, track } = defineProps<{ music: MusicUse; track: Sound | null }>();
const { editMusic } = usePromo();
const measured = computed(() => (track && track.left.length > 0 ? measureLoudness(track) : null));
const TARGETS = optionsOf<'none' | '-14' | '-16' | '-23'>({
  none: 'as it is',
  '-14': '-14 LUFS',
  '-16': '-16 LUFS',
  '-23': '-23 LUFS, broadcast',
});
const target = computed(() => (music.loudness === undefined ? 'none' : String(music.loudness)) as 'none');
const options = computed(() =>
  TARGETS.some(({ value }) => value === target.value)
    ? TARGETS
    : [...TARGETS, { value: target.value, title: `${target.value} LUFS` }],
);
const short = computed(() => {
  const { loudness } = music;
  return loudness !== undefined && measured.value ? loudness - measured.value.integrated : 0;
});
const told = (value: number): string => (Number.isFinite(value) ? value.toFixed(1) : 'silent');
</script>

<template>
  <FieldRow label="Loudness">
    <SelectField
      label="Loudness"
      :options="options"
      :value="target"
      @change="(to) => editMusic('Set loudness', { loudness: to === 'none' ? undefined : Number(to) })"
    />
  </FieldRow>
  <dl v-if="measured" aria-label="Measured loudness" class="mono">
    <dt>Integrated</dt>
    <dd>{{ told(measured.integrated) }} LUFS</dd>
    <dt>Loudest 3 s</dt>
    <dd>{{ told(measured.shortTerm) }} LUFS</dd>
    <dt>Range</dt>
    <dd>{{ measured.range.toFixed(1) }} LU</dd>
    <dt>True peak</dt>
    <dd>{{ measured.truePeak.toFixed(1) }} dBTP</dd>
  </dl>
  <p v-if="short > 0.15" class="dim">
    {{ short.toFixed(1) }} LU quieter than asked for: its peaks are kept below -1 dBTP.
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
