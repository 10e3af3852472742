import { expect } from 'chai';
import { applyCube, readCube, writeCube, type Cube } from '@tender-orbit/core/composite';
import { srgbToLinear } from '@tender-orbit/core/finish';
import { seeded } from '@tender-orbit/core/maths';
import { composed, layer, plateOf, plates } from './composite-box.ts';

type Rgb = [number, number, number];

/** Colours through a table. */
function through(cube: Cube, colours: readonly Rgb[], alpha = 1): Rgb[] {
  return plates.within(() => {
    const numbers = colours.flatMap((c) => [...c.map((v) => v * alpha), alpha]);
    const plate = plateOf(colours.length, 1, numbers);
    applyCube(plates, plate, cube);
    return colours.map((_, i) => [0, 1, 2].map((c) => plate.data[i * 4 + c] / alpha) as Rgb);
  });
}
const random = seeded(3);
const COLOURS = Array.from({ length: 200 }, (): Rgb => [random(), random(), random()]);
const near = (is: Rgb[], wanted: readonly Rgb[], within = 2e-6): void =>
  is.forEach((colour, i) => colour.forEach((v, c) => expect(v).closeTo(wanted[i][c], within)));
const lattice = (size: number, of: (rgb: Float64Array) => void): Cube => readCube(writeCube('T', size, of), 't.cube');

describe('composite: tables of colours', () => {
  it('that change nothing change nothing; what is linear is exact between points', () => {
    near(
      through(
        lattice(2, () => undefined),
        COLOURS,
      ),
      COLOURS,
    );
    const mix = ([r, g, b]: Iterable<number> & Rgb): Rgb => [0.2 + 0.3 * r + 0.1 * b, 0.5 * g, 0.9 - 0.4 * r - 0.2 * g];
    const cube = lattice(7, (rgb) => rgb.set(mix([rgb[0], rgb[1], rgb[2]])));
    near(through(cube, COLOURS), COLOURS.map(mix));
    // Through half a cover the colour is the same.
    near(through(cube, COLOURS, 0.5), COLOURS.map(mix));
  });

  it('are read between points by tetrahedra, as barycentric coordinates have it', () => {
    const size = 4;
    const cube = lattice(size, (rgb) => rgb.set([rgb[0] * rgb[1], rgb[1] * rgb[1], Math.sin(3 * rgb[2] * rgb[0])]));
    const point = (r: number, g: number, b: number): number[] => {
      const i = (r + size * (g + size * b)) * 3;
      return [...cube.data.slice(i, i + 3)];
    };
    const wanted = COLOURS.map((colour): Rgb => {
      const t = colour.map((v) => v * (size - 1));
      const corner = t.map((v) => Math.min(size - 2, Math.floor(v)));
      const part = t.map((v, c) => v - corner[c]);
      const order = [0, 1, 2].sort((a, b) => part[b] - part[a]);
      // Corners of the tetrahedron, each a step along the next channel, and what each weighs.
      const weights = [
        1 - part[order[0]],
        part[order[0]] - part[order[1]],
        part[order[1]] - part[order[2]],
        part[order[2]],
      ];
      const at = [...corner] as Rgb;
      const sum = [0, 0, 0];
      weights.forEach((w, n) => {
        if (n > 0) at[order[n - 1]]++;
        point(...at).forEach((v, c) => (sum[c] += w * v));
      });
      return sum as Rgb;
    });
    near(through(cube, COLOURS), wanted);
  });

  it('of curves take each channel by its own; beyond a domain its edge counts', () => {
    const text = 'TITLE "Curve"\nLUT_1D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\n0 1 0\n0.5 0.5 0.25\n1 0 1\n';
    const cube = readCube(text, 'curve.cube');
    expect([cube.title, cube.dimensions, cube.size]).deep.equal(['Curve', 1, 3]);
    near(
      through(cube, [
        [0.5, 0.5, 0.5],
        [1.5, 1, 1.5],
        [-3, 9, 5],
      ]),
      [
        [0.25, 0.75, 0.125],
        [0.75, 0.5, 0.625],
        [0, 0, 1],
      ],
    );
    expect(readCube('LUT_1D_INPUT_RANGE -1 3\nLUT_1D_SIZE 2\n0 0 0\n1 1 1', 'r').min).deep.equal([-1, -1, -1]);
  });

  it('that are broken are told by file and line', () => {
    const told = (text: string): string => {
      try {
        readCube(text, 'look.cube');
      } catch (error) {
        return (error as Error).message;
      }
      return '';
    };
    expect(told('0 0 0')).contain('"look.cube"').contain('line 1 comes before its size');
    expect(told('LUT_3D_SIZE 2\n0 0 0\n1 1')).contain('line 3 needs three numbers');
    expect(told('LUT_3D_SIZE 2\n0 0 nan')).contain('line 2');
    expect(told('LUT_3D_SIZE 2\n0 0 0\n1 1 1')).contain('8 rows of numbers and has 2');
    expect(told('LUT_3D_SIZE 500')).contain('from 2 to 129');
    expect(told('LUT_1D_SIZE 2\nLUT_3D_SIZE 2')).contain('second size');
    expect(told('LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\n0 0 0\n1 1 1')).contain('domain');
    expect(told('<html>')).contain('line 1 is neither');
    expect(told('')).contain('no size');
  });

  it('work on display colours or on light, wherever the layer stands, by their amount', () => {
    const half = lattice(2, (rgb) => rgb.forEach((v, c) => (rgb[c] = v / 2)));
    const grey = (space: 'scene' | 'glass', coded: 'display' | 'linear', opacity = 1): number =>
      composed([layer('solid', { colour: '#C8C8C8', space }), layer('lut', { asset: 'a', space, coded, opacity })], {
        cube: () => half,
      }).data[0];
    const light = srgbToLinear(200 / 255);
    const shown = (v: number): number => Math.round(255 * (1.055 * v ** (1 / 2.4) - 0.055));
    for (const space of ['scene', 'glass'] as const) {
      expect(grey(space, 'display')).closeTo(100, 1);
      expect(grey(space, 'linear')).closeTo(shown(light / 2), 1);
    }
    expect(grey('glass', 'display', 0.5)).closeTo(150, 1);
  });
});
