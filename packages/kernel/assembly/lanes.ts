/**
 * A ray spread over lanes, and boxes by fours held against it.
 *
 * The engine moves what a loop does not change into the branches that use it, where it is worked out again at every turn
 * (divisions among it). So all of it lies in memory: loads stay where they are.
 *
 * Rows of four equal f32: origin x y z, one over direction x y z, direction x y z, least distance; then constants.
 */
export const LANES_BYTES: usize = 224;
const INVERSE: usize = 48;
export const DIRECTION: usize = 96;
export const LEAST: usize = 144;
export const LOW: usize = 160;
export const HIGH: usize = 176;
const WIDER: usize = 192;
const MARGIN: usize = 208;

/** Single precision decides what is worth a look, double precision what is a hit: these widen the first. */
export const SLACK: f32 = 1e-4;

/**
 * Wide node, 128 bytes: six rows of four f32, one a child (min x, y, z, max x, y, z), then four i32 children, then pad.
 * A child >= 0 is a node. Below, in a mesh -1 - (first packet * 8 + packets - 1) is a leaf, in the top level
 * -1 - instance. Missing children have boxes of numbers that are none: every comparison with them fails.
 */
export const NODE_BYTES: usize = 128;
const CHILDREN: usize = 96;
/** (f32 distance, i32 node). */
export const STACK_ENTRY: usize = 8;

/** Writes what every ray has in common. */
export function initLanes(lanes: usize): void {
  v128.store(lanes, f32x4.splat(-SLACK), LOW);
  v128.store(lanes, f32x4.splat(1 + SLACK), HIGH);
  // Boxes are met in single precision: both the distance's own rounding and that of the origin are allowed for.
  v128.store(lanes, f32x4.splat(1.0000006), WIDER);
  v128.store(lanes, f32x4.splat(1e-6), MARGIN);
}

/** Takes a ray: the first three lanes of `o` and `d`. */
// @ts-ignore: decorator
@inline
export function setLanes(lanes: usize, o: v128, d: v128, near: f32): void {
  const tiny = f32x4.splat(1e-12);
  // A direction along an axis must not divide by nothing.
  const safe = v128.bitselect(d, v128.or(tiny, v128.and(d, i32x4.splat(0x80000000))), f32x4.gt(f32x4.abs(d), tiny));
  const inverse = f32x4.div(f32x4.splat(1), safe);
  v128.store(lanes, v128.shuffle<f32>(o, o, 0, 0, 0, 0));
  v128.store(lanes, v128.shuffle<f32>(o, o, 1, 1, 1, 1), 16);
  v128.store(lanes, v128.shuffle<f32>(o, o, 2, 2, 2, 2), 32);
  v128.store(lanes, v128.shuffle<f32>(inverse, inverse, 0, 0, 0, 0), INVERSE);
  v128.store(lanes, v128.shuffle<f32>(inverse, inverse, 1, 1, 1, 1), INVERSE + 16);
  v128.store(lanes, v128.shuffle<f32>(inverse, inverse, 2, 2, 2, 2), INVERSE + 32);
  v128.store(lanes, v128.shuffle<f32>(d, d, 0, 0, 0, 0), DIRECTION);
  v128.store(lanes, v128.shuffle<f32>(d, d, 1, 1, 1, 1), DIRECTION + 16);
  v128.store(lanes, v128.shuffle<f32>(d, d, 2, 2, 2, 2), DIRECTION + 32);
  v128.store(lanes, f32x4.splat(near - SLACK), LEAST);
}

/**
 * Tests a node's four boxes: the nearest child met is returned in the low half, the others go on the stack at `start`,
 * furthest lowest, and the high half says how many bytes they take; below 0 when none is met.
 *
 * Which boxes are met is asked by branches, not worked out: the processor guesses them and begins with the child while
 * the test is still under way. Found by arithmetic, the child would have to wait for it, which takes half as long again.
 * @param row 16 bytes to work in, @param best reach, @param late a box that the ray starts in comes last: see before().
 */
