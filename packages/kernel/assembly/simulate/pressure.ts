import { at, four, Grid, meet, row, slab } from './grid';
import { Level, level } from './levels';

// @ts-ignore: decorator
@inline
function zero(): v128 {
  return f32x4.splat(0);
}

/** Levels with fewer planes than this are one thread's work: meeting would take longer. */
const ALONE: i32 = 24;
const SWEEPS: i32 = 2;
const COARSEST_SWEEPS: i32 = 24;

/** One sweep over the cells of a colour (0 red, 1 black): each takes the pressure that its neighbours ask of it. */
function smooth(l: Level, fine: bool, colour: i32, k0: i32, k1: i32): void {
  const own = colour === 0 ? l.p0 : l.p1;
  const other = colour === 0 ? l.p1 : l.p0;
  const right = colour === 0 ? l.b0 : l.b1;
  const inverse = colour === 0 ? l.inverse0 : l.inverse1;
  const weights = colour === 0 ? l.weights0 : l.weights1;
  const wide = (<usize>l.half) << 2;
  const deep = (<usize>l.plane) << 2;
  const w = l.colourBytes;
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= l.ny; j++) {
      const odd = ((j + k) & 1) === 1;
      const shift: usize = (colour === 0) === odd ? 4 : 0;
      const first = (<usize>(k * l.plane + j * l.half)) << 2;
      for (let n = first; n < first + wide; n += 16) {
        const o = other + n;
        let sum: v128;
        if (fine) {
          const x = f32x4.add(four(o + shift - 4), four(o + shift));
          const y = f32x4.add(four(o - wide), four(o + wide));
          sum = f32x4.add(f32x4.add(x, y), f32x4.add(four(o - deep), four(o + deep)));
        } else sum = weighed(o, weights + n, w, shift, wide, deep);
        v128.store(own + n, f32x4.mul(four(inverse + n), f32x4.sub(sum, four(right + n))));
      }
    }
}

// @ts-ignore: decorator
@inline
function weighed(o: usize, c: usize, w: usize, shift: usize, wide: usize, deep: usize): v128 {
  const x = f32x4.add(f32x4.mul(four(c), four(o + shift - 4)), f32x4.mul(four(c + w), four(o + shift)));
  const y = f32x4.add(f32x4.mul(four(c + 2 * w), four(o - wide)), f32x4.mul(four(c + 3 * w), four(o + wide)));
  const z = f32x4.add(f32x4.mul(four(c + 4 * w), four(o - deep)), f32x4.mul(four(c + 5 * w), four(o + deep)));
  return f32x4.add(f32x4.add(x, y), z);
}

/** What is still wrong at four red cells. */
// @ts-ignore: decorator
@inline
function residual(l: Level, fine: bool, n: usize, shift: usize, wide: usize, deep: usize): v128 {
  const o = l.p1 + n;
  let sum: v128;
  if (fine) {
    const x = f32x4.add(four(o + shift - 4), four(o + shift));
    const y = f32x4.add(four(o - wide), four(o + wide));
    sum = f32x4.add(f32x4.add(x, y), f32x4.add(four(o - deep), four(o + deep)));
  } else sum = weighed(o, l.weights0 + n, l.colourBytes, shift, wide, deep);
  const diagonal = four(l.diagonal0 + n);
  const r = f32x4.sub(four(l.b0 + n), f32x4.sub(sum, f32x4.mul(diagonal, four(l.p0 + n))));
  return v128.and(r, f32x4.gt(diagonal, zero()));
}

/** Right sides of the coarser level: after a black sweep only red cells have anything left. Pressure there begins at nothing. */
function restrict(g: Grid, n: i32, k0: i32, k1: i32): void {
  const f = level(g, n);
  const c = level(g, n + 1);
  const fine = n === 0;
  const wide = (<usize>f.half) << 2;
  const deep = (<usize>f.plane) << 2;
  const half = f32x4.splat(0.5);
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= c.ny; j++) {
      // The natural row of the coarse pressure is free now: it holds sums until they go to their colours.
      const to = c.pressure + ((<usize>(k * c.natural + j * c.px)) << 2);
      for (let i = 0; i < c.px; i += 4) {
        let sum = zero();
        for (let b = 0; b < 2; b++)
          for (let a = 0; a < 2; a++) {
            const fj = 2 * j - 1 + a;
            const fk = 2 * k - 1 + b;
            const odd = ((fj + fk) & 1) === 1;
            const s = fk * f.plane + fj * f.half + i - (odd ? 1 : 0);
            sum = f32x4.add(sum, residual(f, fine, (<usize>s) << 2, odd ? 4 : 0, wide, deep));
          }
        v128.store(to + ((<usize>i) << 2), f32x4.mul(sum, half));
      }
      part(to, c, j, k, c.b0, c.b1);
      const first = (<usize>(k * c.plane + j * c.half)) << 2;
      memory.fill(c.p0 + first, 0, (<usize>c.half) << 2);
      memory.fill(c.p1 + first, 0, (<usize>c.half) << 2);
    }
}

