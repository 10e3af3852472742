<script setup lang="ts">
import { computed } from 'vue';
import { KIT_SECONDS, SOUND_KIT } from '@tender-orbit/core/audio';
import { LOW_PASS, SOUND_PROPERTIES, type PromoSound, type SoundValues } from '@tender-orbit/core/document';
import KeyEase from './KeyEase.vue';
import KeyedFields from './KeyedFields.vue';
import { useSoundValues } from './use-sound-values.ts';
import { CheckField, NumberField, TextField, UiButton } from '../ui/index.ts';
import { useAudition } from './use-audition.ts';
import { usePromo } from './use-promo.ts';

/** A sound besides the music: what it is made of, where its accent falls, how it is heard. */
const { sound } = defineProps<{ sound: PromoSound }>();
const { editSound, editSource } = usePromo();
const { playing, toggle } = useAudition();
const source = computed(() => sound.source);
const keys = useSoundValues(() => sound);
const KEYED: ReadonlyArray<keyof SoundValues> = ['gain', 'pan'];

interface NumberOf {
  label: string;
  unit: string;
  at: string;
  min: number;
  max: number;
  step: number;
  usual?: number;
  factor?: number;
}
const MADE: readonly NumberOf[] = [
  { label: 'Length', unit: 's', at: 'seconds', min: KIT_SECONDS.least, max: KIT_SECONDS.most, step: 0.05 },
  { label: 'Pitch', unit: 'st', at: 'pitch', min: -36, max: 36, step: 1, usual: 0 },
  { label: 'Weight', unit: '%', at: 'weight', min: 0, max: 100, step: 1, usual: 50, factor: 100 },
  { label: 'Seed', unit: '', at: 'seed', min: 0, max: 1000000, step: 1 },
];
const FILE: readonly NumberOf[] = [
  { label: 'Begins at', unit: 's', at: 'trim', min: 0, max: 36000, step: 0.05, usual: 0 },
  { label: 'Length', unit: 's', at: 'seconds', min: 0.01, max: 36000, step: 0.05 },
];
const MIX: readonly NumberOf[] = [
  { label: 'Pan at the end', unit: '%', at: 'panTo', min: -100, max: 100, step: 1, usual: 0, factor: 100 },
  { label: 'Fade in', unit: 's', at: 'fadeIn', min: 0, max: 60, step: 0.05, usual: 0 },
  { label: 'Fade out', unit: 's', at: 'fadeOut', min: 0, max: 60, step: 0.05, usual: 0 },
  { label: 'Ducks the music', unit: 'dB', at: 'duck', min: 0, max: 40, step: 1, usual: 0 },
];
/** A pan that is keyed goes where its keys say. */
const mix = computed(() => MIX.filter((field) => field.at !== 'panTo' || keys.keyed('pan') === 'none'));
const ofSource = computed(() => (source.value.kind === 'made' ? MADE : FILE));
function sourceValue({ at, factor = 1 }: NumberOf): number {
  const owner = source.value.kind === 'made' ? source.value.sound : source.value;
  return (owner as unknown as Record<string, number>)[at] * factor;
}
const mixValue = ({ at, factor = 1 }: NumberOf): number => (sound as unknown as Record<string, number>)[at] * factor;
function setSource({ label, at, factor = 1 }: NumberOf, value: number, gesture: string): void {
  const whole = at === 'seed' ? Math.round(value) : value / factor;
  editSource(sound.id, `Change ${label.toLowerCase()} of sound`, { [at]: whole }, gesture);
}
function setMix({ label, at, factor = 1 }: NumberOf, value: number, gesture: string): void {
  editSound(sound.id, `Change ${label.toLowerCase()} of sound`, { [at]: value / factor }, gesture);
}
/** Where a low-pass is open at both ends there is none. */
function sweep(end: number, to: number, gesture: string): void {
  const next = [...(sound.sweep ?? [LOW_PASS.most, LOW_PASS.most])].with(end, to) as [number, number];
  const open = next.every((corner) => corner >= LOW_PASS.most);
  editSound(sound.id, 'Sweep sound', { sweep: open ? undefined : next }, gesture);
}
function rename(text: string): void {
  const name = text.trim();
  if (name) editSound(sound.id, 'Rename sound', { name });
}
</script>

<template>
  <h2 class="clip">{{ sound.name }}</h2>
  <p v-if="source.kind === 'made'" class="dim use">{{ SOUND_KIT[source.sound.kind].use }}.</p>
  <TextField :value="sound.name" label="Name of the sound" maxlength="120" @change="rename" />
  <div class="row">
    <CheckField label="Heard" :value="sound.on" @change="(on) => editSound(sound.id, 'Switch sound', { on })" />
    <span class="spread" />
    <UiButton data-test="audition" @click="toggle(source)">{{ playing ? 'Stop' : 'Listen' }}</UiButton>
  </div>
  <NumberField
    label="Accent at"
    unit="f"
    :value="sound.at + 1"
    :min="1"
    :max="100001"
    :step="1"
    @change="(v, g) => editSound(sound.id, 'Move sound', { at: Math.round(v) - 1 }, g)"
  />
  <NumberField
    v-for="field in ofSource"
    :key="`source ${field.at}`"
    v-bind="field"
    :value="sourceValue(field)"
    @change="(v, g) => setSource(field, v, g)"
  />
  <KeyedFields :of="keys" :properties="SOUND_PROPERTIES" :paths="KEYED" />
  <KeyEase :thing="sound.id" :frame="keys.at.value" />
  <NumberField
    v-for="field in mix"
    :key="field.at"
    v-bind="field"
    :value="mixValue(field)"
    @change="(v, g) => setMix(field, v, g)"
  />
  <CheckField
    label="Reversed"
    :value="sound.reverse ?? false"
    @change="(on) => editSound(sound.id, 'Reverse sound', { reverse: on || undefined })"
  />
  <NumberField
    v-for="(label, end) in ['Low-pass', 'Low-pass at the end']"
    :key="label"
    :label="label"
    unit="Hz"
    :value="(sound.sweep ?? [LOW_PASS.most, LOW_PASS.most])[end]"
    :min="LOW_PASS.least"
    :max="LOW_PASS.most"
    :step="100"
    :usual="LOW_PASS.most"
    @change="(v, g) => sweep(end, v, g)"
  />
</template>

<style scoped>
.use {
  margin: 0 0 4px;
}
</style>
