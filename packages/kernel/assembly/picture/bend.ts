import { firstHalves, highPairs, lastHalves, lowPairs } from './pixels';

/** What a lens bends, each colour by itself. */

/** One channel's numbers at four places of its plane, by their indices. */
// @ts-ignore: decorator
@inline
function gather(plane: usize, at: v128): v128 {
  let v = v128.load32_zero(plane + ((<usize>i32x4.extract_lane(at, 0)) << 2));
  v = v128.load_lane<f32>(plane + ((<usize>i32x4.extract_lane(at, 1)) << 2), v, 1);
  v = v128.load_lane<f32>(plane + ((<usize>i32x4.extract_lane(at, 2)) << 2), v, 2);
  return v128.load_lane<f32>(plane + ((<usize>i32x4.extract_lane(at, 3)) << 2), v, 3);
}

/** Numbers of a plane between its pixels, for four places. */
// @ts-ignore: decorator
@inline
function bilinear(plane: usize, width: i32, height: i32, u: v128, v: v128): v128 {
  const zero = i32x4.splat(0);
  const fu = f32x4.floor(u);
  const fv = f32x4.floor(v);
  const a = f32x4.sub(u, fu);
  const b = f32x4.sub(v, fv);
  const i = i32x4.trunc_sat_f32x4_s(fu);
  const j = i32x4.trunc_sat_f32x4_s(fv);
  const i0 = i32x4.extract_lane(i, 0);
  const j0 = i32x4.extract_lane(j, 0);
  let p: v128;
  let q: v128;
  let r: v128;
  let t: v128;
  const apart = v128.or(v128.xor(i, i32x4.add(i32x4.splat(i0), i32x4(0, 1, 2, 3))), v128.xor(j, i32x4.splat(j0)));
  if (!v128.any_true(apart) && i0 >= 0 && j0 >= 0 && i0 < width - 4 && j0 < height - 1) {
    // What is bent little lies side by side.
    const top = plane + ((<usize>(j0 * width + i0)) << 2);
    const under = top + ((<usize>width) << 2);
    p = v128.load(top);
    q = v128.load(top, 4);
    r = v128.load(under);
    t = v128.load(under, 4);
  } else {
    const right = i32x4.splat(width - 1);
    const low = i32x4.splat(height - 1);
    const across = i32x4.splat(width);
    const one = i32x4.splat(1);
    const x0 = i32x4.min_s(right, i32x4.max_s(zero, i));
    const x1 = i32x4.min_s(right, i32x4.max_s(zero, i32x4.add(i, one)));
    const top = i32x4.mul(i32x4.min_s(low, i32x4.max_s(zero, j)), across);
    const under = i32x4.mul(i32x4.min_s(low, i32x4.max_s(zero, i32x4.add(j, one))), across);
    p = gather(plane, i32x4.add(top, x0));
    q = gather(plane, i32x4.add(top, x1));
    r = gather(plane, i32x4.add(under, x0));
    t = gather(plane, i32x4.add(under, x1));
  }
  const above = f32x4.add(p, f32x4.mul(f32x4.sub(q, p), a));
  const beneath = f32x4.add(r, f32x4.mul(f32x4.sub(t, r), a));
  return f32x4.add(above, f32x4.mul(f32x4.sub(beneath, above), b));
}

/** Red, green and blue of a plate, each by itself: planes of `count` rounded up to four. */
export function split(plate: usize, count: i32, planes: usize): void {
  const whole = (count + 3) & ~3;
  const green = planes + ((<usize>whole) << 2);
  const blue = green + ((<usize>whole) << 2);
  for (let n = 0; n < count; n += 4) {
    const at = plate + ((<usize>n) << 4);
    const p0 = v128.load(at);
    const p1 = v128.load(at, 16);
    const p2 = v128.load(at, 32);
    const p3 = v128.load(at, 48);
    const to = (<usize>n) << 2;
    v128.store(planes + to, firstHalves(lowPairs(p0, p1), lowPairs(p2, p3)));
    v128.store(green + to, lastHalves(lowPairs(p0, p1), lowPairs(p2, p3)));
    v128.store(blue + to, firstHalves(highPairs(p0, p1), highPairs(p2, p3)));
  }
}

/**
 * What a lens bends, of an opaque plate: corners show what lies farther out (barrel) or nearer, drawn in so far that none is empty;
 * red lies a little farther out than green, blue as much nearer, all growing with the square of the distance from the middle.
 * @param planes of the plate as it was: see split(). @param to takes it; its rows need no whole fours of pixels.
 */
export function bend(planes: usize, width: i32, height: i32, to: usize, distortion: f32, fringe: f32): void {
  const mx: f32 = <f32>width * 0.5;
  const my: f32 = <f32>height * 0.5;
  const corner: f32 = <f32>1 / (mx * mx + my * my);
  const fit: f32 = <f32>1 / (<f32>1 + max<f32>(0, distortion));
  const one = f32x4.splat(1);
  const whole = (width * height + 3) & ~3;
  const green = planes + ((<usize>whole) << 2);
  const blue = green + ((<usize>whole) << 2);
  const middleU = f32x4.splat(mx - 0.5);
  const middleV = f32x4.splat(my - 0.5);
  for (let y = 0; y < height; y++) {
    const dy = f32x4.splat(<f32>y + 0.5 - my);
    const out = to + ((<usize>(y * width)) << 4);
    for (let x = 0; x < width; x += 4) {
      const dx = f32x4.add(f32x4.splat(<f32>x + 0.5 - mx), f32x4(0, 1, 2, 3));
      const r2 = f32x4.mul(f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy)), f32x4.splat(corner));
      const k = f32x4.mul(f32x4.add(one, f32x4.mul(f32x4.splat(distortion), r2)), f32x4.splat(fit));
      const far = f32x4.mul(f32x4.splat(fringe), r2);
      const red = f32x4.mul(k, f32x4.add(one, far));
      const near = f32x4.mul(k, f32x4.sub(one, far));
      const u = f32x4.mul(dx, red);
      const v = f32x4.mul(dy, red);
      const r = bilinear(planes, width, height, f32x4.add(u, middleU), f32x4.add(v, middleV));
      const g =
        distortion == 0
          ? v128.load(green + ((<usize>(y * width + x)) << 2))
          : bilinear(green, width, height, f32x4.add(f32x4.mul(dx, k), middleU), f32x4.add(f32x4.mul(dy, k), middleV));
      const b = bilinear(
        blue,
        width,
        height,
        f32x4.add(f32x4.mul(dx, near), middleU),
        f32x4.add(f32x4.mul(dy, near), middleV),
      );
      const at = out + ((<usize>x) << 4);
      const rg = lowPairs(r, g);
      const ba = lowPairs(b, one);
      const rg2 = highPairs(r, g);
      const ba2 = highPairs(b, one);
      const left = width - x;
      v128.store(at, firstHalves(rg, ba));
      if (left > 1) v128.store(at, lastHalves(rg, ba), 16);
      if (left > 2) v128.store(at, firstHalves(rg2, ba2), 32);
      if (left > 3) v128.store(at, lastHalves(rg2, ba2), 48);
    }
  }
}
