/** Fractal value noise over a plate. */

/** Where its numbers lie: f64 each. */
const XU: usize = 0;
const XV: usize = 8;
const X0: usize = 16;
const YU: usize = 24;
const YV: usize = 32;
const Y0: usize = 40;
const CONTRAST: usize = 48;
const BRIGHTNESS: usize = 56;

/** Cells of the lattice along a side; it repeats. */
const CELLS: i32 = 32;
const MASK: i32 = 31;

/** Each point of a lattice with its three neighbours across and up, so that one load has a face of a cell. */
export function layLattice(numbers: usize, to: usize): void {
  for (let k = 0; k < CELLS; k++)
    for (let j = 0; j < CELLS; j++)
      for (let i = 0; i < CELLS; i++) {
        const plane = k << 10;
        const y0 = plane + (j << 5);
        const y1 = plane + (((j + 1) & MASK) << 5);
        const x1 = (i + 1) & MASK;
        const at = to + ((<usize>(y0 + i)) << 4);
        store<f32>(at, load<f32>(numbers + ((<usize>(y0 + i)) << 2)));
        store<f32>(at, load<f32>(numbers + ((<usize>(y0 + x1)) << 2)), 4);
        store<f32>(at, load<f32>(numbers + ((<usize>(y1 + i)) << 2)), 8);
        store<f32>(at, load<f32>(numbers + ((<usize>(y1 + x1)) << 2)), 12);
      }
}

// @ts-ignore: decorator
@inline
function eased(t: f32): f32 {
  return t * t * t * (t * (t * 6 - 15) + 10);
}

/** Value noise, 0..1, that repeats after 32. */
// @ts-ignore: decorator
@inline
function noise(lattice: usize, x: f64, y: f64, near: i32, far: i32, c: v128): f32 {
  const i = Math.floor(x);
  const j = Math.floor(y);
  const cell = (<usize>(((<i32>j) & MASK) << 5) + <usize>((<i32>i) & MASK)) << 4;
  const a = eased(<f32>(x - i));
  const b = eased(<f32>(y - j));
  const p = v128.load(lattice + ((<usize>near) << 14) + cell);
  const q = v128.load(lattice + ((<usize>far) << 14) + cell);
  const face = f32x4.add(p, f32x4.mul(f32x4.sub(q, p), c));
  const low = f32x4.extract_lane(face, 0) * (1 - a) + f32x4.extract_lane(face, 1) * a;
  const high = f32x4.extract_lane(face, 2) * (1 - a) + f32x4.extract_lane(face, 3) * a;
  return low * (1 - b) + high * b;
}

/**
 * Octaves of noise, each half as large and half as strong, turned against each other so that no lattice shows, as a plate of one
 * premultiplied colour. @param depths a row an octave: i32 plane, i32 plane behind it, f32 how far between, f32 weight.
 */
export function vapour(
  to: usize,
  width: i32,
  height: i32,
  numbers: usize,
  lattice: usize,
  depths: usize,
  octaves: i32,
  r: f32,
  g: f32,
  b: f32,
): void {
  const contrast = <f32>load<f64>(numbers, CONTRAST) * 2;
  const brightness = <f32>load<f64>(numbers, BRIGHTNESS) + 0.5;
  const xu = load<f64>(numbers, XU);
  const yu = load<f64>(numbers, YU);
  const ink = f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(1), 0, r), 1, g), 2, b);
  for (let py = 0; py < height; py++) {
    const v = <f64>py + 0.5;
    const xs = load<f64>(numbers, XV) * v + load<f64>(numbers, X0);
    const ys = load<f64>(numbers, YV) * v + load<f64>(numbers, Y0);
    const row = to + ((<usize>(py * width)) << 4);
    for (let px = 0; px < width; px++) {
      const u = <f64>px + 0.5;
      let x = xu * u + xs;
      let y = yu * u + ys;
      let sum: f32 = 0;
      for (let k = 0; k < octaves; k++) {
        const depth = depths + ((<usize>k) << 4);
        sum +=
          load<f32>(depth, 12) *
          noise(lattice, x, y, load<i32>(depth), load<i32>(depth, 4), v128.load32_splat(depth, 8));
        const next = 1.732 * x - y + 11.7;
        y = x + 1.732 * y - 4.1;
        x = next;
      }
      const there = max<f32>(0, min<f32>(1, (sum - 0.5) * contrast + brightness));
      v128.store(row + ((<usize>px) << 4), f32x4.mul(ink, f32x4.splat(there * there * (3 - 2 * there))));
    }
  }
}
