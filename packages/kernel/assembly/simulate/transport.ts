import { four, Grid, row } from './grid';

// @ts-ignore: decorator
@inline
function zero(): v128 {
  return f32x4.splat(0);
}

/**
 * Share of a cell that crosses a face with the flow, per cell: the upwind value with van Leer's limited slope (1974), for a
 * flow of `c` cells in the step. The values lie along the way across: two before the face, two behind.
 */
// @ts-ignore: decorator
@inline
function flux(c: v128, a: v128, b: v128, d: v128, e: v128): v128 {
  const forward = f32x4.gt(c, zero());
  const step = f32x4.sub(d, b);
  const before = v128.bitselect(f32x4.sub(b, a), f32x4.sub(e, d), forward);
  const upwind = v128.bitselect(b, d, forward);
  const product = f32x4.mul(before, step);
  const sum = f32x4.add(before, step);
  const rising = f32x4.gt(product, zero());
  // Where the slopes have no common sign there is none, and nothing is divided by.
  const slope = v128.and(f32x4.div(f32x4.add(product, product), v128.bitselect(sum, f32x4.splat(1), rising)), rising);
  const speed = f32x4.abs(c);
  const reach = f32x4.mul(f32x4.mul(f32x4.sub(f32x4.splat(1), speed), f32x4.splat(0.5)), slope);
  // The slope points along the axis: from an upwind cell behind the face it is gone against.
  const towards = v128.bitselect(reach, f32x4.neg(reach), forward);
  return f32x4.mul(c, f32x4.add(upwind, towards));
}

// @ts-ignore: decorator
@inline
function across(q: usize, stride: usize, speed: usize, open: usize, dt: v128): v128 {
  const c = f32x4.mul(f32x4.mul(four(speed), dt), f32x4.mul(four(open - stride), four(open)));
  return flux(c, four(q - stride - stride), four(q - stride), four(q), four(q + stride));
}

/** Whether a row and those that anything could come from are empty. */
function still(g: Grid, busy: usize, j: i32, k: i32): bool {
  const wide = <usize>(g.ny + 2 + 2 * REACH);
  const b = busy + <usize>(k + REACH) * wide + <usize>(j + REACH);
  const along = load<u8>(b) | load<u8>(b - 1) | load<u8>(b + 1) | load<u8>(b - 2) | load<u8>(b + 2);
  const deep = wide + wide;
  return (along | load<u8>(b - wide) | load<u8>(b + wide) | load<u8>(b - deep) | load<u8>(b + deep)) === 0;
}

/** Rows beyond the grid's that may be asked about. */
const REACH: i32 = 4;

/** Bytes that say which rows hold anything. */
export function busyBytes(g: Grid): usize {
  return <usize>((g.ny + 2 + 2 * REACH) * (g.nz + 2 + 2 * REACH));
}

/** Notes rows that hold anything, for transport to pass over the others. */
export function markBusy(g: Grid, from: usize, busy: usize, k0: i32, k1: i32): void {
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      const first = row(g, from, j, k) + 4;
      let any = zero();
      for (let n = first; n < first + ((<usize>g.nx) << 2); n += 16) any = v128.or(any, four(n));
      store<u8>(busy + <usize>((k + REACH) * (g.ny + 2 + 2 * REACH) + j + REACH), v128.any_true(any) ? 1 : 0);
    }
}

/** Notes rows that have density or heat within a few rows of them. */
export function markNear(g: Grid, k0: i32, k1: i32): void {
  const wide = <usize>(g.ny + 2 + 2 * REACH);
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      let any: u8 = 0;
      for (let b = k; b <= k + 2 * REACH; b++) {
        const first = <usize>b * wide + <usize>j;
        // Nine rows at once would read past the end: eight, and the last one by itself.
        any |= load<u64>(g.busyDensity + first) !== 0 || load<u64>(g.busyHeat + first) !== 0 ? 1 : 0;
        any |= load<u8>(g.busyDensity + first, 8) | load<u8>(g.busyHeat + first, 8);
      }
      store<u8>(g.near + <usize>(k * (g.ny + 2) + j), any);
    }
}

// @ts-ignore: decorator
@inline
export function isNear(g: Grid, j: i32, k: i32): bool {
  return load<u8>(g.near + <usize>(k * (g.ny + 2) + j)) !== 0;
}

