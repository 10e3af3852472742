import { at, four, Grid, row } from './grid';
import { isNear } from './transport';

/** What acts on the gas besides its own pressure; per second and in cells. */
@unmanaged
export class Forces {
  /** Acceleration upwards for each unit of density (negative: it sinks) and for each degree above the room's. */
  weight: f32;
  lift: f32;
  /** Vorticity confinement. */
  swirl: f32;
  /** Acceleration by turbulence, how many of its tiles go into a cell, and where the tile begins. */
  turbulence: f32;
  scale: f32;
  driftX: f32;
  driftY: f32;
  driftZ: f32;
  /** Wind, and how fast gas takes it on. */
  windX: f32;
  windY: f32;
  windZ: f32;
  pull: f32;
  /** No gas is faster than so many cells a second. */
  fastest: f32;
  /** Density and heat that stay after a second, 0..1. */
  densityKept: f32;
  heatKept: f32;
}

// @ts-ignore: decorator
@inline
function vector(x: f32, y: f32, z: f32): v128 {
  const v = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(0), 0, x), 1, y);
  return f32x4.replace_lane(v, 2, z);
}

/** Rotation at a cell from its neighbours' velocities. */
// @ts-ignore: decorator
@inline
function curl(dx: v128, dy: v128, dz: v128): v128 {
  const yz = v128.shuffle<f32>(dy, dz, 2, 4, 0, 0);
  const zy = v128.shuffle<f32>(dz, dx, 1, 6, 0, 0);
  const a = v128.shuffle<f32>(yz, dx, 0, 1, 5, 5);
  const b = v128.shuffle<f32>(zy, dy, 0, 1, 4, 4);
  return f32x4.sub(a, b);
}

/** Strength of rotation at centres, from velocities at centres. */
export function swirls(g: Grid, k0: i32, k1: i32): void {
  const sy = (<usize>g.px) << 4;
  const sz = (<usize>g.plane) << 4;
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      if (!isNear(g, j, k)) continue;
      const to = row(g, g.swirl, j, k);
      for (let i = 1; i <= g.nx; i++) {
        const c = g.centre + ((<usize>(k * g.plane + j * g.px + i)) << 4);
        const dx = f32x4.sub(four(i < g.nx ? c + 16 : c), four(i > 1 ? c - 16 : c));
        const dy = f32x4.sub(four(j < g.ny ? c + sy : c), four(j > 1 ? c - sy : c));
        const dz = f32x4.sub(four(k < g.nz ? c + sz : c), four(k > 1 ? c - sz : c));
        const w = curl(dx, dy, dz);
        const q = f32x4.mul(w, w);
        const sum = f32x4.extract_lane(q, 0) + f32x4.extract_lane(q, 1) + f32x4.extract_lane(q, 2);
        store<f32>(to + ((<usize>i) << 2), f32x4.extract_lane(f32x4.sqrt(f32x4.splat(sum)), 0) * 0.5);
      }
    }
}

const TILE: i32 = 32;

// @ts-ignore: decorator
@inline
function wrapped(x: f32): i32 {
  return (<i32>Math.floor(x)) & (TILE - 1);
}

/** Noise at a place of the endless tile, filtered. */
function noiseAt(tile: usize, x: f32, y: f32, z: f32): v128 {
  const i = wrapped(x);
  const j = wrapped(y);
  const k = wrapped(z);
  const fx = f32x4.splat(x - <f32>Math.floor(x));
  const fy = f32x4.splat(y - <f32>Math.floor(y));
  const fz = f32x4.splat(z - <f32>Math.floor(z));
  const i1 = (i + 1) & (TILE - 1);
  const j1 = (j + 1) & (TILE - 1);
  const k1 = (k + 1) & (TILE - 1);
  const near = mixed(
    mixed(cell(tile, i, j, k), cell(tile, i1, j, k), fx),
    mixed(cell(tile, i, j1, k), cell(tile, i1, j1, k), fx),
    fy,
  );
  const far = mixed(
    mixed(cell(tile, i, j, k1), cell(tile, i1, j, k1), fx),
    mixed(cell(tile, i, j1, k1), cell(tile, i1, j1, k1), fx),
    fy,
  );
  return mixed(near, far, fz);
}

