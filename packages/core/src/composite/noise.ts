import type { LayerOf } from '../document/index.ts';
import { DEGREES } from '../geometry/index.ts';
import { cos, hashed, seeded, sin } from '../maths/index.ts';
import type { Colour } from './shapes.ts';
import type { Paint, Place } from './place.ts';
import type { Plate } from './plate.ts';

const CELLS = 32;
const MASK = CELLS - 1;
let lattice: Float32Array | null = null;

/** Even numbers at the points of a lattice that repeats, made once. */
function numbers(): Float32Array {
  const random = seeded(7);
  return (lattice ??= Float32Array.from({ length: CELLS * CELLS * CELLS }, random));
}

const smooth = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** Value noise in three dimensions, 0..1, that repeats after 32. */
function noise(of: Float32Array, x: number, y: number, z: number): number {
  const i = Math.floor(x);
  const j = Math.floor(y);
  const k = Math.floor(z);
  const a = smooth(x - i);
  const b = smooth(y - j);
  const c = smooth(z - k);
  const x0 = i & MASK;
  const x1 = (i + 1) & MASK;
  const y0 = (j & MASK) << 5;
  const y1 = ((j + 1) & MASK) << 5;
  const z0 = (k & MASK) << 10;
  const z1 = ((k + 1) & MASK) << 10;
  const low = of[x0 + y0 + z0] * (1 - a) + of[x1 + y0 + z0] * a;
  const high = of[x0 + y1 + z0] * (1 - a) + of[x1 + y1 + z0] * a;
  const far = of[x0 + y0 + z1] * (1 - a) + of[x1 + y0 + z1] * a;
  const last = of[x0 + y1 + z1] * (1 - a) + of[x1 + y1 + z1] * a;
  const near = low * (1 - b) + high * b;
  return near * (1 - c) + (far * (1 - b) + last * b) * c;
}

/** Vapour: octaves of noise, each half as large and half as strong, turned against each other so that no lattice shows. */
export function vapourPaint(layer: LayerOf<'vapour'>, colour: Colour, seconds: number): Paint {
  const { size, detail, contrast, brightness, angle, evolve, drift, rise, seed } = layer;
  const of = numbers();
  const octaves = Math.max(1, Math.round(detail));
  const [co, si] = [cos(angle * DEGREES), sin(angle * DEGREES)];
  const z = seed * 3.77 + evolve * seconds;
  const [across, up] = [drift * seconds, rise * seconds];
  let whole = 0;
  for (let k = 0, w = 1; k < octaves; k++, w /= 2) whole += w;
  return (u, v, out) => {
    const [mx, my] = [(u - across) / size, (v - up) / size];
    let x = mx * co + my * si + seed * 1.31;
    let y = my * co - mx * si;
    let sum = 0;
    for (let k = 0, w = 1; k < octaves; k++, w /= 2) {
      sum += w * noise(of, x, y, z * (1 + k * 0.6) + k * 5.3);
      // Twice as fine, turned by a third of a right angle.
      [x, y] = [1.732 * x - y + 11.7, x + 1.732 * y - 4.1];
    }
    const there = (sum / whole - 0.5) * contrast * 2 + 0.5 + brightness;
    [out[0], out[1], out[2]] = colour;
    return there <= 0 ? 0 : there >= 1 ? 1 : there * there * (3 - 2 * there);
  };
}

/** Specks over a picture: each by numbers drawn from its own, so that a change of their count leaves the others. */
export function drawSpecks(
  plate: Plate,
  place: Place,
  layer: LayerOf<'specks'>,
  colour: Colour,
  seconds: number,
): void {
  const { count, size, spread, softness, drift, rise, twinkle, seed } = layer;
  const { width, height } = plate;
  const wide = (width / height) * 1.3;
  // Back from the layer's lengths to pixels.
  const { a, b, c, d, e, f } = place;
  const det = a * e - b * d;
  for (let n = 0; n < Math.round(count); n++) {
    const h = (k: number): number => hashed(n, k, 11, seed);
    const near = 1 - spread * h(0);
    const wrap = (v: number, most: number): number => v - Math.floor(v / most) * most - most / 2;
    const u = wrap(h(1) * wide + drift * near * seconds * (0.6 + 0.8 * h(4)), wide);
    const v = wrap(h(2) * 1.3 + rise * near * seconds * (0.6 + 0.8 * h(5)), 1.3);
    const light = 1 - twinkle * (0.5 + 0.5 * sin(2 * Math.PI * (h(3) + seconds * (0.3 + h(6)))));
    const radius = Math.max(0.35, (size * near * near) / 2 / place.pixel);
    const [x, y] = [(e * (u - c) - b * (v - f)) / det, (a * (v - f) - d * (u - c)) / det];
    splat(plate, x, y, radius, softness, colour, light);
  }
}

function splat(
  { width, height, data }: Plate,
  x: number,
  y: number,
  radius: number,
  softness: number,
  colour: Colour,
  light: number,
): void {
  const reach = radius + 1;
  const soft = Math.max(1, softness * radius);
  for (let j = Math.max(0, Math.floor(y - reach)); j < Math.min(height, Math.ceil(y + reach)); j++)
    for (let i = Math.max(0, Math.floor(x - reach)); i < Math.min(width, Math.ceil(x + reach)); i++) {
      const far = Math.sqrt((i + 0.5 - x) * (i + 0.5 - x) + (j + 0.5 - y) * (j + 0.5 - y));
      const t = Math.min(1, Math.max(0, (radius + 0.5 - far) / soft));
      const there = light * t * t * (3 - 2 * t);
      if (there <= 0) continue;
      const o = (j * width + i) * 4;
      for (let c = 0; c < 3; c++) data[o + c] = colour[c] * there + data[o + c] * (1 - there);
      data[o + 3] = there + data[o + 3] * (1 - there);
    }
}
