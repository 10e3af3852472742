import { CURVE_NAMES, LAYERS, type LayerOf } from '../document/index.ts';
import { hexToLinear, linearToSrgb, srgbToLinear } from '../finish/index.ts';
import { atan2, cos, hypot, sin } from '../maths/index.ts';
import type { Cube } from './cube.ts';
import { curvesOf } from './curves.ts';
import { fromOklab, toOklab } from './match.ts';

type Change = (rgb: Float64Array) => void;
type Shaped = LayerOf<'tones'> | LayerOf<'qualifier'> | LayerOf<'curves'>;

/** How far a zone at its end moves its point of the curve. */
const ZONE = 0.2;
/** Lightness that a qualifier adds at its end. */
const LIGHTER = 0.3;
/** Points along a side of the tables that these changes become, and tables that are kept. */
const SIZE = 33;
const KEPT = 12;

const smoothly = (t: number): number => {
  const x = Math.min(1, Math.max(0, t));
  return x * x * (3 - 2 * x);
};

/** A curve through points at even places from 0 to 1 that rises wherever they do (Fritsch and Carlson 1980). */
export function monotoneCurve(points: readonly number[]): (x: number) => number {
  const last = points.length - 1;
  const rises = points.slice(1).map((v, i) => (v - points[i]) * last);
  const slopes = points.map((_, i) => {
    if (i === 0) return rises[0];
    if (i === last) return rises[last - 1];
    const [a, b] = [rises[i - 1], rises[i]];
    // The harmonic mean: none where the curve turns.
    return a * b <= 0 ? 0 : (2 * a * b) / (a + b);
  });
  return (x) => {
    const t = Math.min(1, Math.max(0, x)) * last;
    const i = Math.min(last - 1, Math.floor(t));
    const u = t - i;
    const [u2, u3] = [u * u, u * u * u];
    return (
      (2 * u3 - 3 * u2 + 1) * points[i] +
      ((u3 - 2 * u2 + u) * slopes[i]) / last +
      (3 * u2 - 2 * u3) * points[i + 1] +
      ((u3 - u2) * slopes[i + 1]) / last
    );
  };
}

/** A colour's share of green to red and of blue to yellow in Oklab. */
function chromaOf(hex: string): [number, number] {
  const [r, g, b] = hexToLinear(hex) ?? [0, 0, 0];
  const [, u, v] = toOklab(r, g, b);
  return [u, v];
}
function put(rgb: Float64Array, lab: [number, number, number]): void {
  fromOklab(lab).forEach((v, c) => (rgb[c] = linearToSrgb(Math.min(1, Math.max(0, v)))));
}
const labOf = (rgb: Float64Array): [number, number, number] =>
  toOklab(srgbToLinear(rgb[0]), srgbToLinear(rgb[1]), srgbToLinear(rgb[2]));

/** What a layer of tones does to a display colour, 0 to 1, in place: the curve on each channel, then the split tone in Oklab. */
export function tonesOf(layer: LayerOf<'tones'>): Change {
  const zones = [layer.blacks, layer.shadows, layer.middles, layer.highlights, layer.whites];
  const curve = monotoneCurve(zones.map((v, i) => i / 4 + v * ZONE));
  const [dark, light] = [chromaOf(layer.shadowColour), chromaOf(layer.highlightColour)];
  return (rgb) => {
    for (let c = 0; c < 3; c++) rgb[c] = Math.min(1, Math.max(0, curve(rgb[c])));
    if (layer.toned === 0) return;
    const [lightness, a, b] = labOf(rgb);
    const middle = 0.5 + layer.balance * 0.4;
    const high = smoothly(lightness - middle + 0.5);
    // Black and white themselves stay what they are.
    const ends = 2 * lightness - 1;
    const much = layer.toned * (1 - ends * ends * ends * ends);
    const toned = [0, 1].map((k) => dark[k] * (1 - high) + light[k] * high);
    put(rgb, [lightness, a + toned[0] * much, b + toned[1] * much]);
  };
}

