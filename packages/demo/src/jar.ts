import { buildRelief, buildTurned, filletProfile, type Mesh } from '@tender-orbit/core/geometry';
import { makeFinish, type TextureUse } from '@tender-orbit/core/finish';
import type { Model, ModelImage } from '@tender-orbit/core/interchange';

/** A texture laid once over a part's own uv. */
export function wholeArt(image: number): TextureUse {
  return { image, offset: [0, 0], rotation: 0, scale: [1, 1], strength: 1, wrap: ['clamp', 'repeat'] };
}

/** Height of the hexagonal emboss on the lid: one large cell with six round it, half a millimetre proud. */
function combRelief(x: number, z: number): number {
  const cell = 0.0088;
  let best = Infinity;
  for (let q = -1; q <= 1; q++) {
    for (let r = -1; r <= 1; r++) {
      if (Math.abs(q + r) > 1) continue;
      const cx = cell * 1.04 * 2 * (q + r / 2) * 0.9;
      const cz = cell * 1.04 * Math.sqrt(3) * r * 0.9;
      best = Math.min(best, Math.abs(hexDistance(x - cx, z - cz) - cell * 0.82));
    }
  }
  const ridge = Math.max(0, 1 - best / 0.0011);
  return 0.0006 * ridge * ridge * (3 - 2 * ridge);
}

/** Distance from the centre in the metric whose unit circle is a hexagon with flat sides left and right. */
function hexDistance(x: number, z: number): number {
  const ax = Math.abs(x);
  const az = Math.abs(z);
  return Math.max(ax, ax * 0.5 + az * 0.8660254);
}

/** Heather-honey jar, 6.8 x 9.2 cm: glass with thickness, honey that fills it, embossed lid, paper label. */
export function makeJar(label: ModelImage): Model {
  const glass = filletProfile([
    [0, 0.0012],
    [0.026, 0.0012, 0.001],
    [0.0285, 0, 0.0015],
    [0.034, 0, 0.006],
    [0.034, 0.066, 0.01],
    [0.0294, 0.0735, 0.003],
    [0.0294, 0.086, 0.0008],
    [0.0274, 0.086, 0.0008],
    [0.0274, 0.073, 0.003],
    [0.0315, 0.0655, 0.01],
    [0.0315, 0.0055, 0.005],
    [0, 0.0055],
  ]);
  const honey = filletProfile([
    [0, 0.0053],
    [0.0317, 0.0053, 0.005],
    [0.0317, 0.0645, 0.0035],
    [0.03, 0.0668],
    [0.0288, 0.0662, 0.001],
    [0, 0.0662],
  ]);
  const lid = filletProfile([
    [0.0302, 0.0752],
    [0.0322, 0.0752, 0.0004],
    [0.0326, 0.0764, 0.0004],
    [0.0326, 0.0902, 0.0016],
    [0.0304, 0.0921, 0.0008],
    [0.0292, 0.0915, 0.0003],
    [0.0288, 0.091],
  ]);
  const parts: Array<[string, Mesh]> = [
    ['Glass', buildTurned({ profile: glass, segments: 112 })],
    ['Honey', buildTurned({ profile: honey, segments: 96 })],
    [
      'Label',
      buildTurned({
        profile: [
          [0.03415, 0.0165],
          [0.03415, 0.0575],
        ],
        segments: 96,
        sweep: 312,
      }),
    ],
    ['Lid', buildTurned({ profile: lid, segments: 112 })],
    ['Lid emboss', buildRelief({ radius: 0.0289, y: 0.091, relief: combRelief, cells: 88 })],
  ];
  return {
    images: [label],
    finishes: [
      makeFinish('Clear glass', {
        roughness: 0,
        ior: 1.5,
        transmission: 1,
        thickness: 0.003,
        baseColor: [0.985, 0.992, 0.985],
      }),
      makeFinish('Heather honey', {
        roughness: 0,
        ior: 1.49,
        transmission: 1,
        thickness: 0.06,
        attenuationColor: [0.96, 0.52, 0.07],
        attenuationDistance: 0.034,
      }),
      makeFinish('Laid paper', {
        roughness: 0.78,
        specular: 0.5,
        doubleSided: true,
        textures: { baseColor: wholeArt(0) },
      }),
      makeFinish('Brass lid', { baseColor: [0.86, 0.62, 0.32], metallic: 1, roughness: 0.26, doubleSided: true }),
    ],
    parts: parts.map(([name, mesh], i) => ({ name, mesh, finish: Math.min(i, 3) })),
  };
}
