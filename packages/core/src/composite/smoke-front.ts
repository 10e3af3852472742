import { seeded } from '../maths/index.ts';

/** How smoke comes over a picture, on a grid of square cells. */
export interface SmokeFront {
  width: number;
  height: number;
  /** When each cell is covered, 0..1 of the way: as many are by each moment. */
  arrival: Float32Array;
}

/** Cells across the longer side, and steps in which the smoke crosses the picture. */
const CELLS = 136;
const STEPS = 112;
/** Times that the pressure is gone over in a step, from that of the step before; more makes the air no stiffer to the eye. */
const RELAXED = 14;
/** Cells a step that smoke is blown in with, how much it swirls, and what is left of its speed. */
const BLOWN = 1.9;
const SWIRL = 0.3;
const KEPT = 0.994;
/** Sizes of eddies in cells, and their speed in cells a step. */
const EDDIES = [
  [34, 1.6],
  [15, 1.3],
  [7, 0.8],
] as const;
/** Rounds in which times are evened out. */
const EVENED = 4;
/** Density at which a cell counts as covered. */
const COVERED = 0.35;

const fronts = new Map<string, SmokeFront>();
const MOST_KEPT = 6;

/**
 * Smoke that is blown in at the left and swirls to the right: air that keeps its volume, on a grid (Stam 1999, Stable Fluids), its small
 * eddies kept by vorticity confinement (Fedkiw, Stam and Jensen 2001). The same for the same seed, everywhere.
 * @param aspect of the picture along the way over across it.
 */
export function smokeFront(aspect: number, seed: number): SmokeFront {
  const key = `${aspect.toFixed(4)} ${seed}`;
  let front = fronts.get(key);
  fronts.delete(key);
  front ??= simulate(aspect, seed);
  fronts.set(key, front);
  if (fronts.size > MOST_KEPT) fronts.delete(fronts.keys().next().value!);
  return front;
}

