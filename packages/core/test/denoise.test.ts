import { expect } from 'chai';
import { buildTurned } from '@tender-orbit/core/geometry';
import { denoise } from '@tender-orbit/core/trace';
import { floor, LAMBERT, pack, panel, trace } from './studio.ts';

describe('trace: denoising', () => {
  const stripes = {
    width: 8,
    height: 1,
    data: Uint8Array.from(
      Array.from({ length: 8 }, (_, i) => (i % 2 ? [230, 230, 230, 255] : [30, 20, 60, 255])).flat(),
    ),
  };
  const scene = pack({
    images: [stripes],
    things: [
      {
        mesh: floor(2),
        finish: {
          ...LAMBERT,
          baseColor: [0.7, 0.7, 0.7],
          textures: {
            baseColor: {
              image: 0,
              offset: [0, 0],
              rotation: 0,
              scale: [4, 1],
              strength: 1,
              wrap: ['repeat', 'repeat'],
            },
          },
        },
      },
      {
        mesh: buildTurned({
          profile: [
            [0, 0],
            [0.3, 0],
            [0.3, 0.5],
            [0, 0.5],
          ],
          segments: 48,
        }),
        finish: { baseColor: [0.8, 0.3, 0.2], roughness: 0.4 },
      },
    ],
    lights: [panel([1, 1.5, 1], [0, 0.2, 0], 0.8, 0.8, 8)],
    room: 0.3,
    eye: [0, 1.2, 2.2],
    aim: [0, 0.2, 0],
    fov: 40,
  });
  const size = 48;
  const truth = trace(scene, 1024, size).beauty;
  const error = (picture: Float32Array): number =>
    picture.reduce((n, v, i) => n + (v - truth[i]) ** 2 / (truth[i] ** 2 + 0.01), 0) / picture.length;

  it('brings the error of a noisy picture down to less than half', () => {
    const noisy = trace(scene, 8, size, undefined, 7);
    expect(error(noisy.beauty) / error(denoise(noisy))).above(2);
  });

  it('leaves a clean picture nearly alone, art and edges included', () => {
    const clean = trace(scene, 512, size, undefined, 9);
    expect(error(denoise(clean))).below(error(clean.beauty) + 0.004);
  });

  it('invents nothing: no number is lost and no light is negative', () => {
    const out = denoise(trace(scene, 2, size, undefined, 3));
    expect(out.every((v) => Number.isFinite(v) && v >= 0)).equal(true);
  });
});
