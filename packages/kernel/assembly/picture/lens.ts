/** What a lens and film do to a plate besides bending and blurring it. */

/** Mixes colours with another plate's: its bloom. */
export function mixColours(plate: usize, other: usize, count: i32, amount: f32): void {
  const by = f32x4.replace_lane(f32x4.splat(amount), 3, 0);
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 4;
    const v = v128.load(plate + at);
    v128.store(plate + at, f32x4.add(v, f32x4.mul(f32x4.sub(v128.load(other + at), v), by)));
  }
}

/** Of each pixel what its brightest channel has above white, in all channels. */
export function overWhite(plate: usize, to: usize, count: i32): void {
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 4;
    const v = v128.load(plate + at);
    const most = max(f32x4.extract_lane(v, 0), max(f32x4.extract_lane(v, 1), f32x4.extract_lane(v, 2)));
    v128.store(to + at, f32x4.splat(max<f32>(0, most - 1)));
  }
}

/** Adds another plate in a colour, alpha left. */
export function addTinted(plate: usize, other: usize, count: i32, r: f32, g: f32, b: f32): void {
  const tint = f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(0), 0, r), 1, g), 2, b);
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 4;
    v128.store(plate + at, f32x4.add(v128.load(plate + at), f32x4.mul(v128.load(other + at), tint)));
  }
}

/**
 * Natural vignetting: at full strength corners see the light at 45 degrees, a quarter of it (cosine to the fourth).
 * @param plate rows of a picture. @param first of them in the picture. @param end of them.
 */
export function vignette(plate: usize, width: i32, height: i32, first: i32, end: i32, strength: f32): void {
  const mx: f32 = <f32>width * 0.5;
  const my: f32 = <f32>height * 0.5;
  const corner: f32 = <f32>1 / (mx * mx + my * my);
  const one = f32x4.splat(1);
  for (let y = first; y < end; y++) {
    const dy: f32 = <f32>y + 0.5 - my;
    const row = plate + ((<usize>((y - first) * width)) << 4);
    const far = f32x4.splat(dy * dy);
    for (let x = 0; x < width; x += 4) {
      const dx = f32x4.add(f32x4.splat(<f32>x + 0.5 - mx), f32x4(0, 1, 2, 3));
      const r2 = f32x4.mul(f32x4.add(f32x4.mul(dx, dx), far), f32x4.splat(corner));
      const cos2 = f32x4.div(one, f32x4.add(one, r2));
      const k = f32x4.add(one, f32x4.mul(f32x4.sub(f32x4.mul(cos2, cos2), one), f32x4.splat(strength)));
      const at = row + ((<usize>x) << 4);
      const left = width - x;
      dim(at, v128.shuffle<f32>(k, k, 0, 0, 0, 0));
      if (left > 1) dim(at + 16, v128.shuffle<f32>(k, k, 1, 1, 1, 1));
      if (left > 2) dim(at + 32, v128.shuffle<f32>(k, k, 2, 2, 2, 2));
      if (left > 3) dim(at + 48, v128.shuffle<f32>(k, k, 3, 3, 3, 3));
    }
  }
}

/** A pixel's light times a number, its alpha left. */
// @ts-ignore: decorator
@inline
function dim(at: usize, by: v128): void {
  v128.store(at, f32x4.mul(v128.load(at), f32x4.replace_lane(by, 3, 1)));
}

/** A number from -1/2 to below 1/2 for three whole ones (after Wellons' lowbias32). */
// @ts-ignore: decorator
@inline
function hashed(x: i32, y: i32, z: i32): f32 {
  let h = (<u32>x * 0x27d4eb2d) ^ (<u32>y * 0x165667b1) ^ (<u32>z);
  h = (h ^ (h >> 16)) * 0x21f0aaad;
  h = (h ^ (h >> 15)) * 0x735a2d97;
  return <f32>((h ^ (h >> 15)) >> 8) * (1.0 / 16777216) - 0.5;
}

/** Room of a grid of grain behind its points: a row between two of them, and for each pixel of a row where in that it lies. */
// @ts-ignore: decorator
@inline
function lineOf(points: usize, columns: i32, lines: i32): usize {
  return points + ((<usize>(columns * lines)) << 4);
}

