import {
  newCamera,
  newCard,
  newSet,
  newShot,
  plainItem,
  type Key,
  type Rule,
  type RuleDoes,
  type SetCamera,
  type SetDocument,
  type SetProduct,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';

/** A set to move things on: three jars in a row, a camera before them, a light and a flag. */
export function movesSet(): SetDocument {
  const jar = (id: string, x: number): SetProduct => ({
    ...plainItem(),
    ...{ id, name: id, product: 'jar', position: [x, 0, 0] },
  });
  const set = newSet('Studio');
  set.products = [jar('a', -0.2), jar('b', 0), jar('c', 0.2)];
  set.cameras = [newCamera('hero', 'Hero', { position: [0, 0.2, 1], aim: [0, 0.1, 0], focalLength: 50 })];
  set.lights = [
    { ...set.lights[0], id: 'strip', name: 'Strip', position: [0, 0.4, 0.6], aim: [0, 0.1, 0], lumens: 800 },
  ];
  set.surfaces = [newCard('flag', 'Flag', '#101010', { position: [0, 0.1, 0.5], aim: [0, 0.1, 1] })];
  return set;
}

export const movesShot = (values: Partial<ShotDocument> = {}): ShotDocument => ({
  ...newShot('Shot', 'set', 'hero', 48),
  ...values,
});

export const keysOf = (...at: Array<[frame: number, value: number]>): Array<Key<number>> =>
  at.map(([frame, value]) => ({ frame, value, ease: 'linear' }));

export const ruleOf = (thing: string, path: string, does: RuleDoes, id = `${does.kind} of ${thing}`): Rule => ({
  ...{ id: id.replaceAll(' ', '-'), name: does.kind, thing, path, muted: false },
  ...does,
});

/** A product, camera or other thing as it is at a frame. */
export function thingAt<T = SetProduct>(set: SetDocument, shot: ShotDocument, id: string, frame: number): T {
  const posed = poseSet(compileMoves(set, shot), frame);
  return [...posed.products, ...posed.lights, ...posed.surfaces, ...posed.cameras, ...posed.nulls].find(
    (t) => t.id === id,
  ) as T;
}

export const cameraAt = (set: SetDocument, shot: ShotDocument, frame: number): SetCamera =>
  thingAt<SetCamera>(set, shot, 'hero', frame);

export const distance = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, i) => v - b[i]));
