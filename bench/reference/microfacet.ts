/** Trowbridge-Reitz (GGX) normal distribution for the cosine `nh` between normal and half vector. */
export function ggxD(nh: number, alpha: number): number {
  const a2 = alpha * alpha;
  const d = nh * nh * (a2 - 1) + 1;
  return a2 / (Math.PI * d * d);
}

/** Smith masking of one direction with cosine `nv`. */
export function smithG1(nv: number, alpha: number): number {
  const a2 = alpha * alpha;
  return (2 * nv) / (nv + Math.sqrt(a2 + (1 - a2) * nv * nv));
}

/** Height-correlated Smith shadowing and masking divided by 4 nl nv (Heitz 2014). */
export function smithVisibility(nl: number, nv: number, alpha: number): number {
  const a2 = alpha * alpha;
  const l = nv * Math.sqrt(nl * nl * (1 - a2) + a2);
  const v = nl * Math.sqrt(nv * nv * (1 - a2) + a2);
  return 0.5 / (l + v);
}

/**
 * A visible normal (Heitz 2018, "Sampling the GGX Distribution of Visible Normals") for a view direction in the local
 * frame (z = normal). Its density over normals is G1(v) max(0, v.h) D(h) / v.z.
 */
export function sampleGgxNormal(
  vx: number,
  vy: number,
  vz: number,
  alpha: number,
  u: number,
  v: number,
  out: Float64Array,
): void {
  let hx = alpha * vx;
  let hy = alpha * vy;
  let hz = vz;
  let length = Math.sqrt(hx * hx + hy * hy + hz * hz) || 1;
  hx /= length;
  hy /= length;
  hz /= length;
  const side = hx * hx + hy * hy;
  const t1x = side > 1e-14 ? -hy / Math.sqrt(side) : 1;
  const t1y = side > 1e-14 ? hx / Math.sqrt(side) : 0;
  const t2x = -hz * t1y;
  const t2y = hz * t1x;
  const t2z = hx * t1y - hy * t1x;
  const r = Math.sqrt(u);
  const phi = 2 * Math.PI * v;
  const p1 = r * Math.cos(phi);
  let p2 = r * Math.sin(phi);
  const s = 0.5 * (1 + hz);
  p2 = (1 - s) * Math.sqrt(Math.max(0, 1 - p1 * p1)) + s * p2;
  const p3 = Math.sqrt(Math.max(0, 1 - p1 * p1 - p2 * p2));
  const nx = alpha * (p1 * t1x + p2 * t2x + p3 * hx);
  const ny = alpha * (p1 * t1y + p2 * t2y + p3 * hy);
  const nz = Math.max(1e-6, p2 * t2z + p3 * hz);
  length = Math.sqrt(nx * nx + ny * ny + nz * nz);
  out[0] = nx / length;
  out[1] = ny / length;
  out[2] = nz / length;
}

/** Unpolarised Fresnel reflectance of a dielectric; `eta` is the index behind over the index in front. 1 is total reflection. */
export function fresnelDielectric(cos: number, eta: number): number {
  const c = Math.min(1, Math.abs(cos));
  const g2 = eta * eta - 1 + c * c;
  if (g2 <= 0) return 1;
  const g = Math.sqrt(g2);
  const a = (g - c) / (g + c);
  const b = (c * (g + c) - 1) / (c * (g - c) + 1);
  return 0.5 * a * a * (1 + b * b);
}

export function schlickWeight(cos: number): number {
  const m = Math.min(1, Math.max(0, 1 - cos));
  const m2 = m * m;
  return m2 * m2 * m;
}