/** A natural row to its two colours. */
function part(from: usize, l: Level, j: i32, k: i32, red: usize, black: usize): void {
  const odd = ((j + k) & 1) === 1;
  const first = (<usize>(k * l.plane + j * l.half)) << 2;
  const evens = (odd ? black : red) + first;
  const odds = (odd ? red : black) + first;
  for (let i: usize = 0; i < (<usize>l.half) << 2; i += 16) {
    const a = four(from + 2 * i);
    const b = four(from + 2 * i + 16);
    v128.store(evens + i, v128.shuffle<f32>(a, b, 0, 2, 4, 6));
    v128.store(odds + i, v128.shuffle<f32>(a, b, 1, 3, 5, 7));
  }
}

/** A row of pressure in natural order. */
function joinRow(l: Level, j: i32, k: i32, to: usize): void {
  const odd = ((j + k) & 1) === 1;
  const first = (<usize>(k * l.plane + j * l.half)) << 2;
  const evens = (odd ? l.p1 : l.p0) + first;
  const odds = (odd ? l.p0 : l.p1) + first;
  for (let i: usize = 0; i < (<usize>l.half) << 2; i += 16) {
    const a = four(evens + i);
    const b = four(odds + i);
    v128.store(to + 2 * i, v128.shuffle<f32>(a, b, 0, 4, 1, 5));
    v128.store(to + 2 * i + 16, v128.shuffle<f32>(a, b, 2, 6, 3, 7));
  }
}

/** Pressure of a coarse level in natural order; beyond closed sides it goes on as it is, beyond open ones it is nothing. */
function lay(g: Grid, n: i32, k0: i32, k1: i32): void {
  const l = level(g, n);
  for (let k = k0; k < k1; k++) {
    for (let j = 1; j <= l.ny; j++) {
      const to = l.pressure + ((<usize>(k * l.natural + j * l.px)) << 2);
      joinRow(l, j, k, to);
      store<f32>(to, load<f32>(to + 4) * ghost(g, n, 0, false));
      store<f32>(to + ((<usize>(l.nx + 1)) << 2), load<f32>(to + ((<usize>l.nx) << 2)) * ghost(g, n, 0, true));
    }
    const first = l.pressure + ((<usize>(k * l.natural)) << 2);
    const wide = (<usize>l.px) << 2;
    scaled(first, first + wide, wide, ghost(g, n, 1, false));
    scaled(first + <usize>(l.ny + 1) * wide, first + <usize>l.ny * wide, wide, ghost(g, n, 1, true));
  }
}

/** What pressure beyond a side is of that inside: the same at a wall; at open air such that it is nothing where air begins. */
function ghost(g: Grid, n: i32, axis: i32, far: bool): f32 {
  if (!openSide(g, axis, far)) return 1;
  const share: f32 = <f32>1 / <f32>(1 << n);
  return (share - 1) / (share + 1);
}

function scaled(to: usize, from: usize, bytes: usize, by: f32): void {
  const factor = f32x4.splat(by);
  for (let i: usize = 0; i < bytes; i += 16) v128.store(to + i, f32x4.mul(four(from + i), factor));
}

/** The planes beyond both ends, when all others are laid. */
function ghostPlanes(g: Grid, n: i32): void {
  const l = level(g, n);
  const bytes = (<usize>l.natural) << 2;
  const last = l.pressure + <usize>(l.nz + 1) * bytes;
  scaled(l.pressure, l.pressure + bytes, bytes, ghost(g, n, 2, false));
  scaled(last, last - bytes, bytes, ghost(g, n, 2, true));
}

/** Whether the ghost cells on a side are open air. */
export function openSide(g: Grid, axis: i32, far: bool): bool {
  const i = axis === 0 ? (far ? g.nx + 1 : 0) : 1;
  const j = axis === 1 ? (far ? g.ny + 1 : 0) : 1;
  const k = axis === 2 ? (far ? g.nz + 1 : 0) : 1;
  return at(g.open, k * g.plane + j * g.px + i) > 0;
}

