import {
  at,
  FLAG_IDENTITY,
  FLAG_MOVING,
  I_CLOSE,
  I_COLUMNS,
  I_FLAGS,
  I_INVERSE,
  I_KIND,
  I_MASK,
  I_MESH,
  I_OPEN,
  I_SLOTS,
  instance,
  KIND_MESH,
  M_PASSES,
  material,
  Mesh,
  RAY_SHADOW,
  Scene,
  word,
} from './scene';
import { hitLight } from './light-shapes';

/**
 * Wide node, 128 bytes: six rows of four f32, one a child (min x, y, z, max x, y, z), then four i32 children, then pad.
 * A child >= 0 is a node. Below, in a mesh -1 - (first packet * 8 + packets - 1) is a leaf, in the top level
 * -1 - instance. Missing children have an empty box.
 *
 * Triangle packet, 160 bytes: nine rows of four f32 (vertex x y z, first edge x y z, second edge x y z), then four i32
 * triangle numbers; missing triangles have number -1 and edges of length zero.
 */
export const NODE_BYTES: usize = 128;
export const PACKET_BYTES: usize = 160;
const CHILDREN: usize = 96;
const IDS: usize = 144;
const STACK_ENTRY: usize = 8;
const EPSILON: f64 = 1e-12;
/** Single precision decides what is worth a look, double precision what is a hit: these widen the first. */
const SLACK: f32 = 1e-4;
const NONE: i32 = i32.MIN_VALUE;

@unmanaged
export class Hit {
  /** Distance of the nearest hit, barycentrics of the triangle's second and third vertex. */
  t: f64;
  u: f64;
  v: f64;
  /** What was hit; instance -1: nothing. For a light the triangle is the light's number. */
  instance: i32;
  triangle: i32;
  /** Rays cast so far. */
  rays: u32;
  /** Room for (f32 near, i32 node) entries, with 16 bytes free below. */
  stack: usize;
  /** When the ray is cast: 0 shutter opens, 1 it closes. */
  time: f64;
  /** Reach in single precision. */
  best: f32;
  through: i32;
  /** 12 doubles: world to thing, for the moving thing that is looked at. */
  inverse: usize;
}

// @ts-ignore: decorator
@inline
function inverse(d: f64): f32 {
  return <f32>(1.0 / (Math.abs(d) > EPSILON ? d : d < 0 ? -EPSILON : EPSILON));
}

/** First free place of the stack when a mesh is visited; a global is this instance's own, so threads do not share it. */
let free: usize = 0;

/**
 * Walks the tree for a ray of the kinds in `mask`. Nearest: leaves the hit in `hit` and returns 1 or 0. Any: 1 when
 * something opaque lies between, 2 when only see-through surfaces do, 0 when nothing does.
 */
export function walk(
  scene: Scene,
  hit: Hit,
  ox: f64,
  oy: f64,
  oz: f64,
  dx: f64,
  dy: f64,
  dz: f64,
  near: f64,
  far: f64,
  mask: i32,
  any: bool,
): i32 {
  hit.rays++;
  hit.t = far;
  hit.instance = -1;
  hit.through = 0;
  hit.best = <f32>Math.min(far, 3e38);
  // Shadow rays pass lights' shapes: their tree is left out.
  const lit = mask != RAY_SHADOW && scene.instanceCount > scene.solidCount;
  if (scene.solidCount == 0 && !lit) return 0;
  const ix = inverse(dx);
  const iy = inverse(dy);
  const iz = inverse(dz);
  const vix = f32x4.splat(ix);
  const viy = f32x4.splat(iy);
  const viz = f32x4.splat(iz);
  const vox = f32x4.splat(<f32>ox);
  const voy = f32x4.splat(<f32>oy);
  const voz = f32x4.splat(<f32>oz);
  const nx: usize = ix >= 0 ? 0 : 48;
  const ny: usize = iy >= 0 ? 16 : 64;
  const nz: usize = iz >= 0 ? 32 : 80;
  const base = hit.stack;
  let nodes = scene.nodes;
  let first = 0;
  let stage = lit ? 0 : 1;
  if (scene.solidCount == 0) {
    nodes = scene.lightNodes;
    stage = 1;
  }
  let top = base;
  let node: i32 = 0;
  for (;;) {
    if (node >= 0) {
      const met = enter(nodes + <usize>node * NODE_BYTES, base, top, vox, voy, voz, vix, viy, viz, nx, ny, nz, hit.best);
      if (met >= 0) {
        node = <i32>met;
        top += <usize>(met >> 32);
        continue;
      }
    } else {
      free = top;
      if (visit(scene, hit, first - 1 - node, ox, oy, oz, dx, dy, dz, near, far, mask, any)) return 1;
    }
    const best = hit.best;
    node = NONE;
    while (top != base) {
      top -= STACK_ENTRY;
      if (load<f32>(top) <= best) {
        node = load<i32>(top + 4);
        break;
      }
    }
    if (node == NONE) {
      if (stage == 1) break;
      stage = 1;
      nodes = scene.lightNodes;
      first = scene.solidCount;
      node = 0;
    }
  }
  return any ? hit.through : hit.instance >= 0 ? 1 : 0;
}

