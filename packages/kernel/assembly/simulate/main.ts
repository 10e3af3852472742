import { carry, centreVelocities, change, correct, prepare, toFaces } from './advect';
import { addForces, Forces, swirls } from './forces';
import { allocate, at, Grid, meet, naturalArray, slab } from './grid';
import { fillLevels, level, makeLevels } from './levels';
import { cycle, divergence, layPressure, leftOver, openSide, outflow, planeSum, unpress } from './pressure';
import { blow, emit, keepWalls } from './sources';
import { busyBytes, fastest, markBusy, markNear, transport } from './transport';

const GRID_BYTES: usize = 512;
const NOISE_CELLS: i32 = 32 * 32 * 32;
/** Cells that gas may cross in a step of velocity, and share of a cell's gas that may leave it in one of transport. */
const REACH: f32 = 3;
const LEAVES: f32 = 0.9;

/** A domain of whole eights of cells; `tinted`: its smoke has colours. @returns its grid; 0 when there is no memory for it. */
export function create(nx: i32, ny: i32, nz: i32, threads: i32, walls: i32, tinted: bool): usize {
  const at0 = allocate(GRID_BYTES);
  const g = changetype<Grid>(at0);
  g.nx = nx;
  g.ny = ny;
  g.nz = nz;
  g.px = nx + 8;
  g.plane = g.px * (ny + 2);
  g.cells = g.plane * (nz + 2);
  g.threads = threads;
  g.meeting = allocate(64);
  g.u = naturalArray(g, 1);
  g.v = naturalArray(g, 1);
  g.w = naturalArray(g, 1);
  g.density = naturalArray(g, 1);
  g.heat = naturalArray(g, 1);
  g.other = naturalArray(g, 1);
  if (tinted) {
    g.red = naturalArray(g, 1);
    g.green = naturalArray(g, 1);
    g.blue = naturalArray(g, 1);
  }
  g.open = naturalArray(g, 1);
  g.swirl = naturalArray(g, 1);
  g.centre = naturalArray(g, 4);
  g.ahead = naturalArray(g, 4);
  g.force = naturalArray(g, 4);
  g.busyDensity = allocate(busyBytes(g));
  g.busyHeat = allocate(busyBytes(g));
  g.near = allocate(<usize>((ny + 2) * (nz + 2)));
  g.flows = allocate(flowBytes(g) * <usize>threads);
  g.walls = allocate((<usize>walls) << 2);
  g.wallSpeeds = allocate((<usize>walls) << 2);
  g.sums = allocate((<usize>(nz + 2)) << 3);
  makeLevels(g);
  // The last thing to be laid out: without it, memory was not enough for all.
  g.noise = allocate((<usize>NOISE_CELLS) << 4);
  return at0;
}

/** Room for the flows of a row and a plane. */
function flowBytes(g: Grid): usize {
  return (<usize>(g.plane + 2 * g.px)) << 2;
}

/** Where what is shared with the host lies, by number: see core's smoke-memory.ts. */
export function address(g: Grid, which: i32): usize {
  switch (which) {
    case 0:
      return g.u;
    case 1:
      return g.v;
    case 2:
      return g.w;
    case 3:
      return g.density;
    case 4:
      return g.heat;
    case 5:
      return g.open;
    case 6:
      return g.walls;
    case 7:
      return g.wallSpeeds;
    case 8:
      return g.noise;
    case 9:
      return g.red;
    case 10:
      return g.green;
    case 11:
      return g.blue;
    default:
      return 0;
  }
}

/** Memory for the host to put lists into. */
export function reserve(bytes: i32): usize {
  return allocate(<usize>bytes);
}

/** After `open` and the walls were written: makes the pressure solve's levels for them. */
export function enclose(g: Grid, wallCount: i32): void {
  g.wallCount = wallCount;
  fillLevels(g);
}

/** Lets go of the pressure of the frame before. */
export function forget(g: Grid): void {
  const l = level(g, 0);
  memory.fill(l.p0, 0, l.colourBytes);
  memory.fill(l.p1, 0, l.colourBytes);
}

/** Relative divergence that the last projection left (root mean square), and how many cycles it took. */
export function divergenceLeft(g: Grid): f64 {
  return g.leftOver;
}
export function cyclesTaken(g: Grid): i32 {
  return g.cycles;
}

/** The most that leaves a cell in a second, in cells; the same number in every thread. */
function mostOf(g: Grid): f32 {
  let most: f64 = 0;
  for (let k = 1; k <= g.nz; k++) most = Math.max(most, load<f64>(g.sums + ((<usize>k) << 3)));
  return <f32>most;
}

/**
 * Moves gas and what it carries on by a time, in as many steps as its speed asks for. All threads call it together.
 * @param second whether velocities are advected to second order.
 * @param tolerance relative divergence that is left at most, if `cycles` cycles of the pressure solve get there.
 */
