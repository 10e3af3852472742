/**
 * Directional albedo of the lobes, worked out once a memory by integrating the lobes themselves. With it what single
 * scattering loses is given back (Kulla and Conty 2017), and layers take exactly what those on top leave.
 *
 * Tables (f32). Cosines run as their square root, roughness evenly, so that the steep corners are resolved:
 * SPECULAR [32 roughness][32 cosine][A, B]: reflectance is F0 A + F90 B, A + B that of a perfect mirror's facets;
 * SPECULAR_MEAN [32][A, B] cosine-weighted means; SHEEN [32][32]; GLASS [16 eta above 1, then 16 below][16 roughness]
 * [16 cosine], dense near eta 1. Sheen and glass are filled when a scene has such a finish.
 * A brushed finish has a table of its own for its strength: [12 roughness][9 azimuth][16 cosine][A, B], then means.
 */
import { at } from './scene';
import {
  charlieD,
  charlieVisibility,
  fresnelDielectric,
  sampleVisible,
  schlickWeight,
  smithRatio,
  smithRoot,
} from './microfacet';
import { cosTurn, sinTurn } from './maths';

const N: i32 = 32;
const M: i32 = 16;
export const SPECULAR: i32 = 0;
export const SPECULAR_MEAN: i32 = 2048;
const SHEEN: i32 = 2112;
const GLASS: i32 = 3136;
const FLOATS: i32 = 11328;
const SHEEN_ROUGH: i32 = 32;
const ETAS: i32 = 16;
const BRUSHED_ROUGH: i32 = 12;
const BRUSHED_TURNS: i32 = 9;
const BRUSHED_MEAN: i32 = BRUSHED_ROUGH * BRUSHED_TURNS * 16 * 2;
/** Widest index ratio the glass table knows; beyond it the edge is used. */
const ETA_SPAN: f64 = 1.5;
export const MIN_ALPHA: f64 = 0.0012;
/** Below this roughness cloth's fibres would stand in one line. */
export const MIN_SHEEN: f64 = 0.07;

export function tableBytes(): usize {
  return (<usize>FLOATS) << 2;
}

// @ts-ignore: decorator
@inline
function put(tables: usize, index: i32, value: f64): void {
  store<f32>(tables + ((<usize>index) << 2), <f32>value);
}

export function brushedBytes(): usize {
  return (<usize>(BRUSHED_MEAN + BRUSHED_ROUGH * 2)) << 2;
}

