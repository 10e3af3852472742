import type { LayerOf } from '../document/index.ts';
import { hashed } from '../maths/index.ts';
import { gaussian } from './blur.ts';
import { newPlate, type Plate } from './plate.ts';
import { Pyramid } from './warp.ts';

type Lens = LayerOf<'lens'>;

/** How much farther from the middle red lies than green at the corner, at full fringing; blue as much nearer. */
const FRINGE = 0.006;
/** Widths of the bloom's parts as shares of its size, and their weights: a core in a wide halo. */
const BLOOM = [
  [0.12, 0.45],
  [0.4, 0.35],
  [1, 0.2],
] as const;
/** Pixels of a blur's width at least that halved pictures are blurred by. */
const LEAST_SIGMA = 2;
/** How strong grain is at its full strength, in the middle tones. */
const GRAIN = 0.22;
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
  const corner2 = (width * width + height * height) / 4;
  const fringe = FRINGE * fringing;
  const fit = 1 / (1 + Math.max(0, distortion));
  const [right, low] = [width - 1, height - 1];
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const dx = x + 0.5 - width / 2;
      const dy = y + 0.5 - height / 2;
      const r2 = (dx * dx + dy * dy) / corner2;
      // Barrel above 0: corners show what lies farther out, and the picture is drawn in so far that none is empty.
      const k = (1 + distortion * r2) * fit;
      for (let c = 0; c < 4; c++) {
        // Red lies farther out than green, blue nearer; alpha goes with green.
        const s = c === 0 ? k * (1 + fringe * r2) : c === 2 ? k * (1 - fringe * r2) : k;
        const u = width / 2 + dx * s - 0.5;
        const v = height / 2 + dy * s - 0.5;
        const i = Math.floor(u);
        const j = Math.floor(v);
        const a = u - i;
        const b = v - j;
        const x0 = i < 0 ? 0 : i > right ? right : i;
        const x1 = i < -1 ? 0 : i >= right ? right : i + 1;
        const top = (j < 0 ? 0 : j > low ? low : j) * width;
        const under = (j < -1 ? 0 : j >= low ? low : j + 1) * width;
        const above = from[(top + x0) * 4 + c] * (1 - a) + from[(top + x1) * 4 + c] * a;
        const below = from[(under + x0) * 4 + c] * (1 - a) + from[(under + x1) * 4 + c] * a;
        data[o + c] = above * (1 - b) + below * b;
      }
    }
}

function bloom(plate: Plate, { bloom: strength, bloomSize }: Lens): void {
  const { height, data } = plate;
  const halo = newPlate(plate.width, height);
  const source = new Pyramid(plate);
  for (const [size, weight] of BLOOM) addWide(halo, source, bloomSize * size * height, weight);
  for (let i = 0; i < data.length; i++) if ((i & 3) !== 3) data[i] += (halo.data[i] - data[i]) * strength;
}

/** Adds a blurred picture: a wide blur is made of a halved one, where it looks the same. */
function addWide(target: Plate, source: Pyramid, sigma: number, weight: number): void {
  let n = 0;
  while (sigma / (2 << n) >= LEAST_SIGMA) n++;
  const { width: w, height: h, data } = source.level(n);
  const part = data.slice();
  // Each halving has blurred by a box of two pixels already.
  const own = sigma / (1 << n);
  gaussian(part, w, h, 4, Math.sqrt(Math.max(0, own * own - (n > 0 ? 0.25 : 0))));
  const { width, height, data: out } = target;
  const [sx, sy] = [w / width, h / height];
  for (let y = 0, o = 0; y < height; y++) {
    const v = Math.min(h - 1, Math.max(0, (y + 0.5) * sy - 0.5));
    const j = Math.floor(v);
    const b = v - j;
    const top = j * w;
    const low = Math.min(h - 1, j + 1) * w;
    for (let x = 0; x < width; x++, o += 4) {
      const u = Math.min(w - 1, Math.max(0, (x + 0.5) * sx - 0.5));
      const i = Math.floor(u);
      const a = u - i;
      const right = Math.min(w - 1, i + 1);
      const w00 = weight * (1 - a) * (1 - b);
      const w10 = weight * a * (1 - b);
      const w01 = weight * (1 - a) * b;
      const w11 = weight * a * b;
      const p = (top + i) * 4;
      const q = (top + right) * 4;
      const r = (low + i) * 4;
      const s = (low + right) * 4;
      for (let c = 0; c < 4; c++)
        out[o + c] += w00 * part[p + c] + w10 * part[q + c] + w01 * part[r + c] + w11 * part[s + c];
    }
  }
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
  const [columns, lines] = [Math.ceil(width / cell) + 2, Math.ceil(height / cell) + 2];
  const points = new Float32Array(columns * lines * 4);
  for (let j = 0, at = 0; j < lines; j++)
    for (let i = 0; i < columns; i++)
      for (let c = 0; c < 4; c++, at++) points[at] = hashed(i, j, frame * 4 + c, seed) - 0.5;
  for (let y = 0, o = 0; y < height; y++) {
    const v = (y + 0.5) / cell;
    const j = Math.floor(v);
    const b = v - j;
    for (let x = 0; x < width; x++, o += 4) {
      const u = (x + 0.5) / cell;
      const i = Math.floor(u);
      const a = u - i;
      const p = (j * columns + i) * 4;
      const q = p + columns * 4;
      const w11 = a * b;
      const w10 = a - w11;
      const w01 = b - w11;
      const w00 = 1 - a - w01;
      const shared = points[p + 3] * w00 + points[p + 7] * w10 + points[q + 3] * w01 + points[q + 7] * w11;
      const light = Math.max(0, 0.2126 * data[o] + 0.7152 * data[o + 1] + 0.0722 * data[o + 2]);
      // Film is grainiest where half of its silver is there.
      const response = (strength * GRAIN * Math.sqrt(light)) / (0.25 + light);
      for (let c = 0; c < 3; c++) {
        const own = points[p + c] * w00 + points[p + 4 + c] * w10 + points[q + c] * w01 + points[q + 4 + c] * w11;
        const here = Math.max(0, data[o + c]);
        data[o + c] = Math.max(0, here + (0.7 * shared + 0.3 * own) * response * Math.sqrt(here));
      }
    }
  }
}
