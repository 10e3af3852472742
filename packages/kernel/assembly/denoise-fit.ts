/** The models of the denoiser: linear ones of light over features, four pixels at a time, fitted by weighted least squares. */

/** Albedo, normal, depth; the first three are of albedo. */
export const FEATURES: i32 = 7;
export const OF_ALBEDO: i32 = 3;
/** The model's terms: a constant, and one a feature. */
const TERMS: i32 = FEATURES + 1;
const PAIRS: i32 = (TERMS * (TERMS + 1)) / 2;
/** Vectors of a group of four pixels at work: the fit's matrix and its solution. */
export const GROUP: usize = <usize>((PAIRS + TERMS) * 16);
/** What is listed of a place round them: weights, differences of features, and behind those where it lies. */
export const LISTED: usize = <usize>((TERMS + 1) * 16);
export const WHERE: usize = <usize>(TERMS * 16);
/** Where in a group its solution lies. */
export const SOLUTION: usize = <usize>(PAIRS << 4);

/**
 * Fits the models of four pixels; what reads them at the pixels' own features goes into the group's solution.
 * @param first of the features that is fitted to. @param strength of the ridge, of the weights' sum.
 */
export function fit(list: usize, count: i32, group: usize, first: i32, strength: f32): void {
  const terms = TERMS - first;
  if (first == 0) {
    constants(list, count, group);
    products(list, count, group);
  } else ofOneColour(list, count, group);
  const ridge = f32x4.add(f32x4.mul(v128.load(group), f32x4.splat(strength)), f32x4.splat(1e-9));
  for (let j = 1; j < terms; j++) {
    const at = entry(group, j, j, terms);
    v128.store(at, f32x4.add(v128.load(at), ridge));
  }
  solve(group, group + SOLUTION, terms);
}

/** The matrix without albedo, which is the same for all: rows of a constant and four features. */
function ofOneColour(list: usize, count: i32, group: usize): void {
  const from = list + <usize>(OF_ALBEDO << 4);
  let s0 = f32x4.splat(0);
  let s1 = s0;
  let s2 = s0;
  let s3 = s0;
  let s4 = s0;
  for (let n = 0, p = from; n < count; n++, p += LISTED) {
    const w = v128.load(p - <usize>(OF_ALBEDO << 4));
    s0 = f32x4.add(s0, w);
    s1 = scaled(w, p + 16, s1);
    s2 = scaled(w, p + 32, s2);
    s3 = scaled(w, p + 48, s3);
    s4 = scaled(w, p + 64, s4);
  }
  v128.store(group, s0);
  v128.store(group, s1, 16);
  v128.store(group, s2, 32);
  v128.store(group, s3, 48);
  v128.store(group, s4, 64);
  let q0 = f32x4.splat(0);
  let q1 = q0;
  let q2 = q0;
  let q3 = q0;
  let r0 = q0;
  let r1 = q0;
  let r2 = q0;
  let t0 = q0;
  let t1 = q0;
  let u0 = q0;
  for (let n = 0, p = from; n < count; n++, p += LISTED) {
    const w = v128.load(p - <usize>(OF_ALBEDO << 4));
    let v = f32x4.mul(w, v128.load(p, 16));
    q0 = scaled(v, p + 16, q0);
    q1 = scaled(v, p + 32, q1);
    q2 = scaled(v, p + 48, q2);
    q3 = scaled(v, p + 64, q3);
    v = f32x4.mul(w, v128.load(p, 32));
    r0 = scaled(v, p + 32, r0);
    r1 = scaled(v, p + 48, r1);
    r2 = scaled(v, p + 64, r2);
    v = f32x4.mul(w, v128.load(p, 48));
    t0 = scaled(v, p + 48, t0);
    t1 = scaled(v, p + 64, t1);
    v = f32x4.mul(w, v128.load(p, 64));
    u0 = scaled(v, p + 64, u0);
  }
  v128.store(group, q0, 80);
  v128.store(group, q1, 96);
  v128.store(group, q2, 112);
  v128.store(group, q3, 128);
  v128.store(group, r0, 144);
  v128.store(group, r1, 160);
  v128.store(group, r2, 176);
  v128.store(group, t0, 192);
  v128.store(group, t1, 208);
  v128.store(group, u0, 224);
}

// @ts-ignore: decorator
@inline
function scaled(w: v128, at: usize, sum: v128): v128 {
  return f32x4.add(sum, f32x4.mul(w, v128.load(at)));
}

/** The matrix's first row: sums of weights, and of weighted differences. Sums stay in registers: in memory they cost more. */
function constants(list: usize, count: i32, group: usize): void {
  let s0 = f32x4.splat(0);
  let s1 = s0;
  let s2 = s0;
  let s3 = s0;
  let s4 = s0;
  let s5 = s0;
  let s6 = s0;
  let s7 = s0;
  for (let n = 0, p = list; n < count; n++, p += LISTED) {
    const w = v128.load(p);
    s0 = f32x4.add(s0, w);
    s1 = scaled(w, p + 16, s1);
    s2 = scaled(w, p + 32, s2);
    s3 = scaled(w, p + 48, s3);
    s4 = scaled(w, p + 64, s4);
    s5 = scaled(w, p + 80, s5);
    s6 = scaled(w, p + 96, s6);
    s7 = scaled(w, p + 112, s7);
  }
  v128.store(group, s0);
  v128.store(group, s1, 16);
  v128.store(group, s2, 32);
  v128.store(group, s3, 48);
  v128.store(group, s4, 64);
  v128.store(group, s5, 80);
  v128.store(group, s6, 96);
  v128.store(group, s7, 112);
}

