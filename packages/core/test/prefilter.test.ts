import { expect } from 'chai';
import { harmonicsOf, prefilteredCube, type CubeLevel, type Panorama } from '../src/light/index.ts';

/** A room whose light is a function of the way that one looks. */
function room(light: (x: number, y: number, z: number) => number[], width = 128): Panorama {
  const height = width / 2;
  const data = new Float32Array(width * height * 3);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const down = ((row + 0.5) / height) * Math.PI;
      const round = (1 - (column + 0.5) / width) * 2 * Math.PI;
      const [x, y, z] = [Math.sin(down) * Math.sin(round), Math.cos(down), Math.sin(down) * Math.cos(round)];
      data.set(light(x, y, z), (row * width + column) * 3);
    }
  return { width, height, data };
}
/** The texel next to the middle of a face. */
const middle = ({ size, data }: CubeLevel, face: number): number[] => [
  ...data.subarray(((face * size + size / 2) * size + size / 2) * 4).subarray(0, 3),
];
const FACES = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
];

describe('a room as a cube of what is mirrored', () => {
  it('is the room itself in its first level, each face where OpenGL has it', () => {
    const [first] = prefilteredCube(
      room((x, y, z) => [2 + x, 2 + y, 2 + z]),
      64,
    );
    FACES.forEach((way, face) => {
      const seen = middle(first, face);
      way.forEach((v, c) => expect(seen[c]).closeTo(2 + v, 0.04));
    });
    // The upper left of +X looks up and to +Z, that of +Y to -X and -Z.
    const corner = 1 / Math.sqrt(3);
    [
      [0, corner, corner, corner],
      [2, -corner, corner, -corner],
    ].forEach(([face, ...way]) => {
      const from = face * 64 * 64 * 4;
      way.forEach((v, c) => expect(first.data[from + c]).closeTo(2 + v, 0.04));
    });
  });

  it('halves down to eight texels a side, all of one light where the room is', () => {
    const levels = prefilteredCube(
      room(() => [0.5, 1, 2]),
      64,
    );
    expect(levels.map((l) => l.size)).deep.equal([64, 32, 16, 8]);
    for (const { data } of levels)
      [0.5, 1, 2, 1].forEach((wanted, c) => {
        const farthest = data.reduce((far, v, i) => (i % 4 === c ? Math.max(far, Math.abs(v - wanted)) : far), 0);
        expect(farthest).below(1e-5);
      });
  });

  it('ends in what a matt surface gets: two thirds of what light grows along its normal', () => {
    const levels = prefilteredCube(
      room((x, y, z) => [2 + x, 2 + y, 2 + z]),
      64,
    );
    const last = levels[levels.length - 1];
    const half = (1 / last.size) ** 2;
    const along = 1 / Math.sqrt(1 + 2 * half);
    FACES.forEach((way, face) => {
      const seen = middle(last, face);
      way.forEach((v, c) => v !== 0 && expect(seen[c]).closeTo(2 + (2 / 3) * v * along, 0.01));
    });
  });

  it('blurs by the lobe: the mean cosine of what is mirrored is that of its GGX distribution', () => {
    const levels = prefilteredCube(
      room((_x, y) => [2 + y, 1, 1]),
      128,
    );
    levels.slice(1, -1).forEach((level, i) => {
      const alpha = (1 - Math.sqrt(1 - (i + 1) / (levels.length - 1))) ** 2;
      // Light that is mirrored at half vectors as D has them, weighted by the cosine, by plain sums.
      let [sum, all] = [0, 0];
      const steps = 20_000;
      for (let k = 0; k < steps; k++) {
        const u = (k + 0.5) / steps;
        const square = (1 - u) / (1 + (alpha * alpha - 1) * u);
        const z = 2 * square - 1;
        if (z <= 0) continue;
        sum += z * z;
        all += z;
      }
      const half = (1 / level.size) ** 2;
      const along = 1 / Math.sqrt(1 + 2 * half);
      expect(middle(level, 2)[0]).closeTo(2 + (sum / all) * along, 0.02);
    });
  });

  it('keeps a lamp where it is, wider from level to level', () => {
    const levels = prefilteredCube(
      room((x, _y, z) => (x > 0.995 ? [50, 50, 50] : [z * 0, 0, 0]), 256),
      128,
    );
    const [, ...peaks] = levels.map((level) => middle(level, 0)[0]);
    peaks.reduce((before, now) => {
      expect(now).below(before);
      return now;
    });
    for (const level of levels) expect(middle(level, 0)[0]).above(20 * middle(level, 1)[0]);
  });

  it('lights a matt surface by nine numbers as by the whole room, turned with it', () => {
    const levels = prefilteredCube(
      room((x, y, z) => [2 + x, 2 + y * z, 2 + x * x - 0.5 * z]),
      64,
    );
    const last = levels[levels.length - 1];
    const turn = 0.7;
    const sh = harmonicsOf(last, turn);
    /** Irradiance by the cosine's own bands, over pi. */
    const lit = ([x, y, z]: number[], c: number): number => {
      const of = (i: number): number => sh[i * 3 + c];
      const first = 0.886227 * of(0) + 1.023328 * (y * of(1) + z * of(2) + x * of(3));
      const second = 0.858086 * (x * y * of(4) + y * z * of(5) + x * z * of(7));
      return (first + second + (0.743125 * z * z - 0.247708) * of(6) + 0.429043 * (x * x - y * y) * of(8)) / Math.PI;
    };
    const mean = ([x, y, z]: number[], c: number): number =>
      [2 + (2 / 3) * x, 2 + 0.25 * y * z, 2 + 1 / 3 + 0.25 * (x * x - 1 / 3) - z / 3][c];
    for (const way of [...FACES, [0.6, 0.64, 0.48], [-0.48, -0.6, 0.64]]) {
      const [x, y, z] = way;
      // The room's +Z has gone towards +X.
      const turned = [x * Math.cos(turn) + z * Math.sin(turn), y, z * Math.cos(turn) - x * Math.sin(turn)];
      for (let c = 0; c < 3; c++) expect(lit(turned, c)).closeTo(mean(way, c), 0.02);
    }
  });
});
