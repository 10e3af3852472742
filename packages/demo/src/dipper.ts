import { buildTurned, filletProfile, type ProfileCorner } from '@tender-orbit/core/geometry';
import { makeFinish } from '@tender-orbit/core/finish';
import type { Model, ModelImage } from '@tender-orbit/core/interchange';

/** Turned beech dipper, 16 cm long, standing on its grooved head. */
export function makeDipper(wood: ModelImage): Model {
  const corners: ProfileCorner[] = [
    [0, 0],
    [0.006, 0, 0.003],
  ];
  const rings = 7;
  for (let i = 0; i < rings; i++) {
    const y = 0.002 + i * 0.0052;
    const r = 0.0088 + 0.0052 * Math.sin(((i + 0.7) / rings) * Math.PI);
    corners.push(
      [r, y + 0.0002, 0.0012],
      [r, y + 0.0032, 0.0012],
      [0.0062, y + 0.0036, 0.0003],
      [0.0062, y + 0.005, 0.0003],
    );
  }
  corners.push([0.0052, 0.0405, 0.003], [0.0036, 0.05, 0.02], [0.0042, 0.12, 0.03], [0.0048, 0.145, 0.004]);
  corners.push(
    [0.0034, 0.1485, 0.001],
    [0.0034, 0.15, 0.001],
    [0.0058, 0.1555, 0.0035],
    [0.004, 0.16, 0.002],
    [0, 0.1605],
  );
  return {
    images: [wood],
    finishes: [
      makeFinish('Oiled beech', {
        roughness: 0.48,
        textures: {
          baseColor: { image: 0, offset: [0, 0], rotation: 0, scale: [1, 1], strength: 1, wrap: ['repeat', 'repeat'] },
        },
      }),
    ],
    parts: [{ name: 'Dipper', mesh: buildTurned({ profile: filletProfile(corners, 4), segments: 56 }), finish: 0 }],
  };
}