function radicalInverse(i: u32): f64 {
  let x = i;
  x = ((x >> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return <f64>((x >> 16) | (x << 16)) / 4294967296.0;
}

/** Integrates one facet lobe by visible normals, seen from unit azimuth (cx, cy): A and B as two doubles at `out`. */
function facets(mu: f64, cx: f64, cy: f64, ax: f64, ay: f64, samples: i32, out: usize): void {
  const side = Math.sqrt(1.0 - mu * mu);
  const vx = side * cx;
  const vy = side * cy;
  const rootV = smithRoot(vx, vy, mu, ax, ay);
  let a: f64 = 0;
  let b: f64 = 0;
  for (let i = 0; i < samples; i++) {
    sampleVisible(vx, vy, mu, ax, ay, radicalInverse(i), (<f64>i + 0.5) / <f64>samples, out);
    const hx = load<f64>(out);
    const hy = load<f64>(out, 8);
    const hz = load<f64>(out, 16);
    const vh = vx * hx + vy * hy + mu * hz;
    const lz = 2 * vh * hz - mu;
    if (lz <= 0) continue;
    const lx = 2 * vh * hx - vx;
    const ly = 2 * vh * hy - vy;
    const ratio = smithRatio(lz, smithRoot(lx, ly, lz, ax, ay), mu, rootV);
    const w = schlickWeight(vh);
    a += ratio * (1 - w);
    b += ratio * w;
  }
  store<f64>(out, a / <f64>samples);
  store<f64>(out, b / <f64>samples, 8);
}

function cosineOf(i: i32, count: i32): f64 {
  const s = <f64>i / <f64>(count - 1);
  return Math.max(1e-4, s * s);
}

// @ts-ignore: decorator
@inline
function widthOf(i: i32, count: i32): f64 {
  const r = <f64>i / <f64>(count - 1);
  return Math.max(MIN_ALPHA, r * r);
}

/** Fills the tables of facets. `scratch`: 64 bytes to work in. */
export function fillTables(tables: usize, scratch: usize): void {
  for (let r = 0; r < N; r++) {
    const alpha = widthOf(r, N);
    for (let c = 0; c < N; c++) {
      facets(cosineOf(c, N), 1, 0, alpha, alpha, 256, scratch);
      put(tables, SPECULAR + (r * N + c) * 2, load<f64>(scratch));
      put(tables, SPECULAR + (r * N + c) * 2 + 1, load<f64>(scratch, 8));
    }
    let a: f64 = 0;
    let b: f64 = 0;
    const steps = 128;
    for (let i = 0; i < steps; i++) {
      const mu = (<f64>i + 0.5) / <f64>steps;
      specular(tables, mu, <f64>r / <f64>(N - 1), scratch);
      a += (load<f64>(scratch) * mu * 2.0) / <f64>steps;
      b += (load<f64>(scratch, 8) * mu * 2.0) / <f64>steps;
    }
    put(tables, SPECULAR_MEAN + r * 2, a);
    put(tables, SPECULAR_MEAN + r * 2 + 1, b);
  }
}

export function fillSheen(tables: usize): void {
  for (let r = 0; r < SHEEN_ROUGH; r++) {
    const rough = MIN_SHEEN + ((1.0 - MIN_SHEEN) * <f64>r) / <f64>(SHEEN_ROUGH - 1);
    for (let c = 0; c < N; c++) put(tables, SHEEN + r * N + c, integrateSheen(cosineOf(c, N), rough * rough));
  }
}

/** `scratch`: 64 bytes to work in. */
export function fillGlass(tables: usize, scratch: usize): void {
  for (let e = 0; e < ETAS * 2; e++) {
    const step = <f64>(e & (ETAS - 1)) / <f64>(ETAS - 1);
    const wide = 1.0 + step * step * ETA_SPAN;
    const eta = e < ETAS ? wide : 1.0 / wide;
    for (let r = 0; r < M; r++) {
      for (let c = 0; c < M; c++) {
        put(tables, GLASS + (e * M + r) * M + c, integrateGlass(cosineOf(c, M), widthOf(r, M), eta, scratch));
      }
    }
  }
}

/** Width along the brush strokes' tangent, as KHR_materials_anisotropy stretches it. */
export function stretched(alpha: f64, strength: f64): f64 {
  return alpha + (1.0 - alpha) * strength * strength;
}

/** Fills the table of a brushed finish of `strength`. */
export function fillBrushed(table: usize, strength: f64, scratch: usize): void {
  for (let r = 0; r < BRUSHED_ROUGH; r++) {
    const alpha = widthOf(r, BRUSHED_ROUGH);
    const ax = stretched(alpha, strength);
    for (let p = 0; p < BRUSHED_TURNS; p++) {
      const y = <f64>p / <f64>(BRUSHED_TURNS - 1);
      const l = 1.0 / Math.sqrt((1.0 - y) * (1.0 - y) + y * y);
      for (let c = 0; c < M; c++) {
        facets(cosineOf(c, M), (1.0 - y) * l, y * l, ax, alpha, 192, scratch);
        const o = ((r * BRUSHED_TURNS + p) * M + c) * 2;
        put(table, o, load<f64>(scratch));
        put(table, o + 1, load<f64>(scratch, 8));
      }
    }
    let a: f64 = 0;
    let b: f64 = 0;
    for (let p = 0; p < 16; p++) {
      const turn = (<f64>p + 0.5) / 64.0;
      for (let i = 0; i < 64; i++) {
        const mu = (<f64>i + 0.5) / 64.0;
        brushed(table, mu, cosTurn(turn), sinTurn(turn), <f64>r / <f64>(BRUSHED_ROUGH - 1), scratch);
        a += load<f64>(scratch) * mu;
        b += load<f64>(scratch, 8) * mu;
      }
    }
    put(table, BRUSHED_MEAN + r * 2, a / 512.0);
    put(table, BRUSHED_MEAN + r * 2 + 1, b / 512.0);
  }
}

function integrateSheen(mu: f64, alpha: f64): f64 {
  const side = Math.sqrt(1.0 - mu * mu);
  const steps = 48;
  let sum: f64 = 0;
  for (let i = 0; i < steps; i++) {
    // Dense near the horizon, where smooth fibres throw nearly all they do.
    const s = (<f64>i + 0.5) / <f64>steps;
    const z = s * s;
    const r = Math.sqrt(1.0 - z * z);
    const visibility = charlieVisibility(z, mu, alpha);
    for (let j = 0; j < steps; j++) {
      const turn = (<f64>j + 0.5) / <f64>steps / 2.0;
      const x = r * cosTurn(turn) + side;
      const y = r * sinTurn(turn);
      const h = Math.sqrt(x * x + y * y + (z + mu) * (z + mu));
      sum += charlieD((z + mu) / h, alpha) * visibility * z * 2.0 * s;
    }
  }
  return (sum * 2.0 * Math.PI) / <f64>(steps * steps);
}

function integrateGlass(mu: f64, alpha: f64, eta: f64, scratch: usize): f64 {
  const vx = Math.sqrt(1.0 - mu * mu);
  const rootV = smithRoot(vx, 0, mu, alpha, alpha);
  const samples = 320;
  let sum: f64 = 0;
  for (let i = 0; i < samples; i++) {
    sampleVisible(vx, 0, mu, alpha, alpha, radicalInverse(i), (<f64>i + 0.5) / <f64>samples, scratch);
    const hx = load<f64>(scratch);
    const hy = load<f64>(scratch, 8);
    const hz = load<f64>(scratch, 16);
    const vh = vx * hx + mu * hz;
    const f = fresnelDielectric(vh, eta);
    const lz = 2 * vh * hz - mu;
    if (lz > 0) sum += f * smithRatio(lz, smithRoot(2 * vh * hx - vx, 2 * vh * hy, lz, alpha, alpha), mu, rootV);
    if (f < 1) {
      const ratio = 1.0 / eta;
      const bend = ratio * vh - Math.sqrt(Math.max(0.0, 1.0 - ratio * ratio * (1.0 - vh * vh)));
      const tz = hz * bend - mu * ratio;
      if (tz < 0) {
        const tx = hx * bend - vx * ratio;
        const ty = hy * bend;
        sum += ((1.0 - f) * 2.0 * -tz) / (-tz + smithRoot(tx, ty, tz, alpha, alpha));
      }
    }
  }
  return sum / <f64>samples;
}

/** A and B of facets at a cosine and roughness, as two doubles. */
export function specular(tables: usize, mu: f64, roughness: f64, out: usize): void {
  const x = Math.min(<f64>N - 1.0001, Math.sqrt(Math.max(0.0, mu)) * <f64>(N - 1));
  const y = Math.min(<f64>N - 1.0001, roughness * <f64>(N - 1));
  const i = <i32>x;
  const j = <i32>y;
  // A and B of two cosines lie side by side: four numbers of each row.
  const p = tables + ((<usize>(SPECULAR + (j * N + i) * 2)) << 2);
  const low = v128.load(p);
  const row = f32x4.add(low, f32x4.mul(f32x4.sub(v128.load(p, (<usize>N) << 3), low), f32x4.splat(<f32>(y - <f64>j))));
  const next = v128.shuffle<f32>(row, row, 2, 3, 2, 3);
  const both = f32x4.add(row, f32x4.mul(f32x4.sub(next, row), f32x4.splat(<f32>(x - <f64>i))));
  v128.store(out, f64x2.promote_low_f32x4(both));
}

export function specularMean(tables: usize, roughness: f64, out: usize): void {
  const y = Math.min(<f64>N - 1.0001, roughness * <f64>(N - 1));
  const j = <i32>y;
  const f = y - <f64>j;
  const o = SPECULAR_MEAN + j * 2;
  store<f64>(out, at(tables, o) * (1 - f) + at(tables, o + 2) * f);
  store<f64>(out, at(tables, o + 1) * (1 - f) + at(tables, o + 3) * f, 8);
}

/** Trilinear look-up at cell coordinates; rows have M cells of `stride` floats, slabs `rows` rows. */
function cube(tables: usize, o: i32, stride: i32, rows: i32, x: f64, y: f64, z: f64): f64 {
  const i = <i32>x;
  const j = <i32>y;
  const k = <i32>z;
  const fx = x - <f64>i;
  const fy = y - <f64>j;
  const fz = z - <f64>k;
  const p = o + ((k * rows + j) * M + i) * stride;
  const row = M * stride;
  const a =
    (at(tables, p) * (1 - fx) + at(tables, p + stride) * fx) * (1 - fy) +
    (at(tables, p + row) * (1 - fx) + at(tables, p + row + stride) * fx) * fy;
  const q = p + rows * row;
  const b =
    (at(tables, q) * (1 - fx) + at(tables, q + stride) * fx) * (1 - fy) +
    (at(tables, q + row) * (1 - fx) + at(tables, q + row + stride) * fx) * fy;
  return a * (1 - fz) + b * fz;
}

// @ts-ignore: decorator
@inline
function cell(v: f64, span: i32): f64 {
  return Math.min(<f64>span - 1.0001, Math.max(0.0, v) * <f64>(span - 1));
}

/** A and B of a brushed lobe seen from cosine `mu` and azimuth (x, y) to its tangent, any length. */
export function brushed(table: usize, mu: f64, x: f64, y: f64, roughness: f64, out: usize): void {
  const ax = Math.abs(x);
  const ay = Math.abs(y);
  const c = cell(Math.sqrt(Math.max(0.0, mu)), M);
  const p = cell(ax + ay > 1e-9 ? ay / (ax + ay) : 0.0, BRUSHED_TURNS);
  const r = cell(roughness, BRUSHED_ROUGH);
  store<f64>(out, cube(table, 0, 2, BRUSHED_TURNS, c, p, r));
  store<f64>(out, cube(table, 1, 2, BRUSHED_TURNS, c, p, r), 8);
}

export function brushedMean(table: usize, roughness: f64, out: usize): void {
  const y = cell(roughness, BRUSHED_ROUGH);
  const j = <i32>y;
  const f = y - <f64>j;
  const o = BRUSHED_MEAN + j * 2;
  store<f64>(out, at(table, o) * (1 - f) + at(table, o + 2) * f);
  store<f64>(out, at(table, o + 1) * (1 - f) + at(table, o + 3) * f, 8);
}

export function sheenAlbedo(tables: usize, mu: f64, roughness: f64): f64 {
  const x = cell(Math.sqrt(Math.max(0.0, mu)), N);
  const y = cell((roughness - MIN_SHEEN) / (1.0 - MIN_SHEEN), SHEEN_ROUGH);
  const i = <i32>x;
  const j = <i32>y;
  const fx = x - <f64>i;
  const fy = y - <f64>j;
  const p = SHEEN + j * N + i;
  return (
    (at(tables, p) * (1 - fx) + at(tables, p + 1) * fx) * (1 - fy) +
    (at(tables, p + N) * (1 - fx) + at(tables, p + N + 1) * fx) * fy
  );
}

/** Share of light that a single scattering of rough glass keeps, reflected or let through. */
export function glassAlbedo(tables: usize, mu: f64, roughness: f64, eta: f64): f64 {
  const wide = eta >= 1 ? eta : 1.0 / eta;
  const z = cell(Math.sqrt((wide - 1.0) / ETA_SPAN), ETAS) + (eta >= 1 ? 0.0 : <f64>ETAS);
  return cube(tables, GLASS, 1, M, cell(Math.sqrt(Math.max(0.0, mu)), M), cell(roughness, M), z);
}