/** Adds the coarser level's pressure to black cells; the red sweep that follows sets the red ones by them. */
function prolong(g: Grid, n: i32, k0: i32, k1: i32): void {
  const f = level(g, n);
  const c = level(g, n + 1);
  const near = f32x4.splat(0.75);
  const far = f32x4.splat(0.25);
  for (let k = k0; k < k1; k++) {
    const K = (k + 1) >> 1;
    const L = (k & 1) === 1 ? K - 1 : K + 1;
    for (let j = 1; j <= f.ny; j++) {
      const J = (j + 1) >> 1;
      const M = (j & 1) === 1 ? J - 1 : J + 1;
      const own = c.pressure + ((<usize>(K * c.natural + J * c.px)) << 2);
      const side = c.pressure + ((<usize>(K * c.natural + M * c.px)) << 2);
      const back = c.pressure + ((<usize>(L * c.natural + J * c.px)) << 2);
      const both = c.pressure + ((<usize>(L * c.natural + M * c.px)) << 2);
      const blend = c.blend + ((<usize>(K * c.natural + J * c.px)) << 2);
      // Black cells of this row lie in odd columns when red ones lie in even ones.
      const odd = ((j + k) & 1) === 0;
      const first = (<usize>(k * f.plane + j * f.half)) << 2;
      for (let s = 0; s < f.half; s += 4) {
        const here = (<usize>(odd ? s + 1 : s)) << 2;
        const next = (<usize>(odd ? s : s + 1)) << 2;
        const a = mix4(own + here, side + here, back + here, both + here);
        const b = mix4(own + next, side + next, back + next, both + next);
        const blended = f32x4.add(f32x4.mul(a, near), f32x4.mul(b, far));
        const value = v128.bitselect(blended, four(own + here), f32x4.gt(four(blend + here), zero()));
        const n4 = first + ((<usize>s) << 2);
        const there = v128.and(value, f32x4.gt(four(f.diagonal1 + n4), zero()));
        v128.store(f.p1 + n4, f32x4.add(four(f.p1 + n4), there));
      }
    }
  }
}

// @ts-ignore: decorator
@inline
function mix4(own: usize, side: usize, back: usize, both: usize): v128 {
  const a = f32x4.mul(four(own), f32x4.splat(0.5625));
  const b = f32x4.mul(f32x4.add(four(side), four(back)), f32x4.splat(0.1875));
  return f32x4.add(f32x4.add(a, b), f32x4.mul(four(both), f32x4.splat(0.0625)));
}

/** A V-cycle from a level down. Levels of few planes are done by the first thread alone while the others wait. */
export function cycle(g: Grid, n: i32, thread: i32, threads: i32): void {
  const l = level(g, n);
  if (threads > 1 && l.nz < ALONE) {
    if (thread === 0) cycle(g, n, 0, 1);
    meet(g);
    return;
  }
  const k0 = slab(l.nz, thread, threads);
  const k1 = slab(l.nz, thread + 1, threads);
  if (n === g.levelCount - 1) {
    sweeps(g, n, COARSEST_SWEEPS, k0, k1, threads);
    return;
  }
  sweeps(g, n, SWEEPS, k0, k1, threads);
  const c = level(g, n + 1);
  const c0 = slab(c.nz, thread, threads);
  const c1 = slab(c.nz, thread + 1, threads);
  restrict(g, n, c0, c1);
  pause(g, threads);
  cycle(g, n + 1, thread, threads);
  lay(g, n + 1, c0, c1);
  pause(g, threads);
  if (thread === 0) ghostPlanes(g, n + 1);
  pause(g, threads);
  prolong(g, n, k0, k1);
  pause(g, threads);
  sweeps(g, n, SWEEPS, k0, k1, threads);
}

// @ts-ignore: decorator
@inline
function pause(g: Grid, threads: i32): void {
  if (threads > 1) meet(g);
}

function sweeps(g: Grid, n: i32, count: i32, k0: i32, k1: i32, threads: i32): void {
  const l = level(g, n);
  for (let i = 0; i < count; i++) {
    smooth(l, n === 0, 0, k0, k1);
    pause(g, threads);
    smooth(l, n === 0, 1, k0, k1);
    pause(g, threads);
  }
}

/** Puts sums of squares of what is left at red cells of the finest level to `sums`, plane by plane. */
export function leftOver(g: Grid, k0: i32, k1: i32): void {
  const l = level(g, 0);
  const wide = (<usize>l.half) << 2;
  const deep = (<usize>l.plane) << 2;
  for (let k = k0; k < k1; k++) {
    let sum: f64 = 0;
    for (let j = 1; j <= l.ny; j++) {
      const odd = ((j + k) & 1) === 1;
      const first = (<usize>(k * l.plane + j * l.half)) << 2;
      let four4 = zero();
      for (let n = first; n < first + wide; n += 16) {
        const r = residual(l, true, n, odd ? 4 : 0, wide, deep);
        four4 = f32x4.add(four4, f32x4.mul(r, r));
      }
      sum += total(four4);
    }
    store<f64>(g.sums + ((<usize>k) << 3), sum);
  }
}

