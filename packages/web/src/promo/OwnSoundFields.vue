<script setup lang="ts">
import { computed } from 'vue';
import { newOwnSound, PITCHES, type OwnSound } from '@tender-orbit/core/document';
import { CheckField, FieldRow, NumberField, SelectField } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** How the sound of a film or a cut is heard that a clip or an overlay shows; nothing where there is none. */
const { source, sound = undefined } = defineProps<{
  /** Id of what is shown. */
  source: string;
  sound?: OwnSound;
}>();
/** Null: it is not heard. */
const emit = defineEmits<{ change: [label: string, sound: OwnSound | null, gesture?: string] }>();
const { hasSound } = usePromo();
const there = computed(() => hasSound(source));
const TITLES: Record<OwnSound['pitch'], string> = { kept: 'Kept at any speed', follows: 'Follows the speed' };
const OPTIONS = PITCHES.map((value) => ({ value, title: TITLES[value] }));
</script>

<template>
  <template v-if="there">
    <CheckField
      label="Its sound is heard"
      :value="sound !== undefined"
      data-test="own-sound"
      @change="(on) => emit('change', on ? 'Hear its sound' : 'Mute its sound', on ? newOwnSound() : null)"
    />
    <template v-if="sound">
      <NumberField
        label="Gain"
        unit="dB"
        :value="sound.gain"
        :min="-60"
        :max="24"
        :step="0.5"
        :usual="0"
        @change="(gain, g) => emit('change', 'Change gain of its sound', { ...sound!, gain }, g)"
      />
      <FieldRow label="Pitch">
        <SelectField
          label="Pitch"
          :options="OPTIONS"
          :value="sound.pitch"
          @change="(pitch) => emit('change', 'Change pitch of its sound', { ...sound!, pitch })"
        />
      </FieldRow>
    </template>
  </template>
</template>
