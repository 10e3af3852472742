import { cubic, held, prepare } from './cubic';

/** A picture between two of a moving scene, each read where what is seen lies in it. */

/** Times that a place is looked for by the motion found there. */
const STEPS: i32 = 4;
/** Pixels by which a place may change from one look to the next when it is near enough, and when it counts as found at all. */
const NEAR_ENOUGH: f64 = 0.04;
const FOUND: f64 = 0.5;
/** Pixels by which what two pictures say of their motion may differ, and the share of it. */
const ALIKE: f64 = 1;
const ALIKE_SHARE: f64 = 0.25;

/** The number of the pixel nearest to a place. */
// @ts-ignore: decorator
@inline
function pixelAt(width: i32, height: i32, x: f64, y: f64): usize {
  return <usize>(max(0, min(height - 1, <i32>Math.floor(y))) * width + max(0, min(width - 1, <i32>Math.floor(x))));
}

/** What a search has found, f64 each: where it lies, how far it came, and how far away it is; below 0 where there is none. */
const FOUND_AT: usize = memory.data(40, 16);
const MOVED: usize = FOUND_AT + 16;
const AWAY: usize = FOUND_AT + 32;

/**
 * Looks for what comes by a place on its way to the later picture: where its motion from there leads back to the place.
 * @param left share of the way that is left. @param (vx, vy) the motion to begin with.
 */
function search(
  motion: usize,
  depth: usize,
  width: i32,
  height: i32,
  px: f64,
  py: f64,
  left: f64,
  vx: f64,
  vy: f64,
): void {
  let qx = px + left * vx;
  let qy = py + left * vy;
  let mx: f64 = 0;
  let my: f64 = 0;
  let off: f64 = 0;
  for (let k = 0; k < STEPS; k++) {
    const at = motion + (pixelAt(width, height, qx, qy) << 3);
    mx = <f64>load<f32>(at);
    my = <f64>load<f32>(at, 4);
    const nx = px + left * mx;
    const ny = py + left * my;
    off = Math.abs(nx - qx) + Math.abs(ny - qy);
    qx = nx;
    qy = ny;
    if (off < NEAR_ENOUGH) break;
  }
  store<f64>(FOUND_AT, qx);
  store<f64>(FOUND_AT, qy, 8);
  store<f64>(MOVED, mx);
  store<f64>(MOVED, my, 8);
  const away = <f64>load<f32>(depth + (pixelAt(width, height, qx, qy) << 2));
  // Where nothing is is farther than all.
  store<f64>(AWAY, off > FOUND ? -1 : away > 0 ? away : f64.MAX_VALUE);
}

/**
 * Draws the picture at a share of the way from one to the next. What a pixel shows lies in the later one where its motion leads, and in
 * the earlier one where it came from; of two that come by it is the nearer one. What only one of them sees, since it is hidden in the
 * other, is that one's alone.
 * @param from the earlier picture, `next` the later, `to` an empty one, all `width` x `height`. @param motion of each, two f32 a pixel:
 * pixels right and down since the picture before. @param depth of the later one, metres, an f32 a pixel; 0: nothing is there.
 */
export function carry(
  from: usize,
  next: usize,
  to: usize,
  width: i32,
  height: i32,
  fromMotion: usize,
  nextMotion: usize,
  depth: usize,
  share: f32,
): void {
  prepare();
  const left = 1 - <f64>share;
  const early = f32x4.splat(1 - share);
  const late = f32x4.splat(share);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const px = <f64>x + 0.5;
      const py = <f64>y + 0.5;
      const here = (<usize>(y * width + x)) << 3;
      const nx = <f64>load<f32>(nextMotion + here);
      const ny = <f64>load<f32>(nextMotion + here, 4);
      const fx = <f64>load<f32>(fromMotion + here);
      const fy = <f64>load<f32>(fromMotion + here, 4);
      search(nextMotion, depth, width, height, px, py, left, nx, ny);
      let qx = load<f64>(FOUND_AT);
      let qy = load<f64>(FOUND_AT, 8);
      let vx = load<f64>(MOVED);
      let vy = load<f64>(MOVED, 8);
      let away = load<f64>(AWAY);
      if (Math.abs(fx - nx) + Math.abs(fy - ny) > FOUND) {
        // Something else was here before: it may come by too.
        search(nextMotion, depth, width, height, px, py, left, fx, fy);
        const other = load<f64>(AWAY);
        if (other >= 0 && (away < 0 || other < away)) {
          qx = load<f64>(FOUND_AT);
          qy = load<f64>(FOUND_AT, 8);
          vx = load<f64>(MOVED);
          vy = load<f64>(MOVED, 8);
          away = other;
        }
      }
      const out = to + (here << 1);
      if (away < 0) {
        // Nothing that the later picture sees comes by: it is what was there before.
        const st = f64x2(px - <f64>share * fx, py - <f64>share * fy);
        v128.store(out, held(cubic(from, width, height, st, 0)));
        continue;
      }
      const bx = qx - vx;
      const by = qy - vy;
      const was = fromMotion + (pixelAt(width, height, bx, by) << 3);
      const differ = Math.abs(<f64>load<f32>(was) - vx) + Math.abs(<f64>load<f32>(was, 4) - vy);
      const there = cubic(next, width, height, f64x2(qx, qy), 0);
      if (differ > ALIKE + ALIKE_SHARE * (Math.abs(vx) + Math.abs(vy))) {
        // Something else was before it.
        v128.store(out, held(there));
        continue;
      }
      const before = cubic(from, width, height, f64x2(bx, by), 0);
      v128.store(out, held(f32x4.add(f32x4.mul(before, early), f32x4.mul(there, late))));
    }
}

/** Pixels about one among which the nearest is looked for: edges that are a pixel soft lie within. */
const ABOUT: i32 = 1;

/**
 * Gives each pixel of a row or a column the depth and the motion of the nearest thing about it, so that the soft edge of a thing goes along
 * with it. @param step pixels from one to the next along it, `from` the first of them, `count` how many.
 */
function nearest(motion: usize, depth: usize, from: i32, step: i32, count: i32, toMotion: usize, toDepth: usize): void {
  for (let n = 0; n < count; n++) {
    let best = from + n * step;
    let least: f32 = f32.MAX_VALUE;
    const end = min(count - 1, n + ABOUT);
    for (let k = max(0, n - ABOUT); k <= end; k++) {
      const at = from + k * step;
      const away = load<f32>(depth + ((<usize>at) << 2));
      if (away > 0 && away < least) {
        least = away;
        best = at;
      }
    }
    const to = <usize>(from + n * step);
    store<f32>(toDepth + (to << 2), load<f32>(depth + ((<usize>best) << 2)));
    store<f64>(toMotion + (to << 3), load<f64>(motion + ((<usize>best) << 3)));
  }
}

/**
 * The motion and depth of the nearest thing about each pixel, as carry() takes them; both are changed in place.
 * @param motion two f32 a pixel. @param depth an f32 a pixel, 0 where nothing is. @param room for as many numbers of both, motion first.
 */
export function spread(motion: usize, depth: usize, width: i32, height: i32, room: usize): void {
  const other = room + ((<usize>(width * height)) << 3);
  for (let y = 0; y < height; y++) nearest(motion, depth, y * width, 1, width, room, other);
  for (let x = 0; x < width; x++) nearest(room, other, x, width, height, motion, depth);
}