/**
 * Tests a node's four boxes: the nearest child met is returned in the low half, the others go on the stack, furthest
 * lowest, and the high half says how many bytes they take; below 0 when none is met.
 */
// @ts-ignore: decorator
@inline
function enter(
  p: usize,
  base: usize,
  start: usize,
  vox: v128,
  voy: v128,
  voz: v128,
  vix: v128,
  viy: v128,
  viz: v128,
  nx: usize,
  ny: usize,
  nz: usize,
  best: f32,
): i64 {
  const x0 = f32x4.mul(f32x4.sub(v128.load(p + nx), vox), vix);
  const y0 = f32x4.mul(f32x4.sub(v128.load(p + ny), voy), viy);
  const z0 = f32x4.mul(f32x4.sub(v128.load(p + nz), voz), viz);
  const x1 = f32x4.mul(f32x4.sub(v128.load(p + 48 - nx), vox), vix);
  const y1 = f32x4.mul(f32x4.sub(v128.load(p + 80 - ny), voy), viy);
  const z1 = f32x4.mul(f32x4.sub(v128.load(p + 112 - nz), voz), viz);
  const near = f32x4.pmax(f32x4.pmax(x0, y0), f32x4.pmax(z0, f32x4.splat(0)));
  // Boxes are met in single precision: both the distance's own rounding and that of the origin are allowed for.
  const leave = f32x4.add(
    f32x4.mul(f32x4.pmin(f32x4.pmin(x1, y1), f32x4.pmin(z1, f32x4.splat(best))), f32x4.splat(1.0000006)),
    f32x4.splat(1e-6),
  );
  let mask = i32x4.bitmask(f32x4.le(near, leave));
  if (mask == 0) return -1;
  const first = ctz(mask);
  mask &= mask - 1;
  if (mask == 0) return <i64>load<u32>(p + CHILDREN + (<usize>first << 2));
  v128.store(base - 16, near);
  const second = ctz(mask);
  if ((mask & (mask - 1)) == 0) {
    // Two children: the usual case.
    const a = load<f32>(base - 16 + (<usize>first << 2));
    const b = load<f32>(base - 16 + (<usize>second << 2));
    const swap = b < a;
    store<f32>(start, swap ? a : b);
    store<i32>(start, load<i32>(p + CHILDREN + (<usize>(swap ? first : second) << 2)), 4);
    return <i64>load<u32>(p + CHILDREN + (<usize>(swap ? second : first) << 2)) | (<i64>STACK_ENTRY << 32);
  }
  let top = start;
  let lane = first;
  for (;;) {
    const t = load<f32>(base - 16 + (<usize>lane << 2));
    const child = load<i32>(p + CHILDREN + (<usize>lane << 2));
    let slot = top;
    while (slot > start && load<f32>(slot - STACK_ENTRY) < t) {
      store<u64>(slot, load<u64>(slot - STACK_ENTRY));
      slot -= STACK_ENTRY;
    }
    store<f32>(slot, t);
    store<i32>(slot + 4, child);
    top += STACK_ENTRY;
    if (mask == 0) break;
    lane = ctz(mask);
    mask &= mask - 1;
  }
  top -= STACK_ENTRY;
  return <i64>load<u32>(top + 4) | (<i64>(top - start) << 32);
}

