import { newCamera, newEnvironment, newSweep, threeSoftboxes } from './kinds/index.ts';
import type { SetDocument } from './types.ts';

/** A lit studio with nothing in it yet. */
export function newSet(name: string): SetDocument {
  return {
    version: 9,
    name,
    products: [],
    surfaces: [newSweep()],
    lights: threeSoftboxes(),
    environment: newEnvironment(),
    cameras: [newCamera('hero', 'Hero')],
    effects: [],
    nulls: [],
    view: 'neutral',
  };
}
