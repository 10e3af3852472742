import { number, type NumberProperty } from '../../properties/index.ts';
import { LOW_PASS } from './types.ts';

/** What keys of the music are of. Their frames are the promo's. */
export const MUSIC_THING = 'music';

/** Values of the music that keys can hold, by the paths of its tracks: they take the place of what is set for all of it. */
export const MUSIC_PROPERTIES: Record<'gain' | 'lowPass', NumberProperty> = {
  gain: number('Gain', 'dB', -60, 24, { step: 0.5, usual: 0 }),
  lowPass: number('Low-pass', 'Hz', LOW_PASS.least, LOW_PASS.most, { step: 100, usual: LOW_PASS.most }),
};