export function advance(
  g: Grid,
  f: Forces,
  sources: usize,
  sourceCount: i32,
  time: f64,
  second: bool,
  tolerance: f64,
  cycles: i32,
  thread: i32,
): void {
  prepare(g);
  const k0 = slab(g.nz, thread, g.threads);
  const k1 = slab(g.nz, thread + 1, g.threads);
  let left = time;
  while (left > 1e-9) {
    fastest(g, k0, k1);
    meet(g);
    const parts = Math.max(1, Math.ceil((<f64>mostOf(g) * left) / REACH));
    const dt = left / parts;
    meet(g);
    if (thread === 0) {
      emit(g, sources, sourceCount, <f32>dt);
      keepWalls(g);
    }
    meet(g);
    step(g, f, sources, sourceCount, <f32>dt, second, thread, k0, k1);
    project(g, tolerance, cycles, thread, k0, k1);
    move(g, f, <f32>dt, k0, k1, thread);
    left -= dt;
  }
}

function step(
  g: Grid,
  f: Forces,
  sources: usize,
  sourceCount: i32,
  dt: f32,
  second: bool,
  thread: i32,
  k0: i32,
  k1: i32,
): void {
  centreVelocities(g, k0, k1);
  markBusy(g, g.density, g.busyDensity, k0, k1);
  markBusy(g, g.heat, g.busyHeat, k0, k1);
  meet(g);
  markNear(g, k0, k1);
  meet(g);
  carry(g, k0, k1, dt);
  if (f.swirl > 0) swirls(g, k0, k1);
  meet(g);
  if (second) correct(g, k0, k1, dt);
  else change(g, k0, k1);
  addForces(g, f, k0, k1, dt);
  meet(g);
  if (thread === 0) blow(g, sources, sourceCount);
  meet(g);
  toFaces(g, k0, k1);
  meet(g);
  if (thread === 0) keepWalls(g);
  meet(g);
}

/** Makes velocities free of divergence: what flows into a cell flows out of it. */
export function project(g: Grid, tolerance: f64, cycles: i32, thread: i32, k0: i32, k1: i32): void {
  const mean = boxed(g) ? meanOutflow(g, k0, k1) : 0;
  divergence(g, k0, k1, mean);
  meet(g);
  const before = planeSum(g);
  meet(g);
  let after = before;
  let taken = 0;
  // What is next to nothing beside a cell a second is nobody's wind.
  const least = 1e-12 * <f64>g.cells;
  while (taken < cycles && before > least && after > tolerance * tolerance * before) {
    cycle(g, 0, thread, g.threads);
    leftOver(g, k0, k1);
    meet(g);
    after = planeSum(g);
    meet(g);
    taken++;
  }
  if (thread === 0) {
    g.leftOver = before > least ? Math.sqrt(after / before) : 0;
    g.cycles = taken;
  }
  layPressure(g, k0, k1);
  meet(g);
  unpress(g, k0, k1);
  meet(g);
}

/** Whether no side is open: then only as much can come in as goes out. */
function boxed(g: Grid): bool {
  for (let axis = 0; axis < 3; axis++) if (openSide(g, axis, false) || openSide(g, axis, true)) return false;
  return true;
}

function meanOutflow(g: Grid, k0: i32, k1: i32): f32 {
  for (let k = k0; k < k1; k++) store<f64>(g.sums + ((<usize>k) << 3), outflow(g, k));
  meet(g);
  const sum = planeSum(g);
  let open: f64 = 0;
  for (let n = 0; n < g.cells; n++) open += <f64>at(g.open, n);
  meet(g);
  return <f32>(sum / Math.max(1, open));
}

/** Density and heat go with the gas. */
function move(g: Grid, f: Forces, dt: f32, k0: i32, k1: i32, thread: i32): void {
  fastest(g, k0, k1);
  meet(g);
  const parts = <i32>Math.max(1, Math.ceil((<f64>mostOf(g) * dt) / LEAVES));
  meet(g);
  const short = dt / <f32>parts;
  const density = <f32>Math.pow(f.densityKept, short);
  const heat = <f32>Math.pow(f.heatKept, short);
  const flows = g.flows + flowBytes(g) * <usize>thread;
  for (let n = 0; n < parts; n++) {
    markBusy(g, g.density, g.busyDensity, k0, k1);
    markBusy(g, g.heat, g.busyHeat, k0, k1);
    meet(g);
    transport(g, g.density, g.other, g.busyDensity, k0, k1, short, density, flows);
    meet(g);
    swap(g, offsetof<Grid>('density'), thread);
    transport(g, g.heat, g.other, g.busyHeat, k0, k1, short, heat, flows);
    meet(g);
    swap(g, offsetof<Grid>('heat'), thread);
    if (g.red === 0) continue;
    for (let field = offsetof<Grid>('red'); field <= offsetof<Grid>('blue'); field += sizeof<usize>()) {
      transport(g, load<usize>(changetype<usize>(g) + field), g.other, g.busyDensity, k0, k1, short, density, flows);
      meet(g);
      swap(g, field, thread);
    }
  }
}

/** What was made becomes the array itself: two addresses change places. */
function swap(g: Grid, field: usize, thread: i32): void {
  if (thread === 0) {
    const made = g.other;
    g.other = load<usize>(changetype<usize>(g) + field);
    store<usize>(changetype<usize>(g) + field, made);
  }
  meet(g);
}
