import { Scene } from './scene';

/**
 * Wide node, 128 bytes: six rows of four f32, one a child (min x, y, z, max x, y, z), then four i32 children, then pad.
 * A child >= 0 is a node; below, -1 - (first packet * 8 + packets - 1) is a leaf. Missing children have an empty box.
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

@unmanaged
export class Hit {
  /** Distance of the nearest hit, triangle number (-1: none), barycentrics of its second and third vertex. */
  t: f64;
  u: f64;
  v: f64;
  triangle: i32;
  /** Rays cast so far. */
  rays: u32;
  /** Room for (f32 near, i32 node) entries. */
  stack: usize;
}

// @ts-ignore: decorator
@inline
function inverse(d: f64): f32 {
  return <f32>(1.0 / (Math.abs(d) > EPSILON ? d : d < 0 ? -EPSILON : EPSILON));
}

/**
 * Walks the tree. Nearest: leaves the hit in `hit` and returns 1 or 0. Any: 1 when something opaque lies between, 2 when
 * only see-through surfaces do, 0 when nothing does.
 */
export function walk(scene: Scene, hit: Hit, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, near: f64, far: f64, any: bool): i32 {
  hit.rays++;
  hit.t = far;
  hit.triangle = -1;
  if (scene.triangleCount == 0) return 0;
  const ix = inverse(dx);
  const iy = inverse(dy);
  const iz = inverse(dz);
  const vix = f32x4.splat(ix);
  const viy = f32x4.splat(iy);
  const viz = f32x4.splat(iz);
  const vox = f32x4.splat(<f32>ox);
  const voy = f32x4.splat(<f32>oy);
  const voz = f32x4.splat(<f32>oz);
  // Which row of a node holds the plane that the ray meets first.
  const nx: usize = ix >= 0 ? 0 : 48;
  const ny: usize = iy >= 0 ? 16 : 64;
  const nz: usize = iz >= 0 ? 32 : 80;
  const fx: usize = 48 - nx;
  const fy: usize = 80 - ny;
  const fz: usize = 112 - nz;
  const zero = f32x4.splat(0);
  // Boxes are met in single precision: both the distance's own rounding and that of the origin are allowed for.
  const widen = f32x4.splat(1.0000006);
  const margin = f32x4.splat(1e-6);
  let best: f32 = <f32>Math.min(far, 3e38);
  let through: i32 = 0;
  const base = hit.stack;
  let top = base;
  let node: i32 = 0;
  for (;;) {
    if (node >= 0) {
      const p = scene.nodes + <usize>node * NODE_BYTES;
      const x0 = f32x4.mul(f32x4.sub(v128.load(p + nx), vox), vix);
      const y0 = f32x4.mul(f32x4.sub(v128.load(p + ny), voy), viy);
      const z0 = f32x4.mul(f32x4.sub(v128.load(p + nz), voz), viz);
      const x1 = f32x4.mul(f32x4.sub(v128.load(p + fx), vox), vix);
      const y1 = f32x4.mul(f32x4.sub(v128.load(p + fy), voy), viy);
      const z1 = f32x4.mul(f32x4.sub(v128.load(p + fz), voz), viz);
      const enter = f32x4.pmax(f32x4.pmax(x0, y0), f32x4.pmax(z0, zero));
      const leave = f32x4.add(f32x4.mul(f32x4.pmin(f32x4.pmin(x1, y1), f32x4.pmin(z1, f32x4.splat(best))), widen), margin);
      let mask = i32x4.bitmask(f32x4.le(enter, leave));
      if (mask != 0) {
        const first = ctz(mask);
        mask &= mask - 1;
        if (mask == 0) {
          node = load<i32>(p + CHILDREN + (<usize>first << 2));
          continue;
        }
        // Insertion sort onto the stack, furthest lowest; the nearest is taken at once.
        v128.store(base - 16, enter);
        const start = top;
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
        node = load<i32>(top + 4);
        continue;
      }
    } else {
      const code = -1 - node;
      let packet = scene.packets + <usize>(code >> 3) * PACKET_BYTES;
      const last = packet + <usize>((code & 7) + 1) * PACKET_BYTES;
      for (; packet < last; packet += PACKET_BYTES) {
        let lanes = candidates(packet, vox, voy, voz, <f32>dx, <f32>dy, <f32>dz, <f32>near, best);
        while (lanes != 0) {
          const lane = ctz(lanes);
          lanes &= lanes - 1;
          const triangle = load<i32>(packet + IDS + (<usize>lane << 2));
          if (triangle < 0 || !exact(scene, hit, triangle, ox, oy, oz, dx, dy, dz, near)) continue;
          if (!any) {
            best = <f32>hit.t;
            continue;
          }
          // Any-hit asks whether, not where: the reach stays.
          hit.t = far;
          if (load<u8>(scene.passes + <usize>triangle) == 0) return 1;
          through = 2;
        }
      }
    }
    // The next entry that can still matter.
    for (;;) {
      if (top == base) return any ? through : hit.triangle >= 0 ? 1 : 0;
      top -= STACK_ENTRY;
      if (load<f32>(top) <= best) break;
    }
    node = load<i32>(top + 4);
  }
  return 0;
}

/** Lanes of a packet that the ray may hit, by Moller and Trumbore (1997) in single precision with slack. */
// @ts-ignore: decorator
@inline
function candidates(p: usize, ox: v128, oy: v128, oz: v128, dx: f32, dy: f32, dz: f32, near: f32, best: f32): i32 {
  const e1x = v128.load(p, 48);
  const e1y = v128.load(p, 64);
  const e1z = v128.load(p, 80);
  const e2x = v128.load(p, 96);
  const e2y = v128.load(p, 112);
  const e2z = v128.load(p, 128);
  const vx = f32x4.splat(dx);
  const vy = f32x4.splat(dy);
  const vz = f32x4.splat(dz);
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

/** The same test in double precision; takes the hit into `hit` when it is nearer. */
function exact(scene: Scene, hit: Hit, triangle: i32, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, near: f64): bool {
  const p = scene.triangles + <usize>triangle * 36;
  const e1x = <f64>load<f32>(p, 12);
  const e1y = <f64>load<f32>(p, 16);
  const e1z = <f64>load<f32>(p, 20);
  const e2x = <f64>load<f32>(p, 24);
  const e2y = <f64>load<f32>(p, 28);
  const e2z = <f64>load<f32>(p, 32);
  const px = dy * e2z - dz * e2y;
  const py = dz * e2x - dx * e2z;
  const pz = dx * e2y - dy * e2x;
  const det = e1x * px + e1y * py + e1z * pz;
  if (det == 0) return false;
  const inv = 1.0 / det;
  const tx = ox - <f64>load<f32>(p);
  const ty = oy - <f64>load<f32>(p, 4);
  const tz = oz - <f64>load<f32>(p, 8);
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
  hit.triangle = triangle;
  return true;
}
