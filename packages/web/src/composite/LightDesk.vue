<script setup lang="ts">
import { mdiLightbulbOff, mdiLightbulbOnOutline } from '@mdi/js';
import { setProperties, type Layer, type LayerOf } from '@tender-orbit/core/document';
import { GLOW_PASS, ROOM_PASS } from '@tender-orbit/core/trace';
import { computed } from 'vue';
import type { TakeSummary } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices, useRack } from '../stores/index.ts';
import { ColourSwatch, IconButton, KeyBead, UiButton } from '../ui/index.ts';

/** The lights of a rendered take as faders: how much of each is in the picture, and in which colour. */
const { take } = defineProps<{ take: TakeSummary | undefined }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const rack = useRack();

/** The take of the rack that the desk works on: the chosen one, else the lowest. */
const layer = computed((): LayerOf<'take'> | undefined => {
  const takes = rack.layers.filter((l): l is LayerOf<'take'> => l.kind === 'take');
  return takes.find((l) => l.id === rack.chosen) ?? takes[0];
});
const shown = computed(() => (layer.value?.take ? campaign.takes.find(({ id }) => id === layer.value!.take) : take));
const lights = computed(() => {
  const own = (campaign.set?.lights ?? []).map(({ id, name, mark }) => ({ id, name, mark }));
  return [
    ...own,
    { id: ROOM_PASS, name: 'Room', mark: 'var(--bone-dim)' },
    { id: GLOW_PASS, name: 'Glowing parts', mark: 'var(--honey)' },
  ];
});
type Light = (typeof lights.value)[number];
/** A fader's way is the root of its level, so that 1 lies in the middle and little light has room. */
const MIDDLE = 50;
const toWay = (level: number): number => Math.sqrt(level) * MIDDLE;
const toLevel = (way: number): number => Math.round((way / MIDDLE) ** 2 * 100) / 100;

function valueOf(light: Light, name: 'level' | 'colour' | 'visible'): number | string | boolean {
  const fader = layer.value && rack.faderOf(layer.value.id, light.id);
  return fader
    ? (rack.value(fader, name) as number | string | boolean)
    : { level: 1, colour: '#FFFFFF', visible: true }[name];
}
const levelOf = (light: Light): number => valueOf(light, 'level') as number;
const isOn = (light: Light): boolean => valueOf(light, 'visible') as boolean;
function keyedOf(light: Light): 'key' | 'track' | 'none' {
  const fader = layer.value && rack.faderOf(layer.value.id, light.id);
  return fader ? rack.isKeyed(fader.id, 'level') : 'none';
}
function set(light: Light, name: 'level' | 'colour' | 'visible', to: number | string | boolean, gesture = ''): void {
  if (layer.value) rack.setFader(layer.value.id, light, name, to, gesture);
}
const faders = computed(() =>
  rack.layers.filter((l): l is LayerOf<'fader'> => l.kind === 'fader' && l.group === layer.value?.id),
);
/** Gives the lights of the set what the faders say, and the faders what they were: the next take is lit so. */
function write(): void {
  const gesture = `desk-${Date.now()}`;
  let written = 0;
  for (const fader of faders.value) {
    const light = campaign.set?.lights.find(({ id }) => id === fader.light);
    // What changes over the shot stays on the desk.
    if (!light || rack.isKeyed(fader.id, 'level') !== 'none') continue;
    const level = rack.value(fader, 'level') as number;
    const values = { lumens: light.lumens * level, ...(!fader.visible && { on: false }) };
    documents.run('set', campaign.setId, setProperties(light.id, values, 'Light as on the desk'), gesture);
    rack.change(fader, 'Light as on the desk', { level: 1, visible: true } as Partial<Layer>, gesture);
    written++;
  }
  notices.done(
    written > 0
      ? 'The lights of the set are as bright as the desk has them; colours and keyed levels stay here. Start a take to see it.'
      : 'Nothing on the desk can be written to lights of the set.',
  );
}
</script>

<template>
  <section class="card desk" aria-label="Light desk" data-test="light-desk">
    <div class="row">
      <slot />
      <span class="spread" />
      <UiButton
        :disabled="faders.length === 0"
        tip="Gives the lights of the set these levels"
        data-test="write-lights"
        @click="write"
        >Write to the set</UiButton
      >
    </div>
    <p v-if="!layer" class="dim">Put a take on the rack: the desk mixes its lights.</p>
    <p v-else-if="shown && !shown.lights" class="dim">
      "{{ shown.name }}" does not keep its lights. Start a take with "Keep each light", and mix them here without
      rendering again.
    </p>
    <div v-else class="faders scroll">
      <div
        v-for="light in lights"
        :key="light.id"
        class="fader"
        :data-test="`fader-${light.id}`"
        :style="{ '--mark': light.mark }"
      >
        <v-slider
          direction="vertical"
          :thumb-size="12"
          :track-size="4"
          class="ui-fader"
          :model-value="toWay(levelOf(light))"
          :min="0"
          :max="100"
          :step="0.5"
          :disabled="!isOn(light)"
          :aria-label="`Level of ${light.name}`"
          hide-details
          @update:model-value="(way: number) => set(light, 'level', toLevel(way), `fader ${light.id}`)"
        />
        <span class="side">
          <span class="clip name" :title="light.name">{{ light.name }}</span>
          <span class="row">
            <KeyBead
              :label="`Level of ${light.name}`"
              :keyed="keyedOf(light)"
              @key="layer && rack.keyFader(layer.id, light)"
            />
            <span class="mono">{{ levelOf(light).toFixed(2) }}x</span>
          </span>
          <span class="row">
            <IconButton
              small
              :icon="isOn(light) ? mdiLightbulbOnOutline : mdiLightbulbOff"
              :label="isOn(light) ? `Switch ${light.name} off` : `Switch ${light.name} on`"
              :pressed="!isOn(light)"
              @click="set(light, 'visible', !isOn(light))"
            />
            <ColourSwatch
              :label="`Colour of ${light.name}`"
              :value="valueOf(light, 'colour') as string"
              @change="(colour, gesture) => set(light, 'colour', colour, gesture)"
            />
          </span>
        </span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 6px;
  min-height: 0;
  padding: 6px 10px;
}
.faders {
  display: flex;
  gap: 8px;
  height: 100%;
}
.fader {
  display: grid;
  flex: none;
  grid-template: minmax(0, 1fr) / 22px 84px;
  gap: 4px;
  padding: 4px 6px;
  border-radius: 6px;
  border-left: 3px solid var(--mark);
  background: var(--ink-2);
}
.side {
  display: grid;
  align-content: center;
  gap: 2px;
  font-size: 12px;
}
.name {
  font-weight: 600;
}
</style>
