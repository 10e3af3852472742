/**
 * The grid of a smoke domain. Cells 1..nx, 1..ny, 1..nz with one ghost cell on every side; natural arrays have rows of `px`
 * floats, x fastest. Velocities are staggered: `u` of a cell is that of the face towards the cell before it. Lengths are in
 * cells, times in seconds unless said otherwise.
 */
@unmanaged
export class Grid {
  nx: i32;
  ny: i32;
  nz: i32;
  /** Floats in a row, in a plane and in all of a natural array. */
  px: i32;
  plane: i32;
  cells: i32;
  /** Velocities at faces, cells per second. */
  u: usize;
  v: usize;
  w: usize;
  /** Density and temperature at cell centres, and where transport puts them. */
  density: usize;
  heat: usize;
  other: usize;
  /** Density of each colour's share; 0 where all smoke is white. */
  red: usize;
  green: usize;
  blue: usize;
  /** 1 where gas can be, 0 in solids and behind closed sides. */
  open: usize;
  /** Velocity at cell centres and what advection makes of it: four floats a cell (x, y, z, unused). */
  centre: usize;
  ahead: usize;
  /** Bytes that say which rows hold density and heat, and room for each thread's flows. */
  busyDensity: usize;
  /** Bytes that say which rows are near any of it: air further off is moved with less care. */
  near: usize;
  busyHeat: usize;
  flows: usize;
  /** Strength of swirl, and forces at cell centres (four floats a cell). */
  swirl: usize;
  force: usize;
  /** Faces at solids: index into all velocities (u, then v, then w), and the velocity of the solid there. */
  walls: usize;
  wallSpeeds: usize;
  wallCount: i32;
  /** Sums over planes, one double each. */
  sums: usize;
  /** Levels of the pressure solve, finest first. */
  levels: usize;
  levelCount: i32;
  /** Threads that work together, and where they meet: arrivals, round. */
  threads: i32;
  meeting: usize;
  /** Tile of noise for turbulence: four floats a cell, 32 cells wide. */
  noise: usize;
  /** Relative divergence that the last projection left, and its cycles. */
  leftOver: f64;
  cycles: i32;
}

let top: usize = 0;

/** Memory that is never given back: a solver lives as long as its module's instance. */
export function allocate(bytes: usize): usize {
  if (top === 0) top = __heap_base;
  const at = (top + 63) & ~63;
  top = at + bytes;
  const pages = <i32>((top + 0xffff) >>> 16);
  if (pages > memory.size() && memory.grow(pages - memory.size()) < 0) return 0;
  memory.fill(at, 0, bytes);
  return at;
}

/** Floats before and after every natural array, so that looks past an end stay inside memory. */
export const GUARD: i32 = 8;

export function naturalArray(g: Grid, floats: i32): usize {
  const guard = g.plane * 2 + GUARD;
  return allocate((<usize>((g.cells + 2 * guard) * floats)) << 2) + ((<usize>(guard * floats)) << 2);
}

// @ts-ignore: decorator
@inline
export function row(g: Grid, array: usize, j: i32, k: i32): usize {
  return array + ((<usize>(k * g.plane + j * g.px)) << 2);
}

// @ts-ignore: decorator
@inline
export function at(array: usize, index: i32): f32 {
  return load<f32>(array + ((<usize>index) << 2));
}

// @ts-ignore: decorator
@inline
export function put(array: usize, index: i32, value: f32): void {
  store<f32>(array + ((<usize>index) << 2), value);
}

// @ts-ignore: decorator
@inline
export function four(address: usize): v128 {
  return v128.load(address);
}

/** First plane of a thread's share of planes 1..nz; thread `threads` gives the end. */
export function slab(nz: i32, thread: i32, threads: i32): i32 {
  return 1 + (nz * thread) / threads;
}

/** Waits until all threads have come here. What was written before is seen by all after. */
export function meet(g: Grid): void {
  if (g.threads < 2) return;
  const m = g.meeting;
  const round = atomic.load<i32>(m + 4);
  if (atomic.add<i32>(m, 1) === g.threads - 1) {
    atomic.store<i32>(m, 0);
    atomic.add<i32>(m + 4, 1);
    atomic.notify(m + 4, g.threads);
    return;
  }
  // Passes are short: looking again is quicker than sleeping, most of the time.
  for (let i = 0; i < 20000; i++) if (atomic.load<i32>(m + 4) !== round) return;
  while (atomic.load<i32>(m + 4) === round) atomic.wait<i32>(m + 4, round, -1);
}
