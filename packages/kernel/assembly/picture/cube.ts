import { firstHalves, highPairs, lastHalves, lowPairs } from './pixels';

/** Tables of colours: four floats a point, the last without use. */

/** Numbers of four pixels from 0 to less than 2 to the power of 22, without what lies beyond the point, as whole ones. */
// @ts-ignore: decorator
@inline
function wholeOf(floored: v128): v128 {
  return v128.and(f32x4.add(floored, f32x4.splat(8388608)), i32x4.splat(0x7fffff));
}

/** Where on a side of a table a channel of four pixels lies. */
// @ts-ignore: decorator
@inline
function along(v: v128, begin: v128, scale: v128, last: v128): v128 {
  return f32x4.pmin(last, f32x4.pmax(f32x4.splat(0), f32x4.mul(f32x4.sub(v, begin), scale)));
}

/** A colour between four corners of a cell: from the first along the channel that lies farthest in, then the next, then the last. */
// @ts-ignore: decorator
@inline
function between(p: usize, far: usize, near: usize, opposite: usize, high: v128, middle: v128, low: v128): v128 {
  const p000 = v128.load(p);
  const first = v128.load(p + far);
  const second = v128.load(p + opposite - near);
  const p111 = v128.load(p + opposite);
  return f32x4.add(
    f32x4.add(f32x4.add(p000, f32x4.mul(f32x4.sub(first, p000), high)), f32x4.mul(f32x4.sub(second, first), middle)),
    f32x4.mul(f32x4.sub(p111, second), low),
  );
}

// @ts-ignore: decorator
@inline
function put(at: usize, colour: v128, alpha: f32): void {
  if (!(alpha > 0)) return;
  const back = alpha == 1 ? colour : f32x4.mul(colour, f32x4.splat(alpha));
  v128.store(at, f32x4.replace_lane(back, 3, alpha));
}

/** Adds what a colour had above a table's end to what the table made of it; `was` and what is there have their alpha in them. */
// @ts-ignore: decorator
@inline
function addBeyond(at: usize, was: v128, end: v128, alpha: f32): void {
  const over = f32x4.pmax(f32x4.splat(0), f32x4.sub(was, f32x4.mul(end, f32x4.splat(alpha))));
  if (v128.any_true(over)) v128.store(at, f32x4.add(v128.load(at), over));
}

/** Where a table ends by channel; its last number is one that no alpha comes to. */
function endOf(size: i32, numbers: usize): v128 {
  const end = f32x4.add(v128.load(numbers), f32x4.div(f32x4.splat(<f32>(size - 1)), v128.load(numbers, 16)));
  return f32x4.replace_lane(end, 3, f32.MAX_VALUE);
}

/**
 * Takes colours, as they are without their alpha, through a table of `dimensions` 1 or 3 with `size` points along a side, red fastest.
 * Numbers: the domain's beginning by channel, and whether what lies above its end is added again; then points a unit. Between the points of a lattice by tetrahedra, as they come first in
 * the order of how far in a colour lies by channel: what is grey at both ends stays grey. Four pixels are worked on at a time.
 */
