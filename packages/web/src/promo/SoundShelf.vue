<script setup lang="ts">
import { mdiPlay } from '@mdi/js';
import { KIT_KINDS, SOUND_KIT, type KitKind } from '@tender-orbit/core/audio';
import { addSounds, newKitSound } from '@tender-orbit/core/document';
import { soundOfMove } from '@tender-orbit/core/promo';
import { ref, toRaw } from 'vue';
import { useCampaign, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { IconButton, PickCard, UiButton } from '../ui/index.ts';
import { useAudition } from './use-audition.ts';
import { useFocus } from './use-focus.ts';
import { usePromo } from './use-promo.ts';

/** Sounds that are made by code, sound files, and the sounds that a cut asks for. */
const emit = defineEmits<{ file: [] }>();
const { promo, addKitSound, chosenClips, run, soundTheCut } = usePromo();
const campaign = useCampaign();
const notices = useNotices();
const { modelsOf, focusOf } = useFocus();
const busy = ref(false);
const { playing, toggle } = useAudition();
async function soundTheMove(): Promise<void> {
  busy.value = true;
  await notices.guard(async () => {
    const plain = toRaw(promo.value!);
    await modelsOf(plain);
    const lengths = new Map(campaign.takes.map((t) => [t.id, t.length]));
    const source = { focusOf, takeAspect: campaign.aspect, takeLength: (take: string) => lengths.get(take) ?? 0 };
    const sounds = chosenClips.value.flatMap(
      (clip) => soundOfMove(plain, clip, campaign.rate, freshId('sound'), source) ?? [],
    );
    if (sounds.length > 0) run(addSounds(sounds, 'Sound the move'));
    else
      notices.refuse(
        'Nothing goes across the picture in this clip, or comes nearer: a sound is put at the playhead by its name.',
      );
  });
  busy.value = false;
}
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
    :disabled="chosenClips.length === 0 || busy"
    :tip="
      chosenClips.length > 0
        ? 'A whoosh for the move in the chosen clip: as long and as fast as it, from side to side with the product'
        : 'Choose a clip first'
    "
    data-test="sound-move"
    @click="soundTheMove"
  >
    Sound the move
  </UiButton>
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
