import type { LayerOf } from '../document/index.ts';
import { DEGREES } from '../geometry/index.ts';
import { cos, hashed, seeded, sin } from '../maths/index.ts';
import type { Colour } from './shapes.ts';
import type { Place } from './place.ts';
import type { Plate, Plates } from './plate.ts';

const CELLS = 32;
const MASK = CELLS - 1;
/** Numbers of a row of the kernel's lattice, and of one that says how deep an octave lies. */
const ROW = 4;
let even: Float32Array | null = null;

/** Even numbers at the points of a lattice that repeats, made once. */
function numbers(): Float32Array {
  const random = seeded(7);
  return (even ??= Float32Array.from({ length: CELLS * CELLS * CELLS }, random));
}

/**
 * Vapour at a moment; where it loops, it goes over all the way into what it was a loop before, so that its end is its beginning. Two
 * patterns that are mixed have less contrast than each: what differs from their mean is made up for.
 */
export function drawLooping(
  plates: Plates,
  plate: Plate,
  place: Place,
  layer: LayerOf<'vapour'>,
  colour: Colour,
  seconds: number,
): void {
  const { loop } = layer;
  if (!loop) {
    drawVapour(plates, plate, place, layer, colour, seconds);
    return;
  }
  const at = seconds - Math.floor(seconds / loop) * loop;
  const share = at / loop;
  drawVapour(plates, plate, place, layer, colour, at);
  if (share === 0) return;
  plates.within(() => {
    const before = plates.raw(plate.width, plate.height);
    drawVapour(plates, before, place, layer, colour, at - loop);
    const [into, from] = [plate.data, before.data];
    const even = 1 / Math.sqrt(share * share + (1 - share) * (1 - share));
    let mean = 0;
    for (let i = 3; i < into.length; i += 4) mean += into[i] + (from[i] - into[i]) * share;
    mean /= into.length / 4;
    for (let i = 0; i < into.length; i += 4) {
      const mixed = into[i + 3] + (from[i + 3] - into[i + 3]) * share;
      const there = Math.min(1, Math.max(0, mean + (mixed - mean) * even));
      for (let c = 0; c < 3; c++) into[i + c] = colour[c] * there;
      into[i + 3] = there;
    }
  });
}

/** Draws vapour: octaves of value noise, each half as large and half as strong, turned against each other. */
export function drawVapour(
  plates: Plates,
  plate: Plate,
  { a, b, c, d, e, f }: Place,
  layer: LayerOf<'vapour'>,
  colour: Colour,
  seconds: number,
): void {
  const { size, detail, contrast, brightness, angle, evolve, drift, rise, seed } = layer;
  const octaves = Math.max(1, Math.round(detail));
  const [co, si] = [cos(angle * DEGREES) / size, sin(angle * DEGREES) / size];
  const z = seed * 3.77 + evolve * seconds;
  const [across, up] = [drift * seconds, rise * seconds];
  let whole = 0;
  for (let k = 0, w = 1; k < octaves; k++, w /= 2) whole += w;
  plates.within(() => {
    const lattice = plates.floats(CELLS * CELLS * CELLS * ROW);
    plates.kernel.layLattice(plates.store(numbers()).at, lattice.at);
    const place = plates.doubles([
      ...[a * co + d * si, b * co + e * si, (c - across) * co + (f - up) * si + seed * 1.31],
      ...[d * co - a * si, e * co - b * si, (f - up) * co - (c - across) * si],
      ...[contrast, brightness],
    ]);
    const depths = plates.floats(octaves * ROW);
    const { data } = depths;
    const planes = new Int32Array(data.buffer, data.byteOffset, data.length);
    for (let k = 0, w = 1; k < octaves; k++, w /= 2) {
      const deep = z * (1 + k * 0.6) + k * 5.3;
      const near = Math.floor(deep);
      const t = deep - near;
      planes[k * ROW] = near & MASK;
      planes[k * ROW + 1] = (near + 1) & MASK;
      data[k * ROW + 2] = t * t * t * (t * (t * 6 - 15) + 10);
      data[k * ROW + 3] = w / whole;
    }
    const { width, height, at } = plate;
    plates.kernel.vapour(at, width, height, place, lattice.at, depths.at, octaves, colour[0], colour[1], colour[2]);
  });
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

/** Lays a soft dot over what is there. */
export function splat(
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
