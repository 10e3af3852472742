import { allocate, at, Grid, put } from './grid';

/**
 * A level of the pressure solve. Red cells (even i + j + k) and black ones lie in arrays of their own, so that a sweep over
 * one colour reads the other only and all lanes work; entry s of a row holds column 2s or 2s + 1. On the finest level every
 * face between open cells counts 1; on the others faces have weights.
 */
@unmanaged
export class Level {
  nx: i32;
  ny: i32;
  nz: i32;
  /** Floats in a row and a plane of one colour. */
  half: i32;
  plane: i32;
  /** Floats in a row and a plane of natural arrays. */
  px: i32;
  natural: i32;
  /** By colour: pressure, right side, inverse diagonal, diagonal. */
  p0: usize;
  p1: usize;
  b0: usize;
  b1: usize;
  inverse0: usize;
  inverse1: usize;
  diagonal0: usize;
  diagonal1: usize;
  /** By colour: six weights, one array after the other (left, right, below, above, behind, ahead). */
  weights0: usize;
  weights1: usize;
  colourBytes: usize;
  /** Natural: weights of faces, pressure for going to the finer level, and where it may be blended. */
  wx: usize;
  wy: usize;
  wz: usize;
  pressure: usize;
  blend: usize;
}

export const LEVEL_BYTES: usize = 256;
const MOST_LEVELS: i32 = 8;

// @ts-ignore: decorator
@inline
export function level(g: Grid, index: i32): Level {
  return changetype<Level>(g.levels + <usize>index * LEVEL_BYTES);
}

function colourArray(l: Level, count: i32): usize {
  const guard = <usize>(l.plane + 16);
  return allocate((<usize>(l.plane * (l.nz + 2) * count) + 2 * guard) << 2) + (guard << 2);
}

/** Lays out all levels: each has half the cells of the one before along every axis, while that can be. */
export function makeLevels(g: Grid): void {
  g.levels = allocate(LEVEL_BYTES * <usize>MOST_LEVELS);
  let nx = g.nx;
  let ny = g.ny;
  let nz = g.nz;
  let count = 0;
  for (;;) {
    const l = level(g, count);
    l.nx = nx;
    l.ny = ny;
    l.nz = nz;
    l.px = count === 0 ? g.px : (nx + 2 + 7) & ~7;
    l.natural = l.px * (ny + 2);
    l.half = l.px >> 1;
    l.plane = l.half * (ny + 2);
    l.colourBytes = (<usize>(l.plane * (nz + 2))) << 2;
    l.p0 = colourArray(l, 1);
    l.p1 = colourArray(l, 1);
    l.b0 = colourArray(l, 1);
    l.b1 = colourArray(l, 1);
    l.inverse0 = colourArray(l, 1);
    l.inverse1 = colourArray(l, 1);
    l.diagonal0 = colourArray(l, 1);
    l.diagonal1 = colourArray(l, 1);
    if (count > 0) {
      l.weights0 = colourArray(l, 6);
      l.weights1 = colourArray(l, 6);
      const floats = (<usize>(l.natural * (nz + 2) + 2 * l.natural + 32)) << 2;
      const guard = (<usize>(l.natural + 16)) << 2;
      l.wx = allocate(floats) + guard;
      l.wy = allocate(floats) + guard;
      l.wz = allocate(floats) + guard;
      l.pressure = allocate(floats) + guard;
      l.blend = allocate(floats) + guard;
    }
    count++;
    if (count === MOST_LEVELS || (nx & 1) + (ny & 1) + (nz & 1) > 0 || min(nx, min(ny, nz)) <= 4) break;
    nx >>= 1;
    ny >>= 1;
    nz >>= 1;
  }
  g.levelCount = count;
}

/** The share of its neighbours that a cell of the finest level is joined to. */
function joined(g: Grid, index: i32): f32 {
  const o = g.open;
  return (
    at(o, index - 1) +
    at(o, index + 1) +
    at(o, index - g.px) +
    at(o, index + g.px) +
    at(o, index - g.plane) +
    at(o, index + g.plane)
  );
}

/** Makes all levels anew for what is open and what is solid now. */
export function fillLevels(g: Grid): void {
  const first = level(g, 0);
  for (let k = 1; k <= g.nz; k++)
    for (let j = 1; j <= g.ny; j++)
      for (let i = 1; i <= g.nx; i++) {
        const index = k * g.plane + j * g.px + i;
        setDiagonal(first, i, j, k, at(g.open, index) > 0 ? joined(g, index) : 0);
      }
  for (let n = 1; n < g.levelCount; n++) {
    coarsen(g, n);
    spread(level(g, n));
  }
}

function setDiagonal(l: Level, i: i32, j: i32, k: i32, sum: f32): void {
  const red = ((i + j + k) & 1) === 0;
  const s = k * l.plane + j * l.half + (i >> 1);
  put(red ? l.inverse0 : l.inverse1, s, sum > 1e-6 ? <f32>1 / sum : 0);
  put(red ? l.diagonal0 : l.diagonal1, s, sum > 1e-6 ? sum : 0);
}

