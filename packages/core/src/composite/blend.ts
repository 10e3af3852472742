import type { BlendMode } from '../document/index.ts';
import type { Plate } from './plate.ts';

/** Colour of a backdrop and of a layer over it, not premultiplied, to the colour that both give together; into `out`. */
type Mix = (backdrop: Float64Array, layer: Float64Array, out: Float64Array) => void;

const each =
  (mix: (b: number, s: number) => number): Mix =>
  (b, s, out) => {
    out[0] = mix(b[0], s[0]);
    out[1] = mix(b[1], s[1]);
    out[2] = mix(b[2], s[2]);
  };

const screen = (b: number, s: number): number => b + s - b * s;
const hardLight = (b: number, s: number): number => (s <= 0.5 ? b * 2 * s : screen(b, 2 * s - 1));
function softLight(b: number, s: number): number {
  if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
  const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
  return b + (2 * s - 1) * (d - b);
}
function dodge(b: number, s: number): number {
  if (b === 0) return 0;
  return s >= 1 ? 1 : Math.min(1, b / (1 - s));
}
function burn(b: number, s: number): number {
  if (b >= 1) return 1;
  return s <= 0 ? 0 : 1 - Math.min(1, (1 - b) / s);
}

/** The W3C's weights of luminosity. */
const lum = (c: Float64Array): number => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];

/** A colour at another luminosity, brought back into 0..1 without a change of hue (SetLum and ClipColor). */
function withLum(c: Float64Array, wanted: number, out: Float64Array): void {
  const d = wanted - lum(c);
  for (let i = 0; i < 3; i++) out[i] = c[i] + d;
  const l = lum(out);
  const low = Math.min(out[0], out[1], out[2]);
  const high = Math.max(out[0], out[1], out[2]);
  if (low < 0) for (let i = 0; i < 3; i++) out[i] = l + ((out[i] - l) * l) / (l - low);
  if (high > 1) for (let i = 0; i < 3; i++) out[i] = l + ((out[i] - l) * (1 - l)) / (high - l);
}

/**
 * W3C Compositing and Blending Level 1: what a mode makes of two opaque colours. `over` and `add` are no mixes of colours: the first
 * takes the layer's, the second is plus-lighter and adds premultiplied light.
 */
const MIXES: Record<Exclude<BlendMode, 'over' | 'add'>, Mix> = {
  screen: each(screen),
  multiply: each((b, s) => b * s),
  overlay: each((b, s) => hardLight(s, b)),
  'soft light': each(softLight),
  'hard light': each(hardLight),
  lighten: each(Math.max),
  darken: each(Math.min),
  'colour dodge': each(dodge),
  'colour burn': each(burn),
  difference: each((b, s) => Math.abs(b - s)),
  luminosity: (b, s, out) => withLum(b, lum(s), out),
  colour: (b, s, out) => withLum(s, lum(b), out),
};

/** Modes whose formulas hold for any light; the others know values from 0 to 1 only. */
const UNBOUNDED: ReadonlySet<BlendMode> = new Set(['multiply', 'lighten', 'darken', 'difference']);

const [b, s, m, excess] = [new Float64Array(3), new Float64Array(3), new Float64Array(3), new Float64Array(3)];

/**
 * Blends a layer over what lies below it, which changes: premultiplied source-over with a mixed colour,
 * Cr = (1 - as) ab Cb + (1 - ab) as Cs + as ab B(Cb, Cs). Light above 1 is kept: modes that know no such light mix what is up to 1,
 * and what the backdrop has above it is added again.
 * @param opacity 0..1 of the layer.
 */
export function blend({ data: below }: Plate, { data: over }: Plate, mode: BlendMode, opacity: number): void {
  if (mode === 'over') {
    for (let i = 0; i < below.length; i += 4) {
      const a = over[i + 3] * opacity;
      if (a === 0 && over[i] === 0 && over[i + 1] === 0 && over[i + 2] === 0) continue;
      const keep = 1 - a;
      below[i] = over[i] * opacity + below[i] * keep;
      below[i + 1] = over[i + 1] * opacity + below[i + 1] * keep;
      below[i + 2] = over[i + 2] * opacity + below[i + 2] * keep;
      below[i + 3] = a + below[i + 3] * keep;
    }
    return;
  }
  if (mode === 'add') {
    for (let i = 0; i < below.length; i += 4) {
      below[i] += over[i] * opacity;
      below[i + 1] += over[i + 1] * opacity;
      below[i + 2] += over[i + 2] * opacity;
      below[i + 3] = Math.min(1, below[i + 3] + over[i + 3] * opacity);
    }
    return;
  }
  const mix = MIXES[mode];
  const bounded = !UNBOUNDED.has(mode);
  for (let i = 0; i < below.length; i += 4) {
    const source = over[i + 3];
    const as = source * opacity;
    if (as === 0) continue;
    const ab = below[i + 3];
    for (let c = 0; c < 3; c++) {
      s[c] = over[i + c] / source;
      b[c] = ab > 0 ? below[i + c] / ab : 0;
      excess[c] = 0;
      if (!bounded) continue;
      excess[c] = Math.max(0, b[c] - 1);
      b[c] = Math.min(1, Math.max(0, b[c]));
      s[c] = Math.min(1, Math.max(0, s[c]));
    }
    mix(b, s, m);
    for (let c = 0; c < 3; c++) {
      const layer = bounded ? over[i + c] / source : s[c];
      below[i + c] = (1 - as) * below[i + c] + (1 - ab) * as * layer + as * ab * (m[c] + excess[c]);
    }
    below[i + 3] = as + ab - as * ab;
  }
}
