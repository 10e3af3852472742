<script setup lang="ts">
import { mdiPlay } from '@mdi/js';
import { KIT_KINDS, SOUND_KIT, type KitKind } from '@tender-orbit/core/audio';
import { newKitSound } from '@tender-orbit/core/document';
import { IconButton, PickCard, UiButton } from '../ui/index.ts';
import { useAudition } from './use-audition.ts';
import { usePromo } from './use-promo.ts';

/** Sounds that are made by code, sound files, and the sounds that a cut asks for. */
const emit = defineEmits<{ file: [] }>();
const { addKitSound, soundTheCut } = usePromo();
const { playing, toggle } = useAudition();
function listen(kind: KitKind): void {
  if (playing.value) toggle(newKitSound('', kind, 0).source);
  toggle(newKitSound('', kind, 0).source);
}
</script>

<template>
  <p class="dim hint">Press to add: its accent falls on the playhead.</p>
  <div v-for="kind in KIT_KINDS" :key="kind" class="row kit">
    <PickCard class="name" :tip="SOUND_KIT[kind].use" :data-test="`kit-${kind}`" @click="addKitSound(kind)">
      <span>{{ SOUND_KIT[kind].name }}</span><span class="mono dim">{{ SOUND_KIT[kind].seconds }} s</span>
    </PickCard>
    <IconButton
      small
      :icon="mdiPlay"
      :label="`Listen to ${SOUND_KIT[kind].name.toLowerCase()}`"
      @click="listen(kind)"
    />
  </div>
  <UiButton data-test="sound-file" action="promo.sound-file" @click="emit('file')">Bring in a sound</UiButton>
  <UiButton
    tip="Whooshes over moving transitions, hits on flashes and drops, taps as titles land"
    data-test="sound-cut"
    @click="soundTheCut"
  >
    Sound the cut
  </UiButton>
</template>

<style scoped>
.hint {
  margin: 0;
}
.kit {
  gap: 4px;
}
.name {
  flex: 1;
  display: flex;
  justify-content: space-between;
  padding: 5px 8px;
  border-radius: 6px;
  color: var(--bone);
  font: inherit;
  text-align: left;
}
.name:hover {
  background: var(--ink-2);
}
</style>