/** Weight of the face towards the cell before (i, j, k) along an axis, on a level. */
function faceWeight(g: Grid, n: i32, axis: i32, i: i32, j: i32, k: i32): f32 {
  if (n > 0) {
    const l = level(g, n);
    return at(axis === 0 ? l.wx : axis === 1 ? l.wy : l.wz, k * l.natural + j * l.px + i);
  }
  const index = k * g.plane + j * g.px + i;
  const step = axis === 0 ? 1 : axis === 1 ? g.px : g.plane;
  return at(g.open, index) * at(g.open, index - step);
}

/**
 * Weights of a coarse face: the mean of the four fine faces that it is made of. A wall inside a coarse cell is not seen by them, which
 * costs cycles where a chamber has a small way out; counting it in as well would leave that cell without a neighbour to hold
 * it, and the solve would run away.
 */
function coarsen(g: Grid, n: i32): void {
  const l = level(g, n);
  for (let k = 1; k <= l.nz + 1; k++)
    for (let j = 1; j <= l.ny + 1; j++)
      for (let i = 1; i <= l.nx + 1; i++) {
        const index = k * l.natural + j * l.px + i;
        const inX = j <= l.ny && k <= l.nz;
        const inY = i <= l.nx && k <= l.nz;
        const inZ = i <= l.nx && j <= l.ny;
        put(l.wx, index, inX ? meanWay(g, n - 1, 0, i, j, k) : 0);
        put(l.wy, index, inY ? meanWay(g, n - 1, 1, j, i, k) : 0);
        put(l.wz, index, inZ ? meanWay(g, n - 1, 2, k, i, j) : 0);
      }
}

/** Mean over the four fine faces that a coarse face at `along` has, with the others at `a` and `b`. */
function meanWay(g: Grid, n: i32, axis: i32, along: i32, a: i32, b: i32): f32 {
  let sum: f32 = 0;
  for (let q = 0; q < 2; q++) for (let p = 0; p < 2; p++) sum += way(g, n, axis, along, 2 * a - 1 + p, 2 * b - 1 + q);
  return sum * 0.25;
}

/** The weight of one of them: that towards the coarse cell before `along`. */
function way(g: Grid, n: i32, axis: i32, along: i32, a: i32, b: i32): f32 {
  const fine = level(g, n);
  const count = axis === 0 ? fine.nx : axis === 1 ? fine.ny : fine.nz;
  const f = 2 * along - 1;
  const shared = fineWeight(g, n, axis, f, a, b);
  // Open air begins half a cell of the finest level beyond the side, which is nearer than a coarse ghost cell is.
  return shared > 0 && (f === 1 || f > count) ? airWeight(n + 1) : shared;
}

/** Weight of a face to open air on a level. */
export function airWeight(n: i32): f32 {
  return <f32>2 / (<f32>1 + <f32>1 / <f32>(1 << n));
}

function fineWeight(g: Grid, n: i32, axis: i32, f: i32, a: i32, b: i32): f32 {
  if (axis === 0) return faceWeight(g, n, 0, f, a, b);
  return axis === 1 ? faceWeight(g, n, 1, a, f, b) : faceWeight(g, n, 2, a, b, f);
}

/** Puts a level's natural weights to its colours, with diagonals, and says where pressure may be blended. */
function spread(l: Level): void {
  const wide = l.px;
  const deep = l.natural;
  for (let k = 1; k <= l.nz; k++)
    for (let j = 1; j <= l.ny; j++)
      for (let i = 1; i <= l.nx; i++) {
        const index = k * deep + j * wide + i;
        const s = k * l.plane + j * l.half + (i >> 1);
        const to = ((i + j + k) & 1) === 0 ? l.weights0 : l.weights1;
        const left = at(l.wx, index);
        const right = at(l.wx, index + 1);
        const below = at(l.wy, index);
        const above = at(l.wy, index + wide);
        const behind = at(l.wz, index);
        const ahead = at(l.wz, index + deep);
        put(to, s, left);
        put(to + l.colourBytes, s, right);
        put(to + 2 * l.colourBytes, s, below);
        put(to + 3 * l.colourBytes, s, above);
        put(to + 4 * l.colourBytes, s, behind);
        put(to + 5 * l.colourBytes, s, ahead);
        setDiagonal(l, i, j, k, left + right + below + above + behind + ahead);
      }
  for (let k = 1; k <= l.nz; k++)
    for (let j = 1; j <= l.ny; j++)
      for (let i = 1; i <= l.nx; i++) put(l.blend, k * deep + j * wide + i, free(l, i, j, k) ? 1 : 0);
}

/** Whether all ways round a cell are open, so that pressure may be blended between it and its neighbours. */
function free(l: Level, i: i32, j: i32, k: i32): bool {
  for (let c = k - 1; c <= k + 1; c++)
    for (let b = j - 1; b <= j + 1; b++)
      for (let a = i - 1; a <= i + 1; a++) {
        if (a < 1 || b < 1 || c < 1 || a > l.nx || b > l.ny || c > l.nz) continue;
        const index = c * l.natural + b * l.px + a;
        if (a >= i && a > 1 && at(l.wx, index) < 1) return false;
        if (b >= j && b > 1 && at(l.wy, index) < 1) return false;
        if (c >= k && c > 1 && at(l.wz, index) < 1) return false;
      }
  return true;
}