/** The other rows, a long one and a short one at a time: seven sums each. */
function products(list: usize, count: i32, group: usize): void {
  for (let j: usize = 1; j <= 4; j++) {
    // Row j has 8 - j sums, row 8 - j the other j; row 4 stands alone.
    const other: usize = 8 - j;
    let s0 = f32x4.splat(0);
    let s1 = s0;
    let s2 = s0;
    let s3 = s0;
    let s4 = s0;
    let s5 = s0;
    let s6 = s0;
    let t0 = s0;
    let t1 = s0;
    let t2 = s0;
    for (let n = 0, p = list; n < count; n++, p += LISTED) {
      const row = p + (j << 4);
      const w = f32x4.mul(v128.load(p), v128.load(row));
      s0 = scaled(w, row, s0);
      s1 = scaled(w, row + 16, s1);
      s2 = scaled(w, row + 32, s2);
      s3 = scaled(w, row + 48, s3);
      if (j < 4) {
        s4 = scaled(w, row + 64, s4);
        const last = p + (other << 4);
        const v = f32x4.mul(v128.load(p), v128.load(last));
        t0 = scaled(v, last, t0);
        if (j > 1) t1 = scaled(v, last + 16, t1);
        if (j > 2) t2 = scaled(v, last + 32, t2);
        if (j < 3) s5 = scaled(w, row + 80, s5);
        if (j < 2) s6 = scaled(w, row + 96, s6);
      }
    }
    const to = entry(group, <i32>j, <i32>j, TERMS);
    v128.store(to, s0);
    v128.store(to, s1, 16);
    v128.store(to, s2, 32);
    v128.store(to, s3, 48);
    if (j == 4) break;
    v128.store(to, s4, 64);
    if (j < 3) v128.store(to, s5, 80);
    if (j < 2) v128.store(to, s6, 96);
    const second = entry(group, <i32>other, <i32>other, TERMS);
    v128.store(second, t0);
    if (j > 1) v128.store(second, t1, 16);
    if (j > 2) v128.store(second, t2, 32);
  }
}

/** Row `j`, column `k` of the upper triangle, j <= k. */
// @ts-ignore: decorator
@inline
function entry(matrix: usize, j: i32, k: i32, terms: i32): usize {
  return matrix + ((<usize>(j * terms - ((j * (j - 1)) >> 1) + k - j)) << 4);
}

/** Solves matrix times solution = (1, 0, 0, ...) of four symmetric matrices by Cholesky; they are replaced by their factors. */
function solve(matrix: usize, solution: usize, terms: i32): void {
  const least = f32x4.splat(1e-12);
  for (let j = 0; j < terms; j++) {
    let d = v128.load(entry(matrix, j, j, terms));
    for (let i = 0; i < j; i++) {
      const l = v128.load(entry(matrix, i, j, terms));
      d = f32x4.sub(d, f32x4.mul(l, l));
    }
    const inverse = f32x4.div(f32x4.splat(1), f32x4.sqrt(f32x4.pmax(least, d)));
    // The diagonal holds one over itself: all that is done with it is dividing.
    v128.store(entry(matrix, j, j, terms), inverse);
    for (let k = j + 1; k < terms; k++) {
      let s = v128.load(entry(matrix, j, k, terms));
      for (let i = 0; i < j; i++)
        s = f32x4.sub(s, f32x4.mul(v128.load(entry(matrix, i, j, terms)), v128.load(entry(matrix, i, k, terms))));
      v128.store(entry(matrix, j, k, terms), f32x4.mul(s, inverse));
    }
  }
  v128.store(solution, v128.load(matrix));
  for (let j = 1; j < terms; j++) {
    let s = f32x4.splat(0);
    for (let i = 0; i < j; i++)
      s = f32x4.sub(s, f32x4.mul(v128.load(entry(matrix, i, j, terms)), v128.load(solution + ((<usize>i) << 4))));
    v128.store(solution + ((<usize>j) << 4), f32x4.mul(s, v128.load(entry(matrix, j, j, terms))));
  }
  for (let j = terms - 1; j >= 0; j--) {
    let s = v128.load(solution + ((<usize>j) << 4));
    for (let k = j + 1; k < terms; k++)
      s = f32x4.sub(s, f32x4.mul(v128.load(entry(matrix, j, k, terms)), v128.load(solution + ((<usize>k) << 4))));
    v128.store(solution + ((<usize>j) << 4), f32x4.mul(s, v128.load(entry(matrix, j, j, terms))));
  }
}
