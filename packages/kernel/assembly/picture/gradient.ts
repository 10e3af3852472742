/** Runs of colours over a plate, four pixels at a time. */

/** Where its numbers lie: the place's nine, then the length of the run in the layer's lengths, f64 each. */
const LENGTH: usize = 72;

const LINEAR: i32 = 0;
const RADIAL: i32 = 1;

/** Entries of the table of colours, and pixels along a side of the noise. */
const ENTRIES: f32 = 4096;
const NOISE: i32 = 64;

/** The share of a turn, 0..1, from up over the right: the arc tangent of 0 to 1 by Remez' exchange, to a millionth of a turn. */
// @ts-ignore: decorator
@inline
function turned(u: v128, v: v128): v128 {
  const across = f32x4.abs(u);
  const up = f32x4.abs(v);
  const high = f32x4.pmax(f32x4.pmax(across, up), f32x4.splat(1e-30));
  const z = f32x4.div(f32x4.pmin(across, up), high);
  const q = f32x4.mul(z, z);
  let p = f32x4.splat(-0.002183743);
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.00924331364));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(-0.0193792195));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.0311661429));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(-0.0530014372));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.159154321));
  const eighth = f32x4.mul(p, z);
  const quarter = v128.bitselect(eighth, f32x4.sub(f32x4.splat(0.25), eighth), f32x4.le(across, up));
  const half = v128.bitselect(f32x4.sub(f32x4.splat(0.5), quarter), quarter, f32x4.lt(v, f32x4.splat(0)));
  return v128.bitselect(f32x4.sub(f32x4.splat(1), half), half, f32x4.lt(u, f32x4.splat(0)));
}

/**
 * The colour of a pixel, its noise upon it: a step of a byte is about so much of light, by the slope of the power that codes it.
 * @param entry of the table. @param share of the next one. @param noise of full white.
 */
// @ts-ignore: decorator
@inline
function coloured(entry: usize, share: v128, noise: v128, scene: bool): v128 {
  const p = v128.load(entry);
  const there = f32x4.add(p, f32x4.mul(f32x4.sub(v128.load(entry, 16), p), share));
  const step = f32x4.mul(noise, v128.shuffle<f32>(there, there, 3, 3, 3, 3));
  const much = scene ? f32x4.mul(step, f32x4.sqrt(there)) : step;
  const zero = f32x4.splat(0);
  // The alpha of the noise is nothing, and what is clear stays clear.
  return v128.and(f32x4.pmax(zero, f32x4.add(there, much)), f32x4.gt(there, zero));
}

/**
 * A run of colours over all of a plate, whose first row is row `top` of the picture and whose rows have room for whole fours of pixels after them.
 * @param table of premultiplied colours along the run, ENTRIES + 1 of four f32. @param noise NOISE rows of NOISE f32.
 */
export function gradient(
  to: usize,
  width: i32,
  height: i32,
  top: i32,
  numbers: usize,
  form: i32,
  table: usize,
  noise: usize,
  scene: i32,
): void {
  const a = load<f64>(numbers);
  const d = load<f64>(numbers, 24);
  const g = load<f64>(numbers, 48);
  const length = <f32>load<f64>(numbers, LENGTH);
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const light = scene != 0;
  const slope: f32 = light ? 2.2 : 1;
  const pixels = f32x4(0.5, 1.5, 2.5, 3.5);
  const flat = g == 0 && load<f64>(numbers, 56) == 0 && load<f64>(numbers, 64) == 1;
  for (let y = 0; y < height; y++) {
    const py = <f64>(top + y) + 0.5;
    const row = to + ((<usize>(y * width)) << 4);
    const noises = noise + ((<usize>(((top + y) % NOISE) * NOISE)) << 2);
    const u0 = load<f64>(numbers, 8) * py + load<f64>(numbers, 16);
    const v0 = load<f64>(numbers, 32) * py + load<f64>(numbers, 40);
    const w0 = load<f64>(numbers, 56) * py + load<f64>(numbers, 64);
    for (let x = 0; x < width; x += 4) {
      const px = <f64>x;
      let u = f32x4.add(f32x4.splat(<f32>(a * px + u0)), f32x4.mul(pixels, f32x4.splat(<f32>a)));
      let v = f32x4.add(f32x4.splat(<f32>(d * px + v0)), f32x4.mul(pixels, f32x4.splat(<f32>d)));
      let before = i32x4.splat(-1);
      if (!flat) {
        const w = f32x4.add(f32x4.splat(<f32>(g * px + w0)), f32x4.mul(pixels, f32x4.splat(<f32>g)));
        // What is behind the eye is not seen.
        before = f32x4.gt(w, zero);
        u = f32x4.div(u, w);
        v = f32x4.div(v, w);
      }
      let t: v128;
      if (form == LINEAR) t = f32x4.sub(f32x4.splat(0.5), f32x4.div(v, f32x4.splat(length)));
      else if (form == RADIAL) {
        const r = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v)));
        t = f32x4.div(f32x4.add(r, r), f32x4.splat(length));
      } else t = turned(u, v);
      // The greater of nothing and what is no number is nothing.
      const at = f32x4.mul(f32x4.pmin(one, f32x4.pmax(zero, t)), f32x4.splat(ENTRIES));
      const first = i32x4.min_s(i32x4.trunc_sat_f32x4_s(at), i32x4.splat(<i32>ENTRIES - 1));
      const share = f32x4.sub(at, f32x4.convert_i32x4_s(first));
      const out = row + ((<usize>x) << 4);
      const noisy = f32x4.mul(v128.load(noises + ((<usize>(x % NOISE)) << 2)), f32x4.splat(slope));
      v128.store(
        out,
        v128.and(
          v128.shuffle<i32>(before, before, 0, 0, 0, 0),
          coloured(
            table + ((<usize>i32x4.extract_lane(first, 0)) << 4),
            v128.shuffle<f32>(share, share, 0, 0, 0, 0),
            v128.shuffle<f32>(noisy, zero, 0, 0, 0, 4),
            light,
          ),
        ),
        0,
      );
      v128.store(
        out,
        v128.and(
          v128.shuffle<i32>(before, before, 1, 1, 1, 1),
          coloured(
            table + ((<usize>i32x4.extract_lane(first, 1)) << 4),
            v128.shuffle<f32>(share, share, 1, 1, 1, 1),
            v128.shuffle<f32>(noisy, zero, 1, 1, 1, 4),
            light,
          ),
        ),
        16,
      );
      v128.store(
        out,
        v128.and(
          v128.shuffle<i32>(before, before, 2, 2, 2, 2),
          coloured(
            table + ((<usize>i32x4.extract_lane(first, 2)) << 4),
            v128.shuffle<f32>(share, share, 2, 2, 2, 2),
            v128.shuffle<f32>(noisy, zero, 2, 2, 2, 4),
            light,
          ),
        ),
        32,
      );
      v128.store(
        out,
        v128.and(
          v128.shuffle<i32>(before, before, 3, 3, 3, 3),
          coloured(
            table + ((<usize>i32x4.extract_lane(first, 3)) << 4),
            v128.shuffle<f32>(share, share, 3, 3, 3, 3),
            v128.shuffle<f32>(noisy, zero, 3, 3, 3, 4),
            light,
          ),
        ),
        48,
      );
    }
  }
}