/** Looks at one instance. True when an any-hit walk may stop. */
function visit(
  scene: Scene,
  hit: Hit,
  number: i32,
  ox: f64,
  oy: f64,
  oz: f64,
  dx: f64,
  dy: f64,
  dz: f64,
  near: f64,
  far: f64,
  mask: i32,
  any: bool,
): bool {
  const it = instance(scene, number);
  if ((word(it, I_MASK) & mask) == 0) return false;
  if (word(it, I_KIND) != KIND_MESH) {
    // Lights cast no shadows: any-hit walks pass them.
    if (!any && hitLight(scene, hit, word(it, I_MESH), ox, oy, oz, dx, dy, dz, near)) {
      hit.best = <f32>hit.t;
      hit.instance = number;
      hit.triangle = word(it, I_MESH);
    }
    return false;
  }
  if (word(it, I_FLAGS) & FLAG_MOVING) {
    inverseAt(it, hit.time, hit.inverse);
    const m = hit.inverse;
    return walkMesh(
      scene,
      hit,
      number,
      it,
      f32x4(<f32>local(m, 0, ox, oy, oz, 1), <f32>local(m, 32, ox, oy, oz, 1), <f32>local(m, 64, ox, oy, oz, 1), 0),
      f32x4(<f32>local(m, 0, dx, dy, dz, 0), <f32>local(m, 32, dx, dy, dz, 0), <f32>local(m, 64, dx, dy, dz, 0), 1),
      ox,
      oy,
      oz,
      dx,
      dy,
      dz,
      near,
      far,
      any,
    );
  }
  const columns = it + (<usize>I_COLUMNS << 2);
  const a = v128.load(columns);
  const b = v128.load(columns, 16);
  const c = v128.load(columns, 32);
  const o = f32x4.add(
    f32x4.add(f32x4.mul(a, f32x4.splat(<f32>ox)), f32x4.mul(b, f32x4.splat(<f32>oy))),
    f32x4.add(f32x4.mul(c, f32x4.splat(<f32>oz)), v128.load(columns, 48)),
  );
  const d = f32x4.add(
    f32x4.add(f32x4.mul(a, f32x4.splat(<f32>dx)), f32x4.mul(b, f32x4.splat(<f32>dy))),
    f32x4.mul(c, f32x4.splat(<f32>dz)),
  );
  return walkMesh(scene, hit, number, it, o, d, ox, oy, oz, dx, dy, dz, near, far, any);
}

/** Row at `offset` of a matrix of doubles times a point (w 1) or direction (w 0). */
// @ts-ignore: decorator
@inline
function local(m: usize, offset: usize, x: f64, y: f64, z: f64, w: f64): f64 {
  const p = m + offset;
  return load<f64>(p) * x + load<f64>(p, 8) * y + load<f64>(p, 16) * z + load<f64>(p, 24) * w;
}

// @ts-ignore: decorator
@inline
function localRow(it: usize, k: i32, x: f64, y: f64, z: f64, w: f64): f64 {
  return at(it, I_INVERSE + k) * x + at(it, I_INVERSE + k + 1) * y + at(it, I_INVERSE + k + 2) * z + at(it, I_INVERSE + k + 3) * w;
}

/** Element `k` of a moving instance's matrix at `time`: matrices are blended, which a shutter's small turns allow. */
// @ts-ignore: decorator
@inline
export function blended(it: usize, k: i32, time: f64): f64 {
  const a = at(it, I_OPEN + k);
  return a + (at(it, I_CLOSE + k) - a) * time;
}

/** World to thing at `time`, 12 doubles. */
export function inverseAt(it: usize, time: f64, out: usize): void {
  const a = blended(it, 0, time);
  const b = blended(it, 1, time);
  const c = blended(it, 2, time);
  const d = blended(it, 4, time);
  const e = blended(it, 5, time);
  const f = blended(it, 6, time);
  const g = blended(it, 8, time);
  const h = blended(it, 9, time);
  const i = blended(it, 10, time);
  const x = blended(it, 3, time);
  const y = blended(it, 7, time);
  const z = blended(it, 11, time);
  const s = 1.0 / (a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g));
  const m0 = (e * i - f * h) * s;
  const m1 = (c * h - b * i) * s;
  const m2 = (b * f - c * e) * s;
  const m4 = (f * g - d * i) * s;
  const m5 = (a * i - c * g) * s;
  const m6 = (c * d - a * f) * s;
  const m8 = (d * h - e * g) * s;
  const m9 = (b * g - a * h) * s;
  const m10 = (a * e - b * d) * s;
  store<f64>(out, m0);
  store<f64>(out, m1, 8);
  store<f64>(out, m2, 16);
  store<f64>(out, -(m0 * x + m1 * y + m2 * z), 24);
  store<f64>(out, m4, 32);
  store<f64>(out, m5, 40);
  store<f64>(out, m6, 48);
  store<f64>(out, -(m4 * x + m5 * y + m6 * z), 56);
  store<f64>(out, m8, 64);
  store<f64>(out, m9, 72);
  store<f64>(out, m10, 80);
  store<f64>(out, -(m8 * x + m9 * y + m10 * z), 88);
}

/**
 * Walks one mesh with the ray in its own space, in single precision (`o`, `d`); what comes near a triangle is looked at
 * again in double. Distances are those of the world, whatever the local direction's length.
 */
