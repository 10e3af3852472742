/** Thin-film iridescence after Belcour and Barla (2017), as KHR_materials_iridescence applies it to a base reflectance. */

/** CIE 1931 sensitivities in Fourier space by Gaussians, then to linear Rec.709; three doubles at `out`. */
function sensitivity(opd: f64, shift: f64, out: usize): void {
  const phase = 2.0 * Math.PI * opd * 1e-9;
  const p2 = phase * phase;
  let x =
    5.4856e-13 * Math.sqrt(2.0 * Math.PI * 4.3278e9) * Math.cos(1.681e6 * phase + shift) * Math.exp(-p2 * 4.3278e9);
  const y =
    4.4201e-13 * Math.sqrt(2.0 * Math.PI * 9.3046e9) * Math.cos(1.7953e6 * phase + shift) * Math.exp(-p2 * 9.3046e9);
  const z =
    5.2481e-13 * Math.sqrt(2.0 * Math.PI * 6.6121e9) * Math.cos(2.2084e6 * phase + shift) * Math.exp(-p2 * 6.6121e9);
  x += 9.747e-14 * Math.sqrt(2.0 * Math.PI * 4.5282e9) * Math.cos(2.2399e6 * phase + shift) * Math.exp(-4.5282e9 * p2);
  const s = 1.0 / 1.0685e-7;
  store<f64>(out, (3.2404542 * x - 1.5371385 * y - 0.4985314 * z) * s);
  store<f64>(out, (-0.969266 * x + 1.8760108 * y + 0.041556 * z) * s, 8);
  store<f64>(out, (0.0556434 * x - 0.2040259 * y + 1.0572252 * z) * s, 16);
}

function indexOf(f0: f64): f64 {
  const s = Math.sqrt(Math.min(0.9999, f0));
  return (1.0 + s) / (1.0 - s);
}

function reflectance(a: f64, b: f64): f64 {
  const r = (a - b) / (a + b);
  return r * r;
}

function schlick(f0: f64, cos: f64): f64 {
  const m = 1.0 - cos;
  const m2 = m * m;
  return f0 + (1.0 - f0) * m2 * m2 * m;
}

/**
 * Reflectance of a film of index `ior` and `thickness` nm over a base of reflectance `base` (three doubles, replaced),
 * seen at cosine `cos`. The index is brought back to air's as the film gets thinner than light notices.
 */
export function filmReflectance(ior: f64, thickness: f64, cos: f64, base: usize, scratch: usize): void {
  const k = Math.min(1.0, Math.max(0.0, thickness / 30.0));
  const film = 1.0 + (ior - 1.0) * k * k * (3.0 - 2.0 * k);
  const sin2 = (1.0 - cos * cos) / (film * film);
  const inner2 = 1.0 - sin2;
  if (inner2 <= 0) {
    store<f64>(base, 1);
    store<f64>(base, 1, 8);
    store<f64>(base, 1, 16);
    return;
  }
  const inner = Math.sqrt(inner2);
  const r12 = schlick(reflectance(film, 1.0), cos);
  const t121 = 1.0 - r12;
  const phi21 = film < 1.0 ? 0.0 : Math.PI;
  const opd = 2.0 * film * thickness * inner;
  for (let c: usize = 0; c < 3; c++) {
    const b = load<f64>(base + (c << 3));
    const bottom = indexOf(b);
    const r23 = schlick(reflectance(bottom, film), inner);
    const phi23 = bottom < film ? Math.PI : 0.0;
    const r123 = Math.min(0.9999, Math.max(1e-5, r12 * r23));
    const root = Math.sqrt(r123);
    const rs = (t121 * t121 * r23) / (1.0 - r123);
    let sum = r12 + rs;
    let cm = rs - t121;
    for (let m = 1; m <= 2; m++) {
      cm *= root;
      sensitivity(<f64>m * opd, <f64>m * (phi21 + phi23), scratch);
      sum += cm * 2.0 * load<f64>(scratch + (c << 3));
    }
    store<f64>(base + (c << 3), Math.min(1.0, Math.max(0.0, sum)));
  }
}