export function cube(plate: usize, count: i32, table: usize, size: i32, dimensions: i32, numbers: usize): void {
  if (dimensions == 1) {
    curves(plate, count, table, size, numbers);
    return;
  }
  const beginR = v128.load32_splat(numbers);
  const beginG = v128.load32_splat(numbers, 4);
  const beginB = v128.load32_splat(numbers, 8);
  const scaleR = v128.load32_splat(numbers, 16);
  const scaleG = v128.load32_splat(numbers, 20);
  const scaleB = v128.load32_splat(numbers, 24);
  const last = f32x4.splat(<f32>(size - 1));
  // The last point belongs to the span before it.
  const lastSpan = f32x4.splat(<f32>(size - 2));
  const one = f32x4.splat(1);
  const stepR = i32x4.splat(16);
  const stepG = i32x4.splat(size << 4);
  const stepB = i32x4.splat((size * size) << 4);
  const opposite = <usize>(16 + (size << 4) + ((size * size) << 4));
  const keeps = load<f32>(numbers, 12) > 0;
  const end = endOf(size, numbers);
  for (let n = 0; n < count; n += 4) {
    const at = plate + ((<usize>n) << 4);
    const p0 = v128.load(at);
    const p1 = v128.load(at, 16);
    const p2 = v128.load(at, 32);
    const p3 = v128.load(at, 48);
    let rs = firstHalves(lowPairs(p0, p1), lowPairs(p2, p3));
    let gs = lastHalves(lowPairs(p0, p1), lowPairs(p2, p3));
    let bs = firstHalves(highPairs(p0, p1), highPairs(p2, p3));
    const alpha = lastHalves(highPairs(p0, p1), highPairs(p2, p3));
    if (!i32x4.all_true(f32x4.eq(alpha, one))) {
      rs = f32x4.div(rs, alpha);
      gs = f32x4.div(gs, alpha);
      bs = f32x4.div(bs, alpha);
    }
    const tr = along(rs, beginR, scaleR, last);
    const tg = along(gs, beginG, scaleG, last);
    const tb = along(bs, beginB, scaleB, last);
    const ir = f32x4.pmin(f32x4.floor(tr), lastSpan);
    const ig = f32x4.pmin(f32x4.floor(tg), lastSpan);
    const ib = f32x4.pmin(f32x4.floor(tb), lastSpan);
    const r = f32x4.sub(tr, ir);
    const g = f32x4.sub(tg, ig);
    const b = f32x4.sub(tb, ib);
    const a0 = f32x4.extract_lane(alpha, 0);
    const a1 = f32x4.extract_lane(alpha, 1);
    const a2 = f32x4.extract_lane(alpha, 2);
    const a3 = f32x4.extract_lane(alpha, 3);
    const base = i32x4.add(
      i32x4.shl(wholeOf(ir), 4),
      i32x4.add(i32x4.mul(wholeOf(ig), stepG), i32x4.mul(wholeOf(ib), stepB)),
    );
    // Chosen without branches: colours side by side go different ways.
    const rg = f32x4.ge(r, g);
    const rb = f32x4.ge(r, b);
    const gb = f32x4.ge(g, b);
    const far = v128.bitselect(v128.bitselect(stepR, stepB, rb), v128.bitselect(stepG, stepB, gb), rg);
    const near = v128.bitselect(v128.bitselect(stepB, stepG, gb), v128.bitselect(stepB, stepR, rb), rg);
    const high = f32x4.pmax(r, f32x4.pmax(g, b));
    const low = f32x4.pmin(r, f32x4.pmin(g, b));
    const middle = f32x4.pmax(f32x4.pmin(r, g), f32x4.pmin(f32x4.pmax(r, g), b));
    put(
      at + 0,
      between(
        table + <usize>i32x4.extract_lane(base, 0),
        i32x4.extract_lane(far, 0),
        i32x4.extract_lane(near, 0),
        opposite,
        v128.shuffle<f32>(high, high, 0, 0, 0, 0),
        v128.shuffle<f32>(middle, middle, 0, 0, 0, 0),
        v128.shuffle<f32>(low, low, 0, 0, 0, 0),
      ),
      a0,
    );
    put(
      at + 16,
      between(
        table + <usize>i32x4.extract_lane(base, 1),
        i32x4.extract_lane(far, 1),
        i32x4.extract_lane(near, 1),
        opposite,
        v128.shuffle<f32>(high, high, 1, 1, 1, 1),
        v128.shuffle<f32>(middle, middle, 1, 1, 1, 1),
        v128.shuffle<f32>(low, low, 1, 1, 1, 1),
      ),
      a1,
    );
    put(
      at + 32,
      between(
        table + <usize>i32x4.extract_lane(base, 2),
        i32x4.extract_lane(far, 2),
        i32x4.extract_lane(near, 2),
        opposite,
        v128.shuffle<f32>(high, high, 2, 2, 2, 2),
        v128.shuffle<f32>(middle, middle, 2, 2, 2, 2),
        v128.shuffle<f32>(low, low, 2, 2, 2, 2),
      ),
      a2,
    );
    put(
      at + 48,
      between(
        table + <usize>i32x4.extract_lane(base, 3),
        i32x4.extract_lane(far, 3),
        i32x4.extract_lane(near, 3),
        opposite,
        v128.shuffle<f32>(high, high, 3, 3, 3, 3),
        v128.shuffle<f32>(middle, middle, 3, 3, 3, 3),
        v128.shuffle<f32>(low, low, 3, 3, 3, 3),
      ),
      a3,
    );
    if (keeps) {
      addBeyond(at, p0, end, a0);
      addBeyond(at + 16, p1, end, a1);
      addBeyond(at + 32, p2, end, a2);
      addBeyond(at + 48, p3, end, a3);
    }
  }
}

/** The same by a curve for each channel. */
function curves(plate: usize, count: i32, table: usize, size: i32, numbers: usize): void {
  const begin = v128.load(numbers);
  const scale = v128.load(numbers, 16);
  const last = f32x4.splat(<f32>(size - 1));
  const lastSpan = f32x4.splat(<f32>(size - 2));
  for (let n = 0; n < count; n++) {
    const at = plate + ((<usize>n) << 4);
    const v = v128.load(at);
    const alpha = f32x4.extract_lane(v, 3);
    const t = along(alpha == 1 ? v : f32x4.div(v, f32x4.splat(alpha)), begin, scale, last);
    const whole = f32x4.pmin(f32x4.floor(t), lastSpan);
    const part = f32x4.sub(t, whole);
    const i = i32x4.shl(wholeOf(whole), 4);
    const r = table + <usize>i32x4.extract_lane(i, 0);
    const g = table + <usize>i32x4.extract_lane(i, 1);
    const b = table + <usize>i32x4.extract_lane(i, 2);
    const low = f32x4(load<f32>(r), load<f32>(g, 4), load<f32>(b, 8), 0);
    const high = f32x4(load<f32>(r, 16), load<f32>(g, 20), load<f32>(b, 24), 0);
    put(at, f32x4.add(low, f32x4.mul(f32x4.sub(high, low), part)), alpha);
  }
}