/**
 * The points of a grid of grain: a number from -1/2 to 1/2 for each channel and for all of them.
 * @param points room for `columns` x `lines` + `columns` of 16 bytes, and 8 bytes for each pixel of a row. @param cell a grain's width in
 * pixels. @param salt another one, another grain.
 */
export function grainPoints(points: usize, columns: i32, lines: i32, width: i32, cell: f64, salt: i32): void {
  for (let j = 0, at = points; j < lines; j++)
    for (let i = 0; i < columns; i++, at += 16) {
      store<f32>(at, hashed(i, j, salt));
      store<f32>(at, hashed(i, j, salt ^ 0x5bd1e995), 4);
      store<f32>(at, hashed(i, j, salt ^ 0x3c6ef372), 8);
      store<f32>(at, hashed(i, j, salt ^ 0x1f83d9ab), 12);
    }
  const per = 1 / cell;
  const where = lineOf(points, columns, lines) + ((<usize>columns) << 4);
  for (let x = 0; x < width; x++) {
    const u = (<f64>x + 0.5) * per;
    const i = <i32>u;
    store<i32>(where + ((<usize>x) << 3), i << 4);
    store<f32>(where + ((<usize>x) << 3), <f32>(u - <f64>i), 4);
  }
}

/**
 * Grain: noise between the points of a grid, a little of its own in each channel, strongest where half of the film's silver is there.
 * @param plate rows of a picture. @param first of them in the picture. @param end of them. @param points as grainPoints() left them.
 */
export function grain(
  plate: usize,
  width: i32,
  first: i32,
  end: i32,
  points: usize,
  columns: i32,
  lines: i32,
  cell: f64,
  strength: f32,
): void {
  const per = 1 / cell;
  const zero = f32x4.splat(0);
  const line = lineOf(points, columns, lines);
  const where = line + ((<usize>columns) << 4);
  const weights = f32x4(0.2126, 0.7152, 0.0722, 0);
  for (let y = first; y < end; y++) {
    const v = (<f64>y + 0.5) * per;
    const j = <i32>v;
    const b = f32x4.splat(<f32>(v - <f64>j));
    const top = points + ((<usize>(j * columns)) << 4);
    const low = top + ((<usize>columns) << 4);
    for (let i: usize = 0; i < (<usize>columns) << 4; i += 16) {
      const p = v128.load(top + i);
      v128.store(line + i, f32x4.add(p, f32x4.mul(f32x4.sub(v128.load(low + i), p), b)));
    }
    const row = plate + ((<usize>((y - first) * width)) << 4);
    for (let x = 0; x < width; x++) {
      const spot = where + ((<usize>x) << 3);
      const point = line + <usize>load<i32>(spot);
      const p = v128.load(point);
      const noise = f32x4.add(p, f32x4.mul(f32x4.sub(v128.load(point, 16), p), v128.load32_splat(spot, 4)));
      const at = row + ((<usize>x) << 4);
      const was = v128.load(at);
      const here = f32x4.pmax(zero, was);
      // Luminance in all lanes.
      const each = f32x4.mul(here, weights);
      const pairs = f32x4.add(each, v128.shuffle<f32>(each, each, 1, 0, 3, 2));
      const light = f32x4.add(pairs, v128.shuffle<f32>(pairs, pairs, 2, 3, 0, 1));
      const response = f32x4.div(
        f32x4.mul(f32x4.splat(strength), f32x4.sqrt(f32x4.mul(light, here))),
        f32x4.add(f32x4.splat(0.25), light),
      );
      const shared = f32x4.mul(v128.shuffle<f32>(noise, noise, 3, 3, 3, 3), f32x4.splat(0.7));
      const mixed = f32x4.add(shared, f32x4.mul(noise, f32x4.splat(0.3)));
      const made = f32x4.pmax(zero, f32x4.add(here, f32x4.mul(mixed, response)));
      v128.store(at, f32x4.replace_lane(made, 3, f32x4.extract_lane(was, 3)));
    }
  }
}