/** How much of a colour (Oklab) a qualifier means, 0..1. */
export function qualified(layer: LayerOf<'qualifier'>, [lightness, a, b]: readonly [number, number, number]): number {
  const chroma = hypot(a, b);
  const turned = Math.abs((((((atan2(b, a) * 180) / Math.PI - layer.hue) % 360) + 540) % 360) - 180);
  const half = layer.width / 2;
  const soft = Math.max(0.02, layer.softness);
  // A softness of 1 begins in the middle of the range.
  const within = (inside: number, range: number): number =>
    smoothly(inside / Math.max(1e-6, soft * range) + (1 - soft) * 0.5);
  const hue = within(half - turned, half);
  const full = smoothly((chroma / 0.25 - layer.leastChroma) / Math.max(0.02, soft * 0.3) + 0.5);
  const range = Math.max(0.02, soft * 0.25);
  const above = layer.darkest <= 0 ? 1 : smoothly((lightness - layer.darkest) / range + 0.5);
  const below = layer.brightest >= 1 ? 1 : smoothly((layer.brightest - lightness) / range + 0.5);
  return hue * full * above * below;
}

/** What a qualifier does to a display colour, 0 to 1, in place. Shown, what it means keeps its colour and the rest is grey. */
export function qualifierOf(layer: LayerOf<'qualifier'>): Change {
  return (rgb) => {
    const lab = labOf(rgb);
    const much = qualified(layer, lab);
    const [lightness, a, b] = lab;
    if (layer.shown) {
      put(rgb, [lightness * (0.4 + 0.6 * much), a * much, b * much]);
      return;
    }
    const way = (layer.shift * much * Math.PI) / 180;
    const grown = 1 + (layer.saturation - 1) * much;
    const [c, s] = [cos(way) * grown, sin(way) * grown];
    put(rgb, [lightness + layer.lightness * LIGHTER * much, a * c - b * s, a * s + b * c]);
  };
}

const tables = new Map<string, Cube>();

/** The change of a layer as a table; those of the same values are worked out once. */
export function tableOf(layer: Shaped): Cube | null {
  if (layer.kind === 'curves' && CURVE_NAMES.every((name) => layer.curves[name].length === 0)) return null;
  const key = keyOf(layer);
  const known = tables.get(key);
  tables.delete(key);
  const table = known ?? lattice(changeOf(layer));
  tables.set(key, table);
  for (const old of tables.keys()) {
    if (tables.size <= KEPT) break;
    tables.delete(old);
  }
  return table;
}

/** What a table follows from: the values of its kind, and what the others of a layer are. */
function keyOf(layer: Shaped): string {
  if (layer.kind === 'curves') return JSON.stringify(layer.curves);
  return [layer.kind, ...Object.keys(LAYERS[layer.kind].properties).map((name) => layer[name as keyof Shaped])].join(
    ' ',
  );
}

function changeOf(layer: Shaped): Change {
  if (layer.kind === 'curves') return curvesOf(layer.curves);
  return layer.kind === 'tones' ? tonesOf(layer) : qualifierOf(layer);
}

function lattice(change: Change): Cube {
  const data = new Float32Array(SIZE * SIZE * SIZE * 3);
  const rgb = new Float64Array(3);
  for (let i = 0; i < data.length / 3; i++) {
    rgb[0] = (i % SIZE) / (SIZE - 1);
    rgb[1] = (Math.floor(i / SIZE) % SIZE) / (SIZE - 1);
    rgb[2] = Math.floor(i / SIZE / SIZE) / (SIZE - 1);
    change(rgb);
    data.set(rgb, i * 3);
  }
  return { title: '', dimensions: 3, size: SIZE, min: [0, 0, 0], max: [1, 1, 1], data, keeps: true };
}