function walkMesh(
  scene: Scene,
  hit: Hit,
  number: i32,
  it: usize,
  o: v128,
  d: v128,
  wox: f64,
  woy: f64,
  woz: f64,
  wdx: f64,
  wdy: f64,
  wdz: f64,
  near: f64,
  far: f64,
  any: bool,
): bool {
  const mesh = changetype<Mesh>(<usize>word(it, I_MESH));
  const tiny = f32x4.splat(1e-12);
  // A direction along an axis must not divide by nothing.
  const safe = v128.bitselect(d, v128.or(tiny, v128.and(d, i32x4.splat(0x80000000))), f32x4.gt(f32x4.abs(d), tiny));
  const inv = f32x4.div(f32x4.splat(1), safe);
  const signs = i32x4.bitmask(inv);
  const vix = f32x4.splat(f32x4.extract_lane(inv, 0));
  const viy = f32x4.splat(f32x4.extract_lane(inv, 1));
  const viz = f32x4.splat(f32x4.extract_lane(inv, 2));
  const vox = f32x4.splat(f32x4.extract_lane(o, 0));
  const voy = f32x4.splat(f32x4.extract_lane(o, 1));
  const voz = f32x4.splat(f32x4.extract_lane(o, 2));
  const vdx = f32x4.splat(f32x4.extract_lane(d, 0));
  const vdy = f32x4.splat(f32x4.extract_lane(d, 1));
  const vdz = f32x4.splat(f32x4.extract_lane(d, 2));
  const nx: usize = signs & 1 ? 48 : 0;
  const ny: usize = signs & 2 ? 64 : 16;
  const nz: usize = signs & 4 ? 80 : 32;
  const nodes = mesh.nodes;
  const packets = mesh.packets;
  // The scratch row below the very first entry is shared; this walk's entries lie above the top level's.
  const bottom = hit.stack;
  const base = free;
  let top = base;
  let best = hit.best;
  let node: i32 = 0;
  let known = false;
  let ox: f64 = wox;
  let oy: f64 = woy;
  let oz: f64 = woz;
  let dx: f64 = wdx;
  let dy: f64 = wdy;
  let dz: f64 = wdz;
  for (;;) {
    if (node >= 0) {
      const met = enter(nodes + <usize>node * NODE_BYTES, bottom, top, vox, voy, voz, vix, viy, viz, nx, ny, nz, best);
      if (met >= 0) {
        node = <i32>met;
        top += <usize>(met >> 32);
        continue;
      }
    } else {
      const code = -1 - node;
      let packet = packets + <usize>(code >> 3) * PACKET_BYTES;
      const last = packet + <usize>((code & 7) + 1) * PACKET_BYTES;
      for (; packet < last; packet += PACKET_BYTES) {
        let lanes = candidates(packet, vox, voy, voz, vdx, vdy, vdz, <f32>near, best);
        if (lanes != 0 && !known) {
          known = true;
          const flags = word(it, I_FLAGS);
          if (flags & FLAG_MOVING) {
            const m = hit.inverse;
            ox = local(m, 0, wox, woy, woz, 1);
            oy = local(m, 32, wox, woy, woz, 1);
            oz = local(m, 64, wox, woy, woz, 1);
            dx = local(m, 0, wdx, wdy, wdz, 0);
            dy = local(m, 32, wdx, wdy, wdz, 0);
            dz = local(m, 64, wdx, wdy, wdz, 0);
          } else if ((flags & FLAG_IDENTITY) == 0) {
            ox = localRow(it, 0, wox, woy, woz, 1);
            oy = localRow(it, 4, wox, woy, woz, 1);
            oz = localRow(it, 8, wox, woy, woz, 1);
            dx = localRow(it, 0, wdx, wdy, wdz, 0);
            dy = localRow(it, 4, wdx, wdy, wdz, 0);
            dz = localRow(it, 8, wdx, wdy, wdz, 0);
          }
        }
        while (lanes != 0) {
          const lane = <usize>ctz(lanes) << 2;
          lanes &= lanes - 1;
          const triangle = load<i32>(packet + IDS + lane);
          if (triangle < 0 || !exact(packet + lane, hit, ox, oy, oz, dx, dy, dz, near)) continue;
          if (!any) {
            best = <f32>hit.t;
            hit.triangle = triangle;
            hit.instance = number;
            continue;
          }
          // Any-hit asks whether, not where: the reach stays.
          hit.t = far;
          const slot = <usize>load<u16>(mesh.slots + (<usize>triangle << 1)) << 1;
          if (material(scene, <i32>load<u16>(<usize>word(it, I_SLOTS) + slot), M_PASSES) == 0) {
            return true;
          }
          hit.through = 2;
        }
      }
    }
    node = NONE;
    while (top != base) {
      top -= STACK_ENTRY;
      if (load<f32>(top) <= best) {
        node = load<i32>(top + 4);
        break;
      }
    }
    if (node == NONE) break;
  }
  hit.best = best;
  return false;
}

