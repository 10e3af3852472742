import { cosTurn, sinTurn } from './maths';

/**
 * Trowbridge-Reitz (GGX) with two widths `ax`, `ay` along the tangents; directions in the local frame, z along the
 * normal. Isotropic surfaces pass one width twice.
 */

/** Normal distribution of a half vector. */
// @ts-ignore: decorator
@inline
export function ggxD(hx: f64, hy: f64, hz: f64, ax: f64, ay: f64): f64 {
  const x = hx / ax;
  const y = hy / ay;
  const k = x * x + y * y + hz * hz;
  return 1.0 / (Math.PI * ax * ay * k * k);
}

/** The root in Smith's masking function; G1 = 2 z / (z + root). */
// @ts-ignore: decorator
@inline
export function smithRoot(x: f64, y: f64, z: f64, ax: f64, ay: f64): f64 {
  return Math.sqrt(ax * ax * x * x + ay * ay * y * y + z * z);
}

/** The same two for one width all round, from squared sines and cosines. */
// @ts-ignore: decorator
@inline
export function roundD(sin2: f64, cos: f64, alpha: f64): f64 {
  const a2 = alpha * alpha;
  const k = sin2 + a2 * cos * cos;
  return a2 / (Math.PI * k * k);
}

// @ts-ignore: decorator
@inline
export function roundRoot(sin2: f64, cos: f64, alpha: f64): f64 {
  return Math.sqrt(alpha * alpha * sin2 + cos * cos);
}

/** Height-correlated Smith shadowing and masking over that of the viewer alone, G2 / G1 (Heitz 2014). */
// @ts-ignore: decorator
@inline
export function smithRatio(lz: f64, rootL: f64, vz: f64, rootV: f64): f64 {
  return (lz * (vz + rootV)) / (vz * rootL + lz * rootV);
}

/**
 * A visible normal (Heitz 2018) for a view direction, drawn as the middle between the view and a point on a spherical cap
 * (Dupuy and Benyoub 2023). Its density over normals is G1(v) max(0, v.h) D(h) / v.z. Writes three doubles.
 */
export function sampleVisible(vx: f64, vy: f64, vz: f64, ax: f64, ay: f64, u: f64, v: f64, out: usize): void {
  let wx = ax * vx;
  let wy = ay * vy;
  let wz = vz;
  const l = 1.0 / Math.sqrt(wx * wx + wy * wy + wz * wz);
  wx *= l;
  wy *= l;
  wz *= l;
  const z = (1.0 - v) * (1.0 + wz) - wz;
  const r = Math.sqrt(Math.max(0.0, 1.0 - z * z));
  const hx = (r * cosTurn(u) + wx) * ax;
  const hy = (r * sinTurn(u) + wy) * ay;
  const hz = Math.max(1e-9, z + wz);
  const n = 1.0 / Math.sqrt(hx * hx + hy * hy + hz * hz);
  store<f64>(out, hx * n);
  store<f64>(out, hy * n, 8);
  store<f64>(out, hz * n, 16);
}

/** Unpolarised Fresnel reflectance of a dielectric; `eta` is the index behind over the index in front. 1 is total reflection. */
export function fresnelDielectric(cos: f64, eta: f64): f64 {
  const c = Math.min(1, Math.abs(cos));
  const g2 = eta * eta - 1 + c * c;
  if (g2 <= 0) return 1;
  const g = Math.sqrt(g2);
  const a = (g - c) / (g + c);
  const b = (c * (g + c) - 1) / (c * (g - c) + 1);
  return 0.5 * a * a * (1 + b * b);
}

// @ts-ignore: decorator
@inline
export function schlickWeight(cos: f64): f64 {
  const m = Math.min(1.0, Math.max(0.0, 1.0 - cos));
  const m2 = m * m;
  return m2 * m2 * m;
}

/** Charlie distribution of fibres round the normal (Estevez and Kulla 2017); `alpha` is roughness squared. */
export function charlieD(nh: f64, alpha: f64): f64 {
  const invAlpha = 1.0 / alpha;
  const sin2 = Math.max(1e-12, 1.0 - nh * nh);
  return ((2.0 + invAlpha) * Math.pow(sin2, invAlpha * 0.5)) / (2.0 * Math.PI);
}

function charlieFit(x: f64, alpha: f64): f64 {
  const t = (1.0 - alpha) * (1.0 - alpha);
  const a = 21.5473 + (25.3245 - 21.5473) * t;
  const b = 3.82987 + (3.32435 - 3.82987) * t;
  const c = 0.19823 + (0.16801 - 0.19823) * t;
  const d = -1.9776 + (-1.27393 + 1.9776) * t;
  const e = -4.32054 + (-4.85967 + 4.32054) * t;
  return a / (1.0 + b * Math.pow(x, c)) + d * x + e;
}

function charlieLambda(cos: f64, alpha: f64): f64 {
  if (cos < 0.5) return Math.exp(charlieFit(cos, alpha));
  return Math.exp(2.0 * charlieFit(0.5, alpha) - charlieFit(1.0 - cos, alpha));
}

/** Shadowing and masking of fibres over 4 nl nv, with the fit of the same paper. */
export function charlieVisibility(nl: f64, nv: f64, alpha: f64): f64 {
  return 1.0 / ((1.0 + charlieLambda(nv, alpha) + charlieLambda(nl, alpha)) * 4.0 * nl * nv);
}
