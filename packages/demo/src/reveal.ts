import {
  newEmitter,
  newRecipe,
  newShot,
  newSmoke,
  type ShotDocument,
  type SmokeEffect,
} from '@tender-orbit/core/document';

/** Violet and honey smoke that meets before the jar; it is played backwards, so that the jar comes out of it. */
export function revealSmoke(): SmokeEffect {
  const side = (across: -1 | 1, id: string, name: string, colour: string): ReturnType<typeof newEmitter> =>
    newEmitter(id, name, {
      ...{ shape: 'ball', position: [across * 0.125, 0.035, 0.05], width: 0.05, height: 0.06, depth: 0.08 },
      ...{ rate: 14, heat: 45, noise: 0.7, velocity: [-across * 0.3, 0.03, 0.0], colour },
    });
  return newSmoke('reveal', 'Smoke reveal', {
    ...{ visible: false, position: [0, 0, 0.02], width: 0.4, height: 0.26, depth: 0.28 },
    cells: { coarse: 0.0085, normal: 0.005, fine: 0.0032 },
    emitters: [side(-1, 'reveal-left', 'Heather', '#C9A6D8'), side(1, 'reveal-right', 'Honey', '#F2C572')],
    ...{ lift: 0.9, swirl: 7, turbulence: 1.2, eddies: 0.055, dissipation: 0.1, cooling: 0.35 },
    ...{ thickness: 80, albedo: 0.96, anisotropy: 0.35, contrast: 1.15, detail: 0.8, detailSize: 0.008 },
    playback: { backwards: true, speed: 1, offset: 0, loop: false },
  });
}

/** The jar comes out of the smoke while the camera draws near. */
export function revealShot(set: string): ShotDocument {
  const length = 36;
  return {
    ...newShot('Out of the smoke', set, 'hero', length),
    seed: 13,
    tracks: [{ thing: 'reveal', path: 'visible', keys: [{ frame: 0, value: true, ease: 'hold' }] }],
    recipes: [
      newRecipe('near', 'push-in', {
        ...{ start: 0, length: length - 1, ease: 'eased', camera: 'hero' },
        options: { closer: 0.1 },
      }),
    ],
  };
}