// @ts-ignore: decorator
@inline
function cell(tile: usize, i: i32, j: i32, k: i32): v128 {
  return four(tile + ((<usize>((k * TILE + j) * TILE + i)) << 4));
}

// @ts-ignore: decorator
@inline
function mixed(a: v128, b: v128, t: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t));
}

/** Adds to the changes of velocity at centres what buoyancy, swirl, turbulence and wind do in a step. */
export function addForces(g: Grid, f: Forces, k0: i32, k1: i32, dt: f32): void {
  const taken = <f32>(1.0 - Math.exp(-(<f64>f.pull * dt)));
  const wind = f32x4.mul(vector(f.windX, f.windY, f.windZ), f32x4.splat(taken));
  const keep = f32x4.splat(taken);
  const limit = f32x4.splat(f.fastest);
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      const swirl = row(g, g.swirl, j, k);
      if (!isNear(g, j, k) && taken <= 0) continue;
      for (let i = 1; i <= g.nx; i++) {
        const index = k * g.plane + j * g.px + i;
        if (at(g.open, index) === 0) continue;
        const p = g.force + ((<usize>index) << 4);
        const density = at(g.density, index);
        const up = (f.weight * density + f.lift * at(g.heat, index)) * dt;
        let added = f32x4.replace_lane(f32x4.splat(0), 1, up);
        if (f.swirl > 0 && density > 0.001)
          added = f32x4.add(added, confinement(g, swirl, index, i, j, k, f.swirl * dt));
        if (f.turbulence > 0 && density > 0.001) {
          const s = f.scale;
          const n = noiseAt(g.noise, <f32>i * s + f.driftX, <f32>j * s + f.driftY, <f32>k * s + f.driftZ);
          // Only where there is smoke: turbulence of empty air would be seen by nobody.
          added = f32x4.add(added, f32x4.mul(n, f32x4.splat(f.turbulence * dt * min<f32>(1, density * 4))));
        }
        if (taken > 0)
          added = f32x4.add(added, f32x4.sub(wind, f32x4.mul(four(g.centre + ((<usize>index) << 4)), keep)));
        // Nothing blows up: no gas is faster than a limit that no picture could show anyway.
        const was = four(g.centre + ((<usize>index) << 4));
        const now = f32x4.add(f32x4.add(was, four(p)), added);
        v128.store(p, f32x4.sub(f32x4.max(f32x4.min(now, limit), f32x4.neg(limit)), was));
      }
    }
}

/** Rotation that the grid blurs is given back (Fedkiw, Stam and Jensen 2001). */
function confinement(g: Grid, swirl: usize, index: i32, i: i32, j: i32, k: i32, amount: f32): v128 {
  const s = swirl + ((<usize>i) << 2);
  const wide = (<usize>g.px) << 2;
  const deep = (<usize>g.plane) << 2;
  const nx = i > 1 && i < g.nx ? load<f32>(s + 4) - load<f32>(s - 4) : 0;
  const ny = j > 1 && j < g.ny ? load<f32>(s + wide) - load<f32>(s - wide) : 0;
  const nz = k > 1 && k < g.nz ? load<f32>(s + deep) - load<f32>(s - deep) : 0;
  const long = f32x4.extract_lane(f32x4.sqrt(f32x4.splat(nx * nx + ny * ny + nz * nz)), 0);
  if (long < 1e-6 || i <= 1 || i >= g.nx || j <= 1 || j >= g.ny || k <= 1 || k >= g.nz) return f32x4.splat(0);
  const sy = (<usize>g.px) << 4;
  const sz = (<usize>g.plane) << 4;
  const c = g.centre + ((<usize>index) << 4);
  const dx = f32x4.sub(four(c + 16), four(c - 16));
  const dy = f32x4.sub(four(c + sy), four(c - sy));
  const dz = f32x4.sub(four(c + sz), four(c - sz));
  const w = curl(dx, dy, dz);
  const wx = f32x4.extract_lane(w, 0);
  const wy = f32x4.extract_lane(w, 1);
  const wz = f32x4.extract_lane(w, 2);
  const n = (amount * 0.5) / long;
  return vector((ny * wz - nz * wy) * n, (nz * wx - nx * wz) * n, (nx * wy - ny * wx) * n);
}