// @ts-ignore: decorator
@inline
export function total(v: v128): f64 {
  return (
    <f64>f32x4.extract_lane(v, 0) +
    <f64>f32x4.extract_lane(v, 1) +
    (<f64>f32x4.extract_lane(v, 2) + <f64>f32x4.extract_lane(v, 3))
  );
}

/** Sum over planes, in their order: the same for any number of threads. */
export function planeSum(g: Grid): f64 {
  let sum: f64 = 0;
  for (let k = 1; k <= g.nz; k++) sum += load<f64>(g.sums + ((<usize>k) << 3));
  return sum;
}

/** Divergence of the velocities as right sides of the finest level, sums of squares to `sums`. @param mean taken off it. */
export function divergence(g: Grid, k0: i32, k1: i32, mean: f32): void {
  const l = level(g, 0);
  const wide = (<usize>g.px) << 2;
  const deep = (<usize>g.plane) << 2;
  const scratch = g.swirl;
  const m = f32x4.splat(mean);
  for (let k = k0; k < k1; k++) {
    let sum: f64 = 0;
    for (let j = 1; j <= g.ny; j++) {
      const first = row(g, 0, j, k);
      const to = scratch + first;
      let squares = zero();
      for (let n = first + 4; n < first + 4 + ((<usize>g.nx) << 2); n += 16) {
        const x = f32x4.sub(four(g.u + n + 4), four(g.u + n));
        const y = f32x4.sub(four(g.v + n + wide), four(g.v + n));
        const z = f32x4.sub(four(g.w + n + deep), four(g.w + n));
        const d = f32x4.mul(f32x4.sub(f32x4.add(f32x4.add(x, y), z), m), four(g.open + n));
        squares = f32x4.add(squares, f32x4.mul(d, d));
        v128.store(scratch + n, d);
      }
      store<f32>(to, 0);
      store<f32>(to + ((<usize>(g.nx + 1)) << 2), 0);
      part(to, l, j, k, l.b0, l.b1);
      sum += total(squares);
    }
    store<f64>(g.sums + ((<usize>k) << 3), sum);
  }
}

/** Sums of divergence over open cells, and in `counted` how many there are: what a closed box cannot give away. */
export function outflow(g: Grid, k: i32): f64 {
  let sum: f64 = 0;
  const wide = g.px;
  const deep = g.plane;
  for (let j = 1; j <= g.ny; j++)
    for (let i = 1; i <= g.nx; i++) {
      const n = k * deep + j * wide + i;
      if (at(g.open, n) === 0) continue;
      sum += <f64>(at(g.u, n + 1) - at(g.u, n) + at(g.v, n + wide) - at(g.v, n) + at(g.w, n + deep) - at(g.w, n));
    }
  return sum;
}

/** Takes the slope of pressure off the velocities between open cells. */
export function unpress(g: Grid, k0: i32, k1: i32): void {
  const wide = (<usize>g.px) << 2;
  const deep = (<usize>g.plane) << 2;
  const p = g.swirl;
  const end = k1 > g.nz ? g.nz + 2 : k1;
  for (let k = k0; k < end; k++)
    for (let j = 1; j <= g.ny + 1; j++) {
      const first = row(g, 0, j, k);
      for (let n = first + 4; n < first + ((<usize>(g.nx + 2)) << 2); n += 16) {
        const here = four(p + n);
        const open = four(g.open + n);
        const x = f32x4.mul(f32x4.sub(here, four(p + n - 4)), f32x4.mul(open, four(g.open + n - 4)));
        const y = f32x4.mul(f32x4.sub(here, four(p + n - wide)), f32x4.mul(open, four(g.open + n - wide)));
        const z = f32x4.mul(f32x4.sub(here, four(p + n - deep)), f32x4.mul(open, four(g.open + n - deep)));
        v128.store(g.u + n, f32x4.sub(four(g.u + n), x));
        v128.store(g.v + n, f32x4.sub(four(g.v + n), y));
        v128.store(g.w + n, f32x4.sub(four(g.w + n), z));
      }
    }
}

/** Pressure of the finest level in natural order, into `swirl`, which nobody needs then. */
export function layPressure(g: Grid, k0: i32, k1: i32): void {
  const l = level(g, 0);
  for (let k = k0; k < k1; k++) for (let j = 1; j <= g.ny; j++) joinRow(l, j, k, row(g, g.swirl, j, k));
}