/**
 * Carries a quantity by the velocities at faces, by what crosses each face: what leaves one cell enters the next, so that
 * nothing is lost, and nothing crosses a solid. Stable while what leaves a cell in a step is less than the cell. Empty rows
 * cost next to nothing.
 * @param keep what stays of it in this step: 1 without dissipation.
 * @param scratch room for the flows of a row and a plane.
 */
export function transport(
  g: Grid,
  from: usize,
  to: usize,
  busy: usize,
  k0: i32,
  k1: i32,
  dt: f32,
  keep: f32,
  scratch: usize,
): void {
  const t = f32x4.splat(dt);
  const kept = f32x4.splat(keep);
  const wide = (<usize>g.px) << 2;
  const deep = (<usize>g.plane) << 2;
  const bytes = (<usize>g.nx) << 2;
  const planes = scratch + wide;
  // Flows into the first plane from behind; after that each plane leaves its own to the next.
  for (let j = 1; j <= g.ny; j++)
    for (let n: usize = 0; n < bytes; n += 16) {
      const q = row(g, 0, j, k0) + 4 + n;
      v128.store(planes + <usize>j * wide + n, across(from + q, deep, g.w + q, g.open + q, t));
    }
  for (let k = k0; k < k1; k++) {
    for (let n: usize = 0; n < bytes; n += 16) {
      const q = row(g, 0, 1, k) + 4 + n;
      v128.store(scratch + n, across(from + q, wide, g.v + q, g.open + q, t));
    }
    for (let j = 1; j <= g.ny; j++) {
      const first = row(g, 0, j, k) + 4;
      const behindAt = planes + <usize>j * wide;
      if (still(g, busy, j, k)) {
        memory.fill(to + first, 0, bytes);
        memory.fill(scratch, 0, bytes);
        memory.fill(behindAt, 0, bytes);
        continue;
      }
      let before = across(from + first, 4, g.u + first, g.open + first, t);
      // The flow into the first cell of four is the last of the four before.
      before = v128.shuffle<f32>(before, before, 0, 0, 0, 0);
      for (let n: usize = 0; n < bytes; n += 16) {
        const m = first + n;
        const q = from + m;
        const open = g.open + m;
        const right = across(q + 4, 4, g.u + m + 4, open + 4, t);
        const left = v128.shuffle<f32>(before, right, 3, 4, 5, 6);
        before = right;
        const below = four(scratch + n);
        const above = across(q + wide, wide, g.v + m + wide, open + wide, t);
        v128.store(scratch + n, above);
        const behind = four(behindAt + n);
        const ahead = across(q + deep, deep, g.w + m + deep, open + deep, t);
        v128.store(behindAt + n, ahead);
        const come = f32x4.add(f32x4.add(f32x4.sub(left, right), f32x4.sub(below, above)), f32x4.sub(behind, ahead));
        const value = f32x4.mul(f32x4.add(four(q), come), kept);
        v128.store(to + m, f32x4.mul(f32x4.max(value, zero()), four(open)));
      }
    }
  }
}

/** The most that leaves any cell of a plane in a second, in cells: what bounds the step. */
export function fastest(g: Grid, k0: i32, k1: i32): void {
  const wide = (<usize>g.px) << 2;
  const deep = (<usize>g.plane) << 2;
  for (let k = k0; k < k1; k++) {
    let most = zero();
    for (let j = 1; j <= g.ny; j++) {
      const first = row(g, 0, j, k) + 4;
      const end = first + ((<usize>g.nx) << 2);
      for (let n = first; n < end; n += 16) {
        const x = f32x4.max(f32x4.abs(four(g.u + n)), f32x4.abs(four(g.u + n + 4)));
        const y = f32x4.max(f32x4.abs(four(g.v + n)), f32x4.abs(four(g.v + n + wide)));
        const z = f32x4.max(f32x4.abs(four(g.w + n)), f32x4.abs(four(g.w + n + deep)));
        most = f32x4.max(most, f32x4.add(f32x4.add(x, y), z));
      }
    }
    const best = max(
      max(f32x4.extract_lane(most, 0), f32x4.extract_lane(most, 1)),
      max(f32x4.extract_lane(most, 2), f32x4.extract_lane(most, 3)),
    );
    store<f64>(g.sums + ((<usize>k) << 3), <f64>best);
  }
}
