<script setup lang="ts">
import { LAYERS, type Layer } from '@tender-orbit/core/document';
import type { Properties } from '@tender-orbit/core/properties';
import { computed, ref, watch } from 'vue';
import { useRack } from '../stores/index.ts';
import { CheckField, DialogCard, NumberField, ToggleRow, UiButton } from '../ui/index.ts';

/** Gives other layers some of the values of the chosen one with their keys, or clears those of many. */
const { open } = defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const rack = useRack();

const WAYS = [
  { value: 'copy', label: 'Copy' },
  { value: 'clear', label: 'Clear' },
] as const;
const way = ref<'copy' | 'clear'>('copy');
/** Values by what they are for; what a kind has of its own comes after these. */
const GROUPS: ReadonlyArray<{ title: string; names: readonly string[] }> = [
  {
    title: 'Place and size',
    names: [...['x', 'y', 'scale', 'stretch', 'rotation', 'tilt', 'turn'], ...['anchorX', 'anchorY', 'skew']],
  },
  {
    title: 'In the set',
    names: ['inSet', 'thing', 'azimuth', 'distance', 'lift', 'metres', 'facing'],
  },
  {
    title: 'Shadow and reflection',
    names: [
      ...['shadow', 'shadowX', 'shadowY', 'shadowBlur', 'shadowColour', 'contact'],
      ...['mirror', 'mirrorGap', 'mirrorFall', 'mirrorBlur'],
    ],
  },
  { title: 'Hold and trail', names: ['hold', 'trail', 'trailStep', 'trailFade'] },
  { title: 'Opacity and blend', names: ['opacity', 'blend', 'blur'] },
  {
    title: 'Mask',
    names: [
      ...['mask', 'maskX', 'maskY', 'maskWidth', 'maskHeight', 'maskRotation', 'feather', 'maskInverted'],
      ...['maskGrow', 'maskThing', 'maskFinish', 'maskPath', 'matte', 'matteLayer'],
    ],
  },
  { title: 'Span', names: ['start', 'length'] },
];
const groups = computed(() => {
  const own = rack.layer ? LAYERS[rack.layer.kind].properties : {};
  return [
    ...GROUPS,
    ...Object.entries(own as Properties).map(([name, { label }]) => ({ title: label, names: [name] })),
  ];
});
const picked = ref(new Set<string>());
const chosen = ref(new Set<string>());
const later = ref(0);
/** Layers that can be changed; the chosen one is a target only of clearing. */
const targets = computed((): Layer[] =>
  rack.plates.filter((l) => !l.locked && (way.value === 'clear' || l.id !== rack.layer?.id)),
);

watch(
  () => open,
  (is) => {
    if (!is) return;
    picked.value = new Set([GROUPS[0].title]);
    chosen.value = new Set();
    later.value = 0;
  },
);
function flip(of: 'picked' | 'chosen', key: string, on: boolean): void {
  const held = of === 'picked' ? picked : chosen;
  const next = new Set(held.value);
  if (on) next.add(key);
  else next.delete(key);
  held.value = next;
}
const ready = computed(
  () => picked.value.size > 0 && targets.value.some(({ id }) => chosen.value.has(id)) && !!rack.layer,
);
function run(): void {
  const names = groups.value.filter(({ title }) => picked.value.has(title)).flatMap((g) => g.names);
  const ids = targets.value.map(({ id }) => id).filter((id) => chosen.value.has(id));
  if (way.value === 'clear') rack.clearValues(ids, names);
  else rack.copyValues(rack.layer!, ids, names, later.value);
  emit('close');
}
</script>

<template>
  <DialogCard
    :open="open"
    :title="`Values of ${rack.layer?.name ?? 'a layer'}`"
    :width="480"
    data-test="copy-values"
    @close="emit('close')"
  >
    <ToggleRow label="What to do" :options="WAYS" :value="way" @change="(v) => (way = v)" />
    <div class="columns">
      <fieldset class="scroll">
        <legend>Which values</legend>
        <CheckField
          v-for="{ title } in groups"
          :key="title"
          :label="title"
          :value="picked.has(title)"
          @change="(on) => flip('picked', title, on)"
        />
      </fieldset>
      <fieldset class="scroll">
        <legend>{{ way === 'copy' ? 'To which layers' : 'Of which layers' }}</legend>
        <CheckField
          v-for="{ id, name } in targets"
          :key="id"
          :label="name"
          :value="chosen.has(id)"
          @change="(on) => flip('chosen', id, on)"
        />
        <p v-if="targets.length === 0" class="dim">There is no other layer that is not locked.</p>
      </fieldset>
    </div>
    <NumberField
      v-if="way === 'copy'"
      label="Each later by"
      unit="f"
      :step="1"
      :min="0"
      :max="1000"
      :value="later"
      @change="(v) => (later = Math.round(v))"
    />
    <p class="dim">
      {{
        way === 'copy'
          ? 'Their keys go along; keys that these layers had of those values give way.'
          : 'They get the values that a new layer has, and lose their keys.'
      }}
    </p>
    <div class="row">
      <span class="spread" />
      <UiButton @click="emit('close')">Cancel</UiButton>
      <UiButton tone="primary" :disabled="!ready" data-test="copy-values-run" @click="run">
        {{ way === 'copy' ? 'Copy values' : 'Clear values' }}
      </UiButton>
    </div>
  </DialogCard>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  margin: 10px 0;
}
fieldset {
  max-height: 280px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  font-weight: 600;
}
</style>
