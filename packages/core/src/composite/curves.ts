import { HUE_CURVES, type Curves, type Spot } from '../document/index.ts';
import { linearToSrgb, srgbToLinear } from '../finish/index.ts';
import { atan2, cos, hypot, sin } from '../maths/index.ts';
import { fromOklab, toOklab } from './match.ts';

/**
 * A curve through points at any places that rises wherever they do and never leaves the range between two of them (Fritsch and Carlson
 * 1980, slopes by weighted harmonic means as Brodlie has them); level beyond the first and the last.
 */
export function curveThrough(points: readonly Spot[]): (x: number) => number {
  const sorted = [...points].sort((p, q) => p[0] - q[0]).filter((p, i, all) => i === 0 || p[0] - all[i - 1][0] > 1e-6);
  const last = sorted.length - 1;
  if (last < 1) return () => sorted[0]?.[1] ?? 0;
  const steps = sorted.slice(1).map((p, i) => p[0] - sorted[i][0]);
  const rises = sorted.slice(1).map((p, i) => (p[1] - sorted[i][1]) / steps[i]);
  const slopes = sorted.map((_, i) => {
    if (i === 0) return rises[0];
    if (i === last) return rises[last - 1];
    const [a, b, h, k] = [rises[i - 1], rises[i], steps[i - 1], steps[i]];
    if (a * b <= 0) return 0;
    const share = (h + 2 * k) / (3 * (h + k));
    return (a * b) / (share * b + (1 - share) * a);
  });
  return (x) => {
    if (x <= sorted[0][0]) return sorted[0][1];
    if (x >= sorted[last][0]) return sorted[last][1];
    let i = 0;
    while (sorted[i + 1][0] < x) i++;
    const u = (x - sorted[i][0]) / steps[i];
    const [u2, u3] = [u * u, u * u * u];
    return (
      (2 * u3 - 3 * u2 + 1) * sorted[i][1] +
      (u3 - 2 * u2 + u) * slopes[i] * steps[i] +
      (3 * u2 - 2 * u3) * sorted[i + 1][1] +
      (u3 - u2) * slopes[i + 1] * steps[i]
    );
  };
}

/** The same round a circle of length 1, where after the last point the first comes again. */
export function curveRound(points: readonly Spot[]): (x: number) => number {
  if (points.length === 0) return () => 0;
  const twice = points.flatMap(([x, y]): Spot[] => [
    [x - 1, y],
    [x, y],
    [x + 1, y],
  ]);
  const curve = curveThrough(twice);
  return (x) => curve(x - Math.floor(x));
}

/** A tone curve by its name; none where fewer than two points say nothing. */
const toneOf = (points: readonly Spot[]): ((x: number) => number) | null =>
  points.length < 2 ? null : curveThrough(points);

/** How far hue curves go at their ends: degrees of hue, and lightness. */
const [HUE_ENDS, LUMA_ENDS] = [60, 0.25];
/** Chroma from which on a colour has a hue to speak of. */
const COLOURED = 0.04;

/**
 * What curves do to a display colour, 0 to 1, in place: those of each channel after that of all, then luma (Rec.709 of display values, the
 * differences between channels kept), then what is done by hue in Oklab.
 */
export function curvesOf(curves: Curves): (rgb: Float64Array) => void {
  const all = toneOf(curves.rgb);
  const each = [toneOf(curves.red), toneOf(curves.green), toneOf(curves.blue)];
  const luma = toneOf(curves.luma);
  const [hue, saturation, lightness] = HUE_CURVES.map((name) => curveRound(curves[name]));
  const byHue = HUE_CURVES.some((name) => curves[name].length > 0);
  const within = (v: number): number => Math.min(1, Math.max(0, v));
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      if (all) rgb[c] = within(all(rgb[c]));
      const own = each[c];
      if (own) rgb[c] = within(own(rgb[c]));
    }
    if (luma) {
      const y = 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
      const by = luma(y) - y;
      for (let c = 0; c < 3; c++) rgb[c] = within(rgb[c] + by);
    }
    if (!byHue) return;
    const [l, a, b] = toOklab(srgbToLinear(rgb[0]), srgbToLinear(rgb[1]), srgbToLinear(rgb[2]));
    const chroma = hypot(a, b);
    const turn = atan2(b, a) / (2 * Math.PI);
    const much = Math.min(1, chroma / COLOURED);
    const way = (hue(turn) * HUE_ENDS * much * Math.PI) / 180;
    const grown = 1 + saturation(turn) * much;
    const [co, si] = [cos(way) * grown, sin(way) * grown];
    const made = fromOklab([l + lightness(turn) * LUMA_ENDS * much, a * co - b * si, a * si + b * co]);
    for (let c = 0; c < 3; c++) rgb[c] = linearToSrgb(within(made[c]));
  };
}
