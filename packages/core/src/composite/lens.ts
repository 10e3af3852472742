import type { LayerOf } from '../document/index.ts';
import { blurPlate, blurred } from './blur.ts';
import type { Plate, Plates } from './plate.ts';
import { inBands, type RowStep } from './rows.ts';

type Lens = LayerOf<'lens'>;

/** How much farther from the middle red lies than green at the corner, at full fringing; blue as much nearer. */
const FRINGE = 0.006;
/** Widths of the bloom's parts as shares of its size, and their weights: a core in a wide halo. */
const BLOOM = [
  [0.12, 0.45],
  [0.4, 0.35],
  [1, 0.2],
] as const;
/** How strong grain is at its full strength, in the middle tones. */
const GRAIN = 0.22;
const HALATION_SIZE = 0.012;
const HALATION = [1, 0.28, 0.06] as const;

/**
 * What a lens and film do to a picture, in this order: distortion and lateral fringing (one look-up), bloom (light goes elsewhere,
 * none is made), halation round what is brighter than white, vignette (natural, after the fourth power of the cosine), grain. The
 * same at every size of the picture.
 */
export function applyLens(plates: Plates, plate: Plate, lens: Lens, frame: number): void {
  const { kernel } = plates;
  const { at, width, height } = plate;
  const count = width * height;
  plates.within(() => {
    if (lens.distortion === 0 && !(lens.fringing > 0)) return;
    // A vector that is read may go on over the end of the last plane.
    const planes = plates.floats(3 * (count + 3) + 4);
    kernel.split(at, count, planes.at);
    kernel.bend(planes.at, width, height, at, lens.distortion, FRINGE * lens.fringing);
  });
  plates.within(() => {
    // What needs no more than a pixel itself is done band by band, up to where the next needs them all.
    let steps: RowStep[] = [];
    if (lens.bloom > 0) {
      const halo = plates.raw(width, height);
      const parts = BLOOM.map(([size, weight]) => [lens.bloomSize * size * height, weight] as const);
      blurred(plates, plate, parts, halo);
      steps.push((rows, top) =>
        kernel.mixColours(rows.at, halo.at + top * width * 16, width * rows.height, lens.bloom),
      );
    }
    if (lens.halation > 0) {
      inBands(plates, plate, steps);
      const glow = plates.raw(width, height);
      kernel.overWhite(at, glow.at, count);
      blurPlate(plates, glow, HALATION_SIZE * height);
      const [r, g, b] = HALATION.map((v) => v * lens.halation);
      steps = [(rows, top) => kernel.addTinted(rows.at, glow.at + top * width * 16, width * rows.height, r, g, b)];
    }
    if (lens.vignette > 0)
      steps.push((rows, top) => kernel.vignette(rows.at, width, height, top, top + rows.height, lens.vignette));
    if (lens.grain > 0) steps.push(grainOf(plates, plate, lens, frame));
    inBands(plates, plate, steps);
  });
}

/** Grain as large as it is said to be, a little more than a pixel at least: finer grain is none. */
function grainOf(
  plates: Plates,
  { width, height }: Plate,
  { grain: strength, grainSize, seed }: Lens,
  frame: number,
): RowStep {
  const cell = Math.max(0.5, grainSize * height);
  const [columns, lines] = [Math.ceil(width / cell) + 2, Math.ceil(height / cell) + 2];
  const points = plates.floats((columns * lines + columns) * 4 + width * 2);
  const salt = Math.imul(frame + 1, 0x9e3779b1) ^ Math.imul(seed + 1, 0x85ebca6b);
  plates.kernel.grainPoints(points.at, columns, lines, width, cell, salt);
  return (rows, top) =>
    plates.kernel.grain(
      ...([rows.at, width, top, top + rows.height] as const),
      ...([points.at, columns, lines, cell, strength * GRAIN] as const),
    );
}
