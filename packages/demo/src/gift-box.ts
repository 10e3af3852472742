import { BOX_FACES, buildBox, transformMesh } from '@tender-orbit/core/geometry';
import { makeFinish } from '@tender-orbit/core/finish';
import type { Model, ModelImage } from '@tender-orbit/core/interchange';
import { wholeArt } from './jar.ts';

/** Folded gift box, 9 x 12 x 9 cm: base and lid of printed board with a gap between them, art on the front. */
export function makeGiftBox(front: ModelImage): Model {
  const base = buildBox({ size: [0.09, 0.084, 0.09], bevel: 0.0012 });
  const lid = buildBox({ size: [0.0924, 0.036, 0.0924], bevel: 0.0012 });
  const up = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0.0846, 0, 1];
  const neck = buildBox({ size: [0.0872, 0.01, 0.0872], bevel: 0.0006 });
  const neckUp = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0.079, 0, 1];
  return {
    images: [front],
    finishes: [
      makeFinish('Heather board', { baseColor: [0.105, 0.06, 0.135], roughness: 0.62 }),
      makeFinish('Printed front', { roughness: 0.58, textures: { baseColor: wholeArt(0) } }),
      makeFinish('Gold neck', { baseColor: [0.86, 0.62, 0.32], metallic: 1, roughness: 0.35 }),
    ],
    parts: [
      ...base.panels.map((mesh, i) => ({
        name: `Base ${BOX_FACES[i]}`,
        mesh,
        finish: BOX_FACES[i] === 'front' ? 1 : 0,
      })),
      { name: 'Base edges', mesh: base.edges, finish: 0 },
      { name: 'Neck', mesh: transformMesh(neck.edges, neckUp), finish: 2 },
      ...neck.panels.map((mesh, i) => ({ name: `Neck ${BOX_FACES[i]}`, mesh: transformMesh(mesh, neckUp), finish: 2 })),
      ...lid.panels.map((mesh, i) => ({ name: `Lid ${BOX_FACES[i]}`, mesh: transformMesh(mesh, up), finish: 0 })),
      { name: 'Lid edges', mesh: transformMesh(lid.edges, up), finish: 0 },
    ],
  };
}
