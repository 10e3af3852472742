/** Filters that read a plate along lines and at displaced places. */

/** Which way lines go; any other way is the same one everywhere. core/composite/filter.ts has the same numbers. */
const OUTWARD: i32 = 1;
const ROUND: i32 = 2;

/** A place of a plate, mixed of its four neighbours; beyond the edge the outermost pixels go on. */
// @ts-ignore: decorator
@inline
function at(from: usize, width: i32, height: i32, u: f32, v: f32): v128 {
  const x = max<f32>(0, min<f32>(<f32>(width - 1), u));
  const y = max<f32>(0, min<f32>(<f32>(height - 1), v));
  const i = <i32>x;
  const j = <i32>y;
  const a = f32x4.splat(x - <f32>i);
  const b = f32x4.splat(y - <f32>j);
  const right: usize = i + 1 < width ? 16 : 0;
  const under: usize = j + 1 < height ? (<usize>width) << 4 : 0;
  const p = from + ((<usize>(j * width + i)) << 4);
  const top = v128.load(p);
  const low = v128.load(p + under);
  const above = f32x4.add(top, f32x4.mul(f32x4.sub(v128.load(p + right), top), a));
  const below = f32x4.add(low, f32x4.mul(f32x4.sub(v128.load(p + under + right), low), a));
  return f32x4.add(above, f32x4.mul(f32x4.sub(below, above), b));
}

/**
 * Each pixel the mean of `samples` on a line through it: the same one everywhere (its ends are `dx`, `dy` apart), or from or round a
 * place, as long as a share `dx` of the distance to it.
 */
export function streak(
  from: usize,
  to: usize,
  width: i32,
  height: i32,
  mode: i32,
  dx: f32,
  dy: f32,
  middleX: f32,
  middleY: f32,
  samples: i32,
): void {
  const weight = f32x4.splat(<f32>1 / <f32>samples);
  const step: f32 = <f32>1 / <f32>samples;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sx = dx;
      let sy = dy;
      const ox: f32 = <f32>x + 0.5 - middleX;
      const oy: f32 = <f32>y + 0.5 - middleY;
      if (mode == OUTWARD) {
        sx = ox * dx;
        sy = oy * dx;
      } else if (mode == ROUND) {
        sx = -oy * dx;
        sy = ox * dx;
      }
      let sum = f32x4.splat(0);
      for (let k = 0; k < samples; k++) {
        const t: f32 = (<f32>k + 0.5) * step - 0.5;
        sum = f32x4.add(sum, at(from, width, height, <f32>x + sx * t, <f32>y + sy * t));
      }
      v128.store(to + ((<usize>(y * width + x)) << 4), f32x4.mul(sum, weight));
    }
}

/** Each pixel from a place that noise moves: by the alphas of two plates, a half of which is at rest, so many pixels at most. */
export function displace(
  from: usize,
  across: usize,
  down: usize,
  to: usize,
  width: i32,
  height: i32,
  reach: f32,
): void {
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const p = (<usize>(y * width + x)) << 4;
      const u: f32 = <f32>x + (load<f32>(across + p, 12) - 0.5) * 2 * reach;
      const v: f32 = <f32>y + (load<f32>(down + p, 12) - 0.5) * 2 * reach;
      v128.store(to + p, at(from, width, height, u, v));
    }
}
