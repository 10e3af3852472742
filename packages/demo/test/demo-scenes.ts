import {
  newBlock,
  newCard,
  newShot,
  type ProductDocument,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { productOf, readModel } from '@tender-orbit/core/interchange';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import type { EvaluateContext } from '@tender-orbit/core/scene';
import type { Mesh } from '@tender-orbit/core/geometry';
import { demoSet, dressJar, HONEYS, makeModels, type Honey, type StoredArt } from '@tender-orbit/demo';
// The shots that the kept figures are of: they stay when the demo's own change.
import { heroShot, lidShot } from '../../../bench/shots.ts';

export interface DemoScenes {
  context: EvaluateContext;
  scenes: Array<{ name: string; set: SetDocument; shot: ShotDocument; frames: number[] }>;
}

/** The demo's shots, and one in which things stand on each other and much more than places moves. */
export async function demoScenes(): Promise<DemoScenes> {
  const products = new Map<string, ProductDocument>();
  const meshes = new Map<string, Mesh[]>();
  for (const [at, { key, name, fileName, glb }] of (await makeModels()).entries()) {
    const model = await readModel(glb);
    const hash = String(at + 1).repeat(64);
    const document = productOf(name, { fileName, source: hash, model: hash, unit: 'm' }, model);
    const art = Object.fromEntries(
      Object.keys(HONEYS).map((honey, i) => [honey, { asset: String(i).repeat(64), width: 512, height: 256 }]),
    ) as Record<Honey, StoredArt>;
    products.set(key, key === 'jar' ? dressJar(document, art) : document);
    meshes.set(
      hash,
      model.parts.map((part) => part.mesh),
    );
  }
  const tin = builtDocument('Tin', TURNED_PRESETS.tin);
  products.set('tin', tin);
  meshes.set(modelKey(tin), builtMeshes(modelKey(tin))!);
  const set = demoSet({ jar: 'jar', dipper: 'dipper', box: 'box' });
  return {
    context: { products, meshes: (model) => meshes.get(model), aspect: 16 / 9 },
    scenes: [
      { name: 'hero', set, shot: heroShot('set'), frames: [0, 13, 35, 47] },
      { name: 'lid', set, shot: lidShot('set'), frames: [0, 20] },
      { name: 'staged', ...staged(set), frames: [0, 7, 24] },
    ],
  };
}

function staged(demo: SetDocument): { set: SetDocument; shot: ShotDocument } {
  const item = demo.products[0];
  const set: SetDocument = {
    ...demo,
    products: [
      ...demo.products,
      { ...item, id: 'tin', name: 'Tin', product: 'tin', standsOn: 'steps', position: [0.3, 0.01, 0.05], tilt: 30 },
      { ...item, id: 'top', name: 'Top', standsOn: 'tin', variant: 'clover', position: [0.3, 0, 0.05], scale: 0.5 },
      { ...item, id: 'free', name: 'Free', seated: false, position: [-0.3, 0.2, 0], roll: 20 },
    ],
    surfaces: [
      ...demo.surfaces,
      newBlock('steps', 'steps', { name: 'Steps', position: [0.3, 0, 0], turn: 15 }),
      newCard('flag', 'Flag', '#101010'),
    ],
    cameras: demo.cameras.map((c) => ({ ...c, focusOn: 'top' })),
  };
  const keys = (from: number, to: number): ShotDocument['tracks'][number]['keys'] => [
    { frame: 0, value: from, ease: 'eased' },
    { frame: 12, value: (from + 2 * to) / 3, ease: 'eased' },
    { frame: 24, value: to, ease: 'linear' },
  ];
  const track = (thing: string, path: string, from: number, to: number): ShotDocument['tracks'][number] => ({
    ...{ thing, path },
    keys: keys(from, to),
  });
  return {
    set,
    shot: {
      ...newShot('Staged', 'set', demo.cameras[0].id, 25),
      tracks: [
        track('tin', 'tilt', 10, 80),
        track('tin', 'position.2', 0.09, -0.09),
        track('top', 'scale', 0.4, 0.8),
        track('free', 'roll', 0, 270),
        track('steps', 'turn', 0, 40),
        track('flag', 'width', 0.2, 0.6),
        track('sweep', 'roughness', 0.1, 0.9),
        track('key', 'kelvin', 3000, 6500),
        track('rim', 'position.0', 0.5, -0.5),
        track('environment', 'rotation', 0, 90),
        track('environment', 'intensity', 50, 250),
        track(demo.cameras[0].id, 'focalLength', 50, 120),
        track('gone', 'turn', 0, 1),
        track('key', 'nothing', 0, 1),
      ],
    },
  };
}

/** A tableau as plain data; of meshes only their size and sum. */
export function plain(tableau: object): unknown {
  return JSON.parse(
    JSON.stringify(tableau, (_key, value: unknown) =>
      ArrayBuffer.isView(value)
        ? {
            length: (value as Float32Array).length,
            sum: (value as Float32Array).reduce((a: number, v: number) => a + v, 0),
          }
        : value,
    ),
  );
}
