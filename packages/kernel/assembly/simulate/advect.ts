import { four, Grid, row } from './grid';
import { isNear } from './transport';

/** Bytes from a cell to its neighbours, and what places are kept within: of the grid at hand, set by `prepare`. */
let sy: i32 = 0;
let sz: i32 = 0;
let mx: f32 = 0;
let my: f32 = 0;
let mz: f32 = 0;

export function prepare(g: Grid): void {
  sy = g.px << 4;
  sz = g.plane << 4;
  mx = <f32>g.nx - 0.001;
  my = <f32>g.ny - 0.001;
  mz = <f32>g.nz - 0.001;
}

// @ts-ignore: decorator
@inline
function vector(x: f32, y: f32, z: f32): v128 {
  const v = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(0), 0, x), 1, y);
  return f32x4.replace_lane(v, 2, z);
}

/** Places are kept between the outermost centres, so that there is always a cell on either side. */
// @ts-ignore: decorator
@inline
function kept(place: v128, most: v128): v128 {
  return f32x4.min(f32x4.max(place, f32x4.splat(1)), most);
}

/** Bytes to the lowest of the eight cells round a place. */
// @ts-ignore: decorator
@inline
function cellOf(place: v128): usize {
  const whole = i32x4.trunc_sat_f32x4_s(place);
  return <usize>(
    ((i32x4.extract_lane(whole, 0) << 4) + i32x4.extract_lane(whole, 1) * sy + i32x4.extract_lane(whole, 2) * sz)
  );
}

// @ts-ignore: decorator
@inline
function between(a: v128, b: v128, share: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), share));
}

/** The four floats at a place that is kept, filtered between centres. */
// @ts-ignore: decorator
@inline
function look(array: usize, place: v128): v128 {
  const share = f32x4.sub(place, f32x4.floor(place));
  const a = array + cellOf(place);
  const tx = v128.shuffle<f32>(share, share, 0, 0, 0, 0);
  const ty = v128.shuffle<f32>(share, share, 1, 1, 1, 1);
  const tz = v128.shuffle<f32>(share, share, 2, 2, 2, 2);
  const c = a + <usize>sy;
  const b = a + <usize>sz;
  const d = b + <usize>sy;
  const near = between(between(four(a), v128.load(a, 16), tx), between(four(c), v128.load(c, 16), tx), ty);
  const far = between(between(four(b), v128.load(b, 16), tx), between(four(d), v128.load(d, 16), tx), ty);
  return between(near, far, tz);
}

/** Velocities at the centres of cells, from those at their faces. Solids have that of their cells already. */
export function centreVelocities(g: Grid, k0: i32, k1: i32): void {
  const half = f32x4.splat(0.5);
  const zero = f32x4.splat(0);
  const wide = (<usize>g.px) << 2;
  const deep = (<usize>g.plane) << 2;
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      let u = row(g, g.u, j, k) + 4;
      let v = row(g, g.v, j, k) + 4;
      let w = row(g, g.w, j, k) + 4;
      let c = g.centre + ((<usize>(k * g.plane + j * g.px + 1)) << 4);
      for (let i = 0; i < g.nx; i += 4) {
        const x = f32x4.mul(f32x4.add(four(u), four(u + 4)), half);
        const y = f32x4.mul(f32x4.add(four(v), four(v + wide)), half);
        const z = f32x4.mul(f32x4.add(four(w), four(w + deep)), half);
        const xy0 = v128.shuffle<f32>(x, y, 0, 4, 1, 5);
        const xy1 = v128.shuffle<f32>(x, y, 2, 6, 3, 7);
        const z0 = v128.shuffle<f32>(z, zero, 0, 4, 1, 5);
        const z1 = v128.shuffle<f32>(z, zero, 2, 6, 3, 7);
        v128.store(c, v128.shuffle<f32>(xy0, z0, 0, 1, 4, 5));
        v128.store(c + 16, v128.shuffle<f32>(xy0, z0, 2, 3, 6, 7));
        v128.store(c + 32, v128.shuffle<f32>(xy1, z1, 0, 1, 4, 5));
        v128.store(c + 48, v128.shuffle<f32>(xy1, z1, 2, 3, 6, 7));
        u += 16;
        v += 16;
        w += 16;
        c += 64;
      }
    }
}

/** Where what is at a place now was a time ago (or will be, for a negative time), by the midpoint rule. */
// @ts-ignore: decorator
@inline
function trace(centre: usize, here: v128, place: v128, dt: v128, most: v128): v128 {
  const middle = kept(f32x4.sub(place, f32x4.mul(here, f32x4.mul(dt, f32x4.splat(0.5)))), most);
  return kept(f32x4.sub(place, f32x4.mul(look(centre, middle), dt)), most);
}

/**
 * Semi-Lagrangian (Stam 1999): velocities that arrive at centres, into `ahead`; the fourth float says from which cell they
 * came.
 */
