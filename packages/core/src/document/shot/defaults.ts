import type { ShotDocument } from './types.ts';

export function newShot(name: string, set: string, camera: string, length: number): ShotDocument {
  return {
    ...{ version: 9, name, set, camera, length, seed: 1 },
    ...{ tracks: [], eases: [], paths: [], rules: [], recipes: [], other: null, layers: [], musicFrom: null },
  };
}
