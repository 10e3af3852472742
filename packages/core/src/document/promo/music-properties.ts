import { number, share, type NumberProperty } from '../../properties/index.ts';
import type { Track } from '../shot/index.ts';
import { LOW_PASS, type PromoDocument, type PromoSound } from './types.ts';

/** What keys of the music are of. Their frames are the promo's. */
export const MUSIC_THING = 'music';

const gain = number('Gain', 'dB', -60, 24, { step: 0.5, usual: 0 });

/** Values of the music that keys can hold, by the paths of its tracks: they take the place of what is set for all of it. */
export const MUSIC_PROPERTIES: Record<'gain' | 'lowPass', NumberProperty> = {
  gain,
  lowPass: number('Low-pass', 'Hz', LOW_PASS.least, LOW_PASS.most, { step: 100, usual: LOW_PASS.most }),
};

/** Values of a sound that keys can hold; their frames count from its accent. */
export interface SoundValues {
  gain: number;
  pan: number;
}
export const SOUND_PROPERTIES: Record<keyof SoundValues, NumberProperty> = {
  gain,
  pan: share('Pan', { min: -1, max: 1, usual: 0 }),
};

/** Values of a sound as it says them: where it goes from side to side, as it begins. */
export const ownSoundValues = ({ gain: own, pan }: PromoSound): SoundValues => ({ gain: own, pan });

/** Keys of a sound's values. */
export function soundTracks({ tracks }: Pick<PromoDocument, 'tracks'>, id: string): Track[] {
  return tracks.filter((t) => t.thing === id && t.path in SOUND_PROPERTIES);
}