// @ts-ignore: decorator
@inline
export function enter(p: usize, lanes: usize, row: usize, start: usize, best: f32, late: bool): i64 {
  const ox = v128.load(lanes);
  const oy = v128.load(lanes, 16);
  const oz = v128.load(lanes, 32);
  const ix = v128.load(lanes, INVERSE);
  const iy = v128.load(lanes, INVERSE + 16);
  const iz = v128.load(lanes, INVERSE + 32);
  const xa = f32x4.mul(f32x4.sub(v128.load(p), ox), ix);
  const xb = f32x4.mul(f32x4.sub(v128.load(p, 48), ox), ix);
  const ya = f32x4.mul(f32x4.sub(v128.load(p, 16), oy), iy);
  const yb = f32x4.mul(f32x4.sub(v128.load(p, 64), oy), iy);
  const za = f32x4.mul(f32x4.sub(v128.load(p, 32), oz), iz);
  const zb = f32x4.mul(f32x4.sub(v128.load(p, 80), oz), iz);
  const x0 = f32x4.pmin(xa, xb);
  const x1 = f32x4.pmax(xa, xb);
  const y0 = f32x4.pmin(ya, yb);
  const y1 = f32x4.pmax(ya, yb);
  const z0 = f32x4.pmin(za, zb);
  const z1 = f32x4.pmax(za, zb);
  const near = f32x4.pmax(f32x4.pmax(x0, y0), f32x4.pmax(z0, f32x4.splat(0)));
  const leave = f32x4.add(
    f32x4.mul(f32x4.pmin(f32x4.pmin(x1, y1), f32x4.pmin(z1, f32x4.splat(best))), v128.load(lanes, WIDER)),
    v128.load(lanes, MARGIN),
  );
  let mask = i32x4.bitmask(f32x4.le(near, leave));
  switch (mask) {
    case 0:
      return -1;
    case 1:
      return <i64>child(p, 0);
    case 2:
      return <i64>child(p, 1);
    case 4:
      return <i64>child(p, 2);
    case 8:
      return <i64>child(p, 3);
    case 3:
      return two(start, f32x4.extract_lane(near, 0), f32x4.extract_lane(near, 1), child(p, 0), child(p, 1), late);
    case 5:
      return two(start, f32x4.extract_lane(near, 0), f32x4.extract_lane(near, 2), child(p, 0), child(p, 2), late);
    case 6:
      return two(start, f32x4.extract_lane(near, 1), f32x4.extract_lane(near, 2), child(p, 1), child(p, 2), late);
    case 9:
      return two(start, f32x4.extract_lane(near, 0), f32x4.extract_lane(near, 3), child(p, 0), child(p, 3), late);
    case 10:
      return two(start, f32x4.extract_lane(near, 1), f32x4.extract_lane(near, 3), child(p, 1), child(p, 3), late);
    case 12:
      return two(start, f32x4.extract_lane(near, 2), f32x4.extract_lane(near, 3), child(p, 2), child(p, 3), late);
    default:
  }
  v128.store(row, near);
  let top = start;
  for (;;) {
    const lane = (<usize>ctz(mask)) << 2;
    const t = load<u32>(row + lane);
    const item = entry(load<u32>(p + lane, CHILDREN), t);
    let slot = top;
    while (slot > start && before(load<u32>(slot - STACK_ENTRY), t, late)) {
      store<u64>(slot, load<u64>(slot - STACK_ENTRY));
      slot -= STACK_ENTRY;
    }
    store<u64>(slot, item);
    mask &= mask - 1;
    if (mask == 0) break;
    top += STACK_ENTRY;
  }
  return (<i64>load<u32>(top + 4)) | ((<i64>(top - start)) << 32);
}

// @ts-ignore: decorator
@inline
function child(p: usize, lane: usize): u32 {
  return load<u32>(p + CHILDREN + (lane << 2));
}

// @ts-ignore: decorator
@inline
function entry(node: u32, t: u32): u64 {
  return ((<u64>node) << 32) | (<u64>t);
}

/**
 * Whether the box at distance `a` comes before that at `b`. Distances are not negative, so their bits compare as they do.
 * `late` puts distance 0 behind all: a stage holds the ray from the start, and what stands on it often ends the ray
 * sooner.
 */
// @ts-ignore: decorator
@inline
function before(a: u32, b: u32, late: bool): bool {
  return late ? a - 1 < b - 1 : a < b;
}

/** Two boxes met. */
// @ts-ignore: decorator
@inline
function two(start: usize, a: f32, b: f32, left: u32, right: u32, late: bool): i64 {
  const ta = reinterpret<u32>(a);
  const tb = reinterpret<u32>(b);
  if (before(tb, ta, late)) {
    store<u64>(start, entry(left, ta));
    return (<i64>right) | ((<i64>STACK_ENTRY) << 32);
  }
  store<u64>(start, entry(right, tb));
  return (<i64>left) | ((<i64>STACK_ENTRY) << 32);
}
