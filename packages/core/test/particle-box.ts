import {
  newParticles,
  newSet,
  newShot,
  plainItem,
  type ParticlesEffect,
  type ProductDocument,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { type Mesh } from '@tender-orbit/core/geometry';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, type Slot } from '@tender-orbit/core/scene';
import { ParticleRun, type ParticleFrame } from '@tender-orbit/core/simulate';
import { kernel } from './smoke-box.ts';

export const RATE = { num: 25, den: 1 };
export const SECONDS = 1 / 25;
export const jar: ProductDocument = builtDocument('Jar', TURNED_PRESETS.jar!);
export const meshes: Mesh[] = builtMeshes(modelKey(jar))!;
export const products = new Map([['jar', jar]]);
export const context = {
  products,
  aspect: 16 / 9,
  meshes: (key: string) => (key === modelKey(jar) ? meshes : undefined),
};
export const HOST = { kernel, state: () => undefined };

export const still: Partial<ParticlesEffect> = {
  ...{ rate: 0, gravity: 0, drag: 0, turbulence: 0, spread: 0, lifeSpread: 0, sizeSpread: 0, tumble: 0, life: 100 },
};
export function setWith(values: Partial<ParticlesEffect> = {}): SetDocument {
  const set = newSet('Studio');
  set.products = [{ ...plainItem(), id: 'jar', name: 'Jar', product: 'jar', position: [0, 0, 0] }];
  set.effects = [
    newParticles('p', 'Petals', { ...still, source: 'point', position: [0.5, 1, 0], burst: 1, ...values }),
  ];
  return set;
}
export const shotOf = (values: Partial<ShotDocument> = {}): ShotDocument => ({
  ...newShot('Shot', 'set', 'hero', 60),
  ...values,
});
export function runIn(set: SetDocument, shot = shotOf()): ParticleRun {
  const program = compile(set, shot);
  const run = new ParticleRun(program, program.effects[0] as Slot<ParticlesEffect>, context, 'fine', RATE);
  run.begin(HOST);
  return run;
}
export function played(values: Partial<ParticlesEffect>, frames: number): ParticleFrame {
  const run = runIn(setWith(values));
  while (run.frame < frames) run.next();
  return run.result();
}
export const placeOf = ({ data }: ParticleFrame, i = 0): number[] => [...data.subarray(i * 16, i * 16 + 3)];
export const speedOf = ({ data }: ParticleFrame, i = 0): number[] => [...data.subarray(i * 16 + 3, i * 16 + 6)];
