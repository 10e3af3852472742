/** Tables of colours: four floats a point, the last without use. */

// @ts-ignore: decorator
@inline
function mixed(a: v128, b: v128, share: f32): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), f32x4.splat(share)));
}

/**
 * Takes colours, as they are without their alpha, through a table of `dimensions` 1 or 3 with `size` points along a side, red fastest.
 * Numbers: the domain's beginning by channel, then points a unit. Between the points of a lattice by tetrahedra, as they come first in
 * the order of how far in a colour lies by channel: what is grey at both ends stays grey.
 */
export function cube(plate: usize, count: i32, table: usize, size: i32, dimensions: i32, numbers: usize): void {
  const begin = v128.load(numbers);
  const scale = v128.load(numbers, 16);
  const zero = f32x4.splat(0);
  const last = f32x4.splat(<f32>(size - 1));
  for (let n = 0; n < count; n++) {
    const at = plate + ((<usize>n) << 4);
    const v = v128.load(at);
    const alpha = f32x4.extract_lane(v, 3);
    if (!(alpha > 0)) continue;
    const straight = alpha == 1 ? v : f32x4.div(v, f32x4.splat(alpha));
    const t = f32x4.pmin(last, f32x4.pmax(zero, f32x4.mul(f32x4.sub(straight, begin), scale)));
    // The last point belongs to the span before it.
    const whole = f32x4.pmin(f32x4.floor(t), f32x4.splat(<f32>(size - 2)));
    const part = f32x4.sub(t, whole);
    const i = i32x4.trunc_sat_f32x4_s(whole);
    const r = f32x4.extract_lane(part, 0);
    const g = f32x4.extract_lane(part, 1);
    const b = f32x4.extract_lane(part, 2);
    let out: v128;
    if (dimensions == 1) {
      const ra = table + ((<usize>i32x4.extract_lane(i, 0)) << 4);
      const ga = table + ((<usize>i32x4.extract_lane(i, 1)) << 4);
      const ba = table + ((<usize>i32x4.extract_lane(i, 2)) << 4);
      out = f32x4(
        load<f32>(ra) + (load<f32>(ra, 16) - load<f32>(ra)) * r,
        load<f32>(ga, 4) + (load<f32>(ga, 20) - load<f32>(ga, 4)) * g,
        load<f32>(ba, 8) + (load<f32>(ba, 24) - load<f32>(ba, 8)) * b,
        0,
      );
    } else {
      const base = i32x4.extract_lane(i, 0) + size * (i32x4.extract_lane(i, 1) + size * i32x4.extract_lane(i, 2));
      const p = table + ((<usize>base) << 4);
      const dr: usize = 16;
      const dg = (<usize>size) << 4;
      const db = (<usize>(size * size)) << 4;
      const p000 = v128.load(p);
      const p111 = v128.load(p + dr + dg + db);
      // From the corner at 0 along the channel that lies farthest in, then the next, then the last.
      // Chosen without branches: colours side by side go different ways.
      const rg = r >= g;
      const farthest = select<usize>(select<usize>(dr, db, r >= b), select<usize>(dg, db, g >= b), rg);
      const nearest = select<usize>(select<usize>(dg, db, g < b), select<usize>(dr, db, r < b), rg);
      const first = v128.load(p + farthest);
      const second = v128.load(p + dr + dg + db - nearest);
      const high = max(r, max(g, b));
      const middle = max(min(r, g), min(max(r, g), b));
      const low = min(r, min(g, b));
      out = f32x4.add(
        f32x4.add(mixed(p000, first, high), f32x4.mul(f32x4.sub(second, first), f32x4.splat(middle))),
        f32x4.mul(f32x4.sub(p111, second), f32x4.splat(low)),
      );
    }
    const back = alpha == 1 ? out : f32x4.mul(out, f32x4.splat(alpha));
    v128.store(at, f32x4.replace_lane(back, 3, alpha));
  }
}
