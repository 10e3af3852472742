import type { LayerOf } from '../document/index.ts';
import { hashed } from '../maths/index.ts';
import { gaussian } from './blur.ts';
import type { Plate } from './plate.ts';

type Lens = LayerOf<'lens'>;

/** How much farther from the middle red lies than green at the corner, at full fringing; blue as much nearer. */
const FRINGE = 0.006;
/** Widths of the bloom's parts as shares of its size, and their weights: a core in a wide halo. */
const BLOOM = [
  [0.12, 0.45],
  [0.4, 0.35],
  [1, 0.2],
] as const;
const HALATION_SIZE = 0.012;
const HALATION: readonly number[] = [1, 0.28, 0.06];

/**
 * What a lens and film do to a picture, in this order: distortion and lateral fringing (one look-up), bloom (light goes elsewhere,
 * none is made), halation round what is brighter than white, vignette (natural, after the fourth power of the cosine), grain. The
 * same at every size of the picture.
 */
export function applyLens(plate: Plate, lens: Lens, frame: number): void {
  if (lens.distortion !== 0 || lens.fringing > 0) bend(plate, lens);
  if (lens.bloom > 0) bloom(plate, lens);
  if (lens.halation > 0) halate(plate, lens.halation);
  if (lens.vignette > 0) darken(plate, lens.vignette);
  if (lens.grain > 0) grain(plate, lens, frame);
}

function bend({ width, height, data }: Plate, { distortion, fringing }: Lens): void {
  const from = data.slice();
  const corner = Math.sqrt(width * width + height * height) / 2;
  const scale = [1, 0, -1].map((side) => 1 + side * FRINGE * fringing);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const [dx, dy] = [x + 0.5 - width / 2, y + 0.5 - height / 2];
      const r2 = (dx * dx + dy * dy) / (corner * corner);
      // Barrel above 0: corners show what lies farther out, and the picture is drawn in so far that none is empty.
      const k = (1 + distortion * r2) / (1 + Math.max(0, distortion));
      for (let c = 0; c < 4; c++) {
        const s = k * (c < 3 ? 1 + (scale[c] - 1) * r2 : 1);
        const [u, v] = [width / 2 + dx * s - 0.5, height / 2 + dy * s - 0.5];
        const [i, j] = [Math.floor(u), Math.floor(v)];
        const [a, b] = [u - i, v - j];
        const at = (p: number, q: number): number =>
          from[(Math.min(height - 1, Math.max(0, q)) * width + Math.min(width - 1, Math.max(0, p))) * 4 + c];
        data[o + c] =
          (at(i, j) * (1 - a) + at(i + 1, j) * a) * (1 - b) + (at(i, j + 1) * (1 - a) + at(i + 1, j + 1) * a) * b;
      }
    }
}

function bloom(plate: Plate, { bloom: strength, bloomSize }: Lens): void {
  const { width, height, data } = plate;
  const halo = new Float32Array(data.length);
  for (const [size, weight] of BLOOM) {
    const part = data.slice();
    gaussian(part, width, height, 4, bloomSize * size * height);
    for (let i = 0; i < halo.length; i++) halo[i] += weight * part[i];
  }
  for (let i = 0; i < data.length; i++) if ((i & 3) !== 3) data[i] += (halo[i] - data[i]) * strength;
}

function halate({ width, height, data }: Plate, strength: number): void {
  const glow = new Float32Array(width * height);
  for (let i = 0; i < glow.length; i++)
    glow[i] = Math.max(0, Math.max(data[i * 4], data[i * 4 + 1], data[i * 4 + 2]) - 1);
  gaussian(glow, width, height, 1, HALATION_SIZE * height);
  for (let i = 0; i < glow.length; i++) for (let c = 0; c < 3; c++) data[i * 4 + c] += glow[i] * strength * HALATION[c];
}

function darken({ width, height, data }: Plate, strength: number): void {
  const corner = (width * width + height * height) / 4;
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const [dx, dy] = [x + 0.5 - width / 2, y + 0.5 - height / 2];
      // At full strength the corners see the light at 45 degrees: a quarter of it.
      const cos2 = 1 / (1 + (dx * dx + dy * dy) / corner);
      const k = 1 + (cos2 * cos2 - 1) * strength;
      for (let c = 0; c < 3; c++) data[o + c] *= k;
    }
}

/** Grain: noise between the points of a grid, a little of its own in each channel, strongest in the middle tones. */
function grain({ width, height, data }: Plate, { grain: strength, grainSize, seed }: Lens, frame: number): void {
  const cell = Math.max(1e-6, grainSize * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const [u, v] = [(x + 0.5) / cell, (y + 0.5) / cell];
      const [i, j] = [Math.floor(u), Math.floor(v)];
      const [a, b] = [u - i, v - j];
      const value = (channel: number): number => {
        const h = (p: number, q: number): number => hashed(p, q, frame * 4 + channel, seed) - 0.5;
        return (h(i, j) * (1 - a) + h(i + 1, j) * a) * (1 - b) + (h(i, j + 1) * (1 - a) + h(i + 1, j + 1) * a) * b;
      };
      const shared = value(3);
      const y1 = 0.2126 * data[o] + 0.7152 * data[o + 1] + 0.0722 * data[o + 2];
      // Film is grainiest where half of its silver is there.
      const response = Math.sqrt(Math.max(0, y1)) / (0.25 + Math.max(0, y1));
      for (let c = 0; c < 3; c++)
        data[o + c] = Math.max(
          0,
          data[o + c] +
            (0.7 * shared + 0.3 * value(c)) * strength * response * 0.22 * Math.sqrt(Math.max(0, data[o + c])),
        );
    }
}