export function carry(g: Grid, k0: i32, k1: i32, dt: f32): void {
  const most = vector(mx, my, mz);
  const time = f32x4.splat(dt);
  const one = vector(1, 0, 0);
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      const first = (<usize>(k * g.plane + j * g.px + 1)) << 4;
      const end = first + ((<usize>g.nx) << 4);
      let place = vector(1, <f32>j, <f32>k);
      if (!isNear(g, j, k)) {
        // Air that nobody sees takes the straight way.
        for (let n = first; n < end; n += 16) {
          const from = kept(f32x4.sub(place, f32x4.mul(four(g.centre + n), time)), most);
          v128.store(g.ahead + n, look(g.centre, from));
          place = f32x4.add(place, one);
        }
        continue;
      }
      for (let n = first; n < end; n += 16) {
        const from = trace(g.centre, four(g.centre + n), place, time, most);
        const value = look(g.centre, from);
        v128.store(g.ahead + n, f32x4.replace_lane(value, 3, <f32>(<i32>(cellOf(from) >>> 4))));
        place = f32x4.add(place, one);
      }
    }
}

/**
 * The correction of MacCormack (Selle et al. 2008), kept within what was looked at. Leaves the change of velocity in
 * `force`.
 */
export function correct(g: Grid, k0: i32, k1: i32, dt: f32): void {
  const most = vector(mx, my, mz);
  const half = f32x4.splat(0.5);
  const time = f32x4.splat(-dt);
  const one = vector(1, 0, 0);
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      const first = (<usize>(k * g.plane + j * g.px + 1)) << 4;
      const end = first + ((<usize>g.nx) << 4);
      let place = vector(1, <f32>j, <f32>k);
      if (!isNear(g, j, k)) {
        for (let n = first; n < end; n += 16) v128.store(g.force + n, f32x4.sub(four(g.ahead + n), four(g.centre + n)));
        continue;
      }
      for (let n = first; n < end; n += 16) {
        const here = four(g.centre + n);
        const came = four(g.ahead + n);
        const back = look(g.ahead, trace(g.centre, here, place, time, most));
        const value = f32x4.add(came, f32x4.mul(f32x4.sub(here, back), half));
        const a = g.centre + ((<usize>(<i32>f32x4.extract_lane(came, 3))) << 4);
        const c = a + <usize>sy;
        const b = a + <usize>sz;
        const d = b + <usize>sy;
        const low = f32x4.min(
          f32x4.min(f32x4.min(four(a), v128.load(a, 16)), f32x4.min(four(c), v128.load(c, 16))),
          f32x4.min(f32x4.min(four(b), v128.load(b, 16)), f32x4.min(four(d), v128.load(d, 16))),
        );
        const high = f32x4.max(
          f32x4.max(f32x4.max(four(a), v128.load(a, 16)), f32x4.max(four(c), v128.load(c, 16))),
          f32x4.max(f32x4.max(four(b), v128.load(b, 16)), f32x4.max(four(d), v128.load(d, 16))),
        );
        v128.store(g.force + n, f32x4.sub(f32x4.min(f32x4.max(value, low), high), here));
        place = f32x4.add(place, one);
      }
    }
}

/** Without the correction: the change of velocity by what arrived. */
export function change(g: Grid, k0: i32, k1: i32): void {
  for (let k = k0; k < k1; k++)
    for (let j = 1; j <= g.ny; j++) {
      let offset = (<usize>(k * g.plane + j * g.px + 1)) << 4;
      for (let i = 1; i <= g.nx; i++) {
        v128.store(g.force + offset, f32x4.sub(four(g.ahead + offset), four(g.centre + offset)));
        offset += 16;
      }
    }
}

/**
 * Adds changes at centres to faces: each takes half of those on its two sides, those at the sides of the domain all of the
 * inner one. What is kept at faces is only changed, so that it does not blur by going to centres and back.
 */
export function toFaces(g: Grid, k0: i32, k1: i32): void {
  const half = f32x4.splat(0.5);
  const sy4 = (<usize>g.px) << 4;
  const sz4 = (<usize>g.plane) << 4;
  // The last thread has the faces at the far end as well.
  const end = k1 > g.nz ? g.nz + 2 : k1;
  for (let k = k0; k < end; k++)
    for (let j = 1; j <= g.ny + 1; j++) {
      const deep = k > g.nz;
      const wide = j > g.ny;
      if (deep && wide) continue;
      let f = g.force + ((<usize>(k * g.plane + j * g.px + 1)) << 4);
      const u = row(g, g.u, j, k) + 4;
      const v = row(g, g.v, j, k) + 4;
      const w = row(g, g.w, j, k) + 4;
      for (let i = 0; i < g.nx; i++) {
        const here = four(f);
        const n = (<usize>i) << 2;
        if (!deep && !wide) {
          const x = i === 0 ? here : f32x4.mul(f32x4.add(four(f - 16), here), half);
          store<f32>(u + n, load<f32>(u + n) + f32x4.extract_lane(x, 0));
          if (i === g.nx - 1) store<f32>(u + n + 4, load<f32>(u + n + 4) + f32x4.extract_lane(here, 0));
        }
        if (!deep) {
          const y = wide ? four(f - sy4) : j === 1 ? here : f32x4.mul(f32x4.add(four(f - sy4), here), half);
          store<f32>(v + n, load<f32>(v + n) + f32x4.extract_lane(y, 1));
        }
        if (!wide) {
          const z = deep ? four(f - sz4) : k === 1 ? here : f32x4.mul(f32x4.add(four(f - sz4), here), half);
          store<f32>(w + n, load<f32>(w + n) + f32x4.extract_lane(z, 2));
        }
        f += 16;
      }
    }
}
