import {
  ownSoundValues,
  SOUND_PROPERTIES,
  soundTracks,
  type PromoSound,
  type SoundValues,
} from '@tender-orbit/core/document';
import { keyedValues, soundSpan } from '@tender-orbit/core/promo';
import { secondsToFrames } from '@tender-orbit/core/time';
import { toRaw } from 'vue';
import { useCampaign } from '../stores/index.ts';
import { useKeyedValues, type KeyedValues } from './use-keyed-values.ts';
import { usePromo } from './use-promo.ts';

/** Gain and pan of a sound at the playhead; their keys count from its accent. */
export function useSoundValues(sound: () => PromoSound): KeyedValues<SoundValues> {
  const campaign = useCampaign();
  const { promo, editSound } = usePromo();
  return useKeyedValues<SoundValues>({
    ...{ thing: () => sound().id, noun: 'sound', properties: SOUND_PROPERTIES },
    span: () => {
      const { from, to } = soundSpan(sound(), campaign.rate);
      const [first, last] = [from, to].map((seconds) => Math.floor(secondsToFrames(seconds, campaign.rate)));
      return { start: sound().at, length: Math.max(1, last - first), first: first - sound().at };
    },
    values: () =>
      promo.value
        ? keyedValues(
            ownSoundValues(sound()),
            soundTracks(promo.value, sound().id),
            SOUND_PROPERTIES,
            toRaw(promo.value),
          )
        : () => ownSoundValues(sound()),
    plain: (label, values, gesture) => editSound(sound().id, label, values, gesture),
  });
}