function simulate(aspect: number, seed: number): SmokeFront {
  const width = aspect >= 1 ? CELLS : Math.max(16, Math.round(CELLS * aspect));
  const height = aspect >= 1 ? Math.max(16, Math.round(CELLS / aspect)) : CELLS;
  const count = width * height;
  const random = seeded(seed);
  let [u, v, smoke] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  let [u2, v2, smoke2] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  const pressure = new Float32Array(count);
  const divergence = new Float32Array(count);
  const curl = new Float32Array(count);
  const reached = new Float32Array(count).fill(Infinity);
  const cell = (x: number, y: number): number =>
    Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x));

  /** Jets along the left side, each of its own strength, which sway. */
  const jets = Array.from({ length: height }, () => 0);
  const knots = Math.max(4, Math.round(height / 12));
  const strengths = Array.from({ length: knots + 1 }, () => 0.55 + 0.9 * random());
  const sways = Array.from({ length: knots + 1 }, () => random() - 0.5);
  const between = (values: readonly number[], y: number): number => {
    const at = (y / Math.max(1, height - 1)) * knots;
    const k = Math.min(knots - 1, Math.floor(at));
    const f = at - k;
    const s = f * f * (3 - 2 * f);
    return values[k] + (values[k + 1] - values[k]) * s;
  };
  for (let y = 0; y < height; y++) jets[y] = between(strengths, y);

  // The air is not still before: eddies of several sizes, which fill no place and leave none (Bridson, Houriham and Nordenstam 2007).
  for (const [size, strength] of EDDIES) {
    const across = Math.ceil(width / size) + 2;
    const knotsOf = Float32Array.from({ length: across * (Math.ceil(height / size) + 2) }, () => random() - 0.5);
    const stream = (x: number, y: number): number => {
      const [gx, gy] = [Math.max(0, x) / size, Math.max(0, y) / size];
      const at = Math.floor(gy) * across + Math.floor(gx);
      const [fx, fy] = [gx - Math.floor(gx), gy - Math.floor(gy)];
      const [sx, sy] = [fx * fx * (3 - 2 * fx), fy * fy * (3 - 2 * fy)];
      const top = knotsOf[at] + (knotsOf[at + 1] - knotsOf[at]) * sx;
      const bottom = knotsOf[at + across] + (knotsOf[at + across + 1] - knotsOf[at + across]) * sx;
      return (top + (bottom - top) * sy) * strength * size;
    };
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        u[i] += (stream(x, y + 1) - stream(x, y - 1)) / 2;
        v[i] -= (stream(x + 1, y) - stream(x - 1, y)) / 2;
      }
  }

  /** What was where the air of a cell came from. */
  const carried = (from: Float32Array, to: Float32Array): void => {
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const px = Math.min(width - 1.001, Math.max(0, x - u[i]));
        const py = Math.min(height - 1.001, Math.max(0, y - v[i]));
        const x0 = Math.floor(px);
        const y0 = Math.floor(py);
        const [fx, fy] = [px - x0, py - y0];
        const at = y0 * width + x0;
        const top = from[at] + (from[at + 1] - from[at]) * fx;
        const bottom = from[at + width] + (from[at + width + 1] - from[at + width]) * fx;
        to[i] = top + (bottom - top) * fy;
      }
  };

  for (let step = 0; step < STEPS; step++) {
    // Blown in over the first columns for as long as it goes.
    for (let y = 0; y < height; y++)
      for (let x = 0; x < 3; x++) {
        const i = y * width + x;
        u[i] = BLOWN * jets[y];
        v[i] += 0.12 * between(sways, (y + step * 0.7) % height);
        smoke[i] = 1;
      }
    // Small eddies are kept: pushed at right angles to the slope of their strength.
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        curl[y * width + x] = (v[cell(x + 1, y)] - v[cell(x - 1, y)] - u[cell(x, y + 1)] + u[cell(x, y - 1)]) / 2;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const gx = Math.abs(curl[cell(x + 1, y)]) - Math.abs(curl[cell(x - 1, y)]);
        const gy = Math.abs(curl[cell(x, y + 1)]) - Math.abs(curl[cell(x, y - 1)]);
        const length = Math.sqrt(gx * gx + gy * gy);
        if (length < 1e-6) continue;
        const i = y * width + x;
        u[i] = u[i] * KEPT + (SWIRL * curl[i] * gy) / length;
        v[i] = v[i] * KEPT - (SWIRL * curl[i] * gx) / length;
      }
    // Air keeps its volume: what would pile up is pushed away. It leaves at the right.
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        divergence[y * width + x] = (u[cell(x + 1, y)] - u[cell(x - 1, y)] + v[cell(x, y + 1)] - v[cell(x, y - 1)]) / 2;
    for (let round = 0; round < RELAXED; round++)
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const i = y * width + x;
          const right = x + 1 < width ? pressure[i + 1] : 0;
          pressure[i] =
            (pressure[cell(x - 1, y)] + right + pressure[cell(x, y - 1)] + pressure[cell(x, y + 1)] - divergence[i]) /
            4;
        }
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        const right = x + 1 < width ? pressure[i + 1] : 0;
        u[i] -= (right - pressure[cell(x - 1, y)]) / 2;
        v[i] -= (pressure[cell(x, y + 1)] - pressure[cell(x, y - 1)]) / 2;
      }
    carried(smoke, smoke2);
    carried(u, u2);
    carried(v, v2);
    [u, u2, v, v2, smoke, smoke2] = [u2, u, v2, v, smoke2, smoke];
    for (let i = 0; i < count; i++) {
      if (reached[i] !== Infinity || smoke[i] < COVERED) continue;
      // Between two steps, so that its edge is a line and no stairs.
      const before = smoke2[i];
      reached[i] = step + Math.min(1, Math.max(0, (COVERED - before) / Math.max(1e-6, smoke[i] - before)));
    }
  }
  return { width, height, arrival: ranked(evened(reached, width, STEPS), width) };
}

/** Times without steps between places that were reached early and late: means over a few cells, what was never reached last. */
function evened(reached: Float32Array, width: number, last: number): Float32Array {
  let from = reached.map((time) => Math.min(time, last));
  let to = new Float32Array(from.length);
  const height = from.length / width;
  for (let round = 0; round < EVENED; round++) {
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const left = x > 0 ? from[i - 1] : from[i];
        const right = x + 1 < width ? from[i + 1] : from[i];
        const up = y > 0 ? from[i - width] : from[i];
        const down = y + 1 < height ? from[i + width] : from[i];
        to[i] = (4 * from[i] + left + right + up + down) / 8;
      }
    [from, to] = [to, from];
  }
  return from;
}

/** Times as shares of the way by their order; of equal ones those at the left come first. */
function ranked(times: Float32Array, width: number): Float32Array {
  const order = Array.from(times, (_, i) => i).sort(
    (a, b) => times[a] - times[b] || (a % width) - (b % width) || a - b,
  );
  const out = new Float32Array(times.length);
  order.forEach((i, turn) => (out[i] = (turn + 0.5) / times.length));
  return out;
}