/** Lanes of a packet that the ray may hit, by Moller and Trumbore (1997) in single precision with slack. */
// @ts-ignore: decorator
@inline
function candidates(p: usize, ox: v128, oy: v128, oz: v128, vx: v128, vy: v128, vz: v128, near: f32, best: f32): i32 {
  const e1x = v128.load(p, 48);
  const e1y = v128.load(p, 64);
  const e1z = v128.load(p, 80);
  const e2x = v128.load(p, 96);
  const e2y = v128.load(p, 112);
  const e2z = v128.load(p, 128);
  const px = f32x4.sub(f32x4.mul(vy, e2z), f32x4.mul(vz, e2y));
  const py = f32x4.sub(f32x4.mul(vz, e2x), f32x4.mul(vx, e2z));
  const pz = f32x4.sub(f32x4.mul(vx, e2y), f32x4.mul(vy, e2x));
  const det = f32x4.add(f32x4.add(f32x4.mul(e1x, px), f32x4.mul(e1y, py)), f32x4.mul(e1z, pz));
  const inv = f32x4.div(f32x4.splat(1), det);
  const tx = f32x4.sub(ox, v128.load(p, 0));
  const ty = f32x4.sub(oy, v128.load(p, 16));
  const tz = f32x4.sub(oz, v128.load(p, 32));
  const u = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(tx, px), f32x4.mul(ty, py)), f32x4.mul(tz, pz)), inv);
  const qx = f32x4.sub(f32x4.mul(ty, e1z), f32x4.mul(tz, e1y));
  const qy = f32x4.sub(f32x4.mul(tz, e1x), f32x4.mul(tx, e1z));
  const qz = f32x4.sub(f32x4.mul(tx, e1y), f32x4.mul(ty, e1x));
  const v = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(vx, qx), f32x4.mul(vy, qy)), f32x4.mul(vz, qz)), inv);
  const t = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(e2x, qx), f32x4.mul(e2y, qy)), f32x4.mul(e2z, qz)), inv);
  const low = f32x4.splat(-SLACK);
  // Comparisons with a number that is none are false, which drops triangles of no area.
  let ok = v128.and(f32x4.ge(u, low), f32x4.ge(v, low));
  ok = v128.and(ok, f32x4.le(f32x4.add(u, v), f32x4.splat(1 + SLACK)));
  ok = v128.and(ok, f32x4.gt(t, f32x4.splat(near - SLACK)));
  ok = v128.and(ok, f32x4.lt(t, f32x4.splat(best + best * SLACK + SLACK)));
  return i32x4.bitmask(ok);
}

/** The same test in double precision on one lane of a packet; takes the hit into `hit` when it is nearer. */
function exact(p: usize, hit: Hit, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, near: f64): bool {
  const e1x = <f64>load<f32>(p, 48);
  const e1y = <f64>load<f32>(p, 64);
  const e1z = <f64>load<f32>(p, 80);
  const e2x = <f64>load<f32>(p, 96);
  const e2y = <f64>load<f32>(p, 112);
  const e2z = <f64>load<f32>(p, 128);
  const px = dy * e2z - dz * e2y;
  const py = dz * e2x - dx * e2z;
  const pz = dx * e2y - dy * e2x;
  const det = e1x * px + e1y * py + e1z * pz;
  if (det == 0) return false;
  const inv = 1.0 / det;
  const tx = ox - <f64>load<f32>(p);
  const ty = oy - <f64>load<f32>(p, 16);
  const tz = oz - <f64>load<f32>(p, 32);
  const u = (tx * px + ty * py + tz * pz) * inv;
  if (u < 0 || u > 1) return false;
  const qx = ty * e1z - tz * e1y;
  const qy = tz * e1x - tx * e1z;
  const qz = tx * e1y - ty * e1x;
  const v = (dx * qx + dy * qy + dz * qz) * inv;
  if (v < 0 || u + v > 1) return false;
  const t = (e2x * qx + e2y * qy + e2z * qz) * inv;
  if (!(t > near && t < hit.t)) return false;
  hit.t = t;
  hit.u = u;
  hit.v = v;
  return true;
}
