import type { LayerOf } from '../document/index.ts';
import { atan2, cos, hashed, hypot, sin } from '../maths/index.ts';
import { edge, type Paint } from './place.ts';

const TURN = 2 * Math.PI;
export type Colour = readonly [number, number, number];

/** Signed distance inside a rectangle with rounded corners: positive inside. */
function insideBox(u: number, v: number, width: number, height: number, corner: number): number {
  const r = Math.min(corner, width / 2, height / 2);
  const [x, y] = [Math.abs(u) - width / 2 + r, Math.abs(v) - height / 2 + r];
  return r - Math.min(Math.max(x, y), 0) - hypot(Math.max(x, 0), Math.max(y, 0));
}

/** About the distance inside an ellipse: exact on its edge, and where it is a circle. */
function insideEllipse(u: number, v: number, width: number, height: number): number {
  const [a, b] = [Math.max(1e-9, width / 2), Math.max(1e-9, height / 2)];
  const k = hypot(u / a, v / b);
  const slope = hypot(u / (a * a), v / (b * b));
  return slope > 0 ? (k * (1 - k)) / slope : Math.min(a, b);
}

/** Distance inside a polygon or, with points that go in between its corners, a star; of radius 1/2, a corner upwards. */
function insideCorners(u: number, v: number, sides: number, inner: number): number {
  const n = Math.max(3, Math.round(sides));
  const sector = TURN / n;
  const r = hypot(u, v);
  // Folded into half a sector, from a corner's direction.
  let angle = atan2(u, v);
  angle = Math.abs(angle - Math.round(angle / sector) * sector);
  const [x, y] = [r * cos(angle), r * sin(angle)];
  const [ax, ay] = [0.5, 0];
  const [bx, by] = [0.5 * inner * cos(sector / 2), 0.5 * inner * sin(sector / 2)];
  const [ex, ey] = [bx - ax, by - ay];
  const t = Math.min(1, Math.max(0, ((x - ax) * ex + (y - ay) * ey) / (ex * ex + ey * ey)));
  const away = hypot(x - ax - ex * t, y - ay - ey * t);
  return (x - ax) * ey - (y - ay) * ex > 0 ? -away : away;
}

/** How far a shape goes from its middle, across and up, with its soft edge: the distances it is drawn by are those of one that is not stretched. */
export function shapeReach({ width, height, outline, softness }: LayerOf<'shape'>, pixel: number): [number, number] {
  const beyond = (Math.max(pixel, softness) + outline / 2) / Math.max(1e-9, Math.min(width, height));
  return [width * (0.5 + beyond), height * (0.5 + beyond)];
}

/** A shape: its whole face, or an outline. @param pixel its width in the layer's lengths. */
export function shapePaint(layer: LayerOf<'shape'>, colour: Colour, pixel: number): Paint {
  const { form, width, height, corner, sides, outline, softness } = layer;
  const wide = Math.max(pixel, softness);
  const inner = form === 'star' ? 0.45 : cos(Math.PI / Math.max(3, Math.round(sides)));
  const inside = (u: number, v: number): number => {
    if (form === 'rectangle') return insideBox(u, v, width, height, corner);
    if (form === 'ellipse') return insideEllipse(u, v, width, height);
    const s = Math.max(1e-9, Math.min(width, height));
    return insideCorners((u * s) / Math.max(1e-9, width) / s, (v * s) / Math.max(1e-9, height) / s, sides, inner) * s;
  };
  return (u, v, out) => {
    const d = inside(u, v);
    [out[0], out[1], out[2]] = colour;
    return edge(outline > 0 ? outline / 2 - Math.abs(d) : d, wide);
  };
}

/** How far shadows of discs reach. */
const SHADOW = 0.05;

/** Copies of a form: round the middle, one in the other, or side by side. */
export function repeaterPaint(
  layer: LayerOf<'repeater'>,
  first: Colour,
  last: Colour,
  seconds: number,
  pixel: number,
): Paint {
  const still = stillRepeater(layer, first, last, seconds, pixel);
  const angle = (layer.turning * seconds * TURN) / 360;
  if (angle === 0) return still;
  const [co, si] = [cos(angle), sin(angle)];
  return (u, v, out) => still(u * co + v * si, v * co - u * si, out);
}

/** How much each copy differs from the others at a moment, from -1 to 1: its own numbers, and on the way from one to the next. */
function differences({ noise, evolve, seed }: LayerOf<'repeater'>, copies: number, seconds: number): Float64Array {
  const at = seconds * evolve;
  const [from, t] = [Math.floor(at), at - Math.floor(at)];
  const smooth = t * t * (3 - 2 * t);
  return Float64Array.from({ length: noise > 0 ? copies : 0 }, (_, k) => {
    const [a, b] = [hashed(k, from, 0, seed), hashed(k, from + 1, 0, seed)];
    return 2 * (a + (b - a) * smooth) - 1;
  });
}

function stillRepeater(layer: LayerOf<'repeater'>, first: Colour, last: Colour, seconds: number, pixel: number): Paint {
  const { form, size, inner, thickness, growth, stagger, softness, shadow, noise } = layer;
  const n = Math.max(1, Math.round(layer.count));
  const wide = Math.max(pixel, softness);
  const differs = differences(layer, form === 'grid' ? n * n : n, seconds);
  const own = (k: number): number => (noise > 0 ? 1 + noise * differs[k] : 1);
  /** How far the k-th has grown. */
  const grown = Float64Array.from({ length: n }, (_, k) => {
    const t = Math.min(1, Math.max(0, growth * (1 + (n - 1) * stagger) - k * stagger));
    return t * t * (3 - 2 * t) * (form === 'grid' ? 1 : own(k));
  });
  const tint = (k: number, out: Float64Array): void => {
    const t = n > 1 ? k / (n - 1) : 0;
    for (let c = 0; c < 3; c++) out[c] = first[c] + (last[c] - first[c]) * t;
  };
  const half = size / 2;
  if (form === 'discs') return discs(n, half, inner / 2, grown, wide, shadow, tint);
  if (form === 'rays')
    return (u, v, out) => {
      const r = hypot(u, v);
      const place = ((atan2(u, v) / TURN + 1) * n) % n;
      const k = Math.floor(place);
      const arc = (TURN * r) / n;
      const aside = (thickness / 2 - Math.abs(place - k - 0.5)) * arc;
      const reach = inner / 2 + (half - inner / 2) * grown[k];
      tint(k, out);
      return edge(aside, wide) * edge(Math.min(reach - r, r - inner / 2), wide);
    };
  if (form === 'rings')
    return (u, v, out) => {
      const step = Math.max(1e-9, (half - inner / 2) / n);
      const r = hypot(u, v);
      const k = Math.min(n - 1, Math.max(0, Math.floor((r - inner / 2) / step)));
      tint(k, out);
      const middle = inner / 2 + (k + 0.5) * step;
      return edge((thickness * step * grown[k]) / 2 - Math.abs(r - middle), wide);
    };
  const step = Math.max(1e-9, size / n);
  if (form === 'bars')
    return (u, _v, out) => {
      const k = Math.floor((u + half) / step);
      if (k < 0 || k >= n) return 0;
      tint(k, out);
      return edge((thickness * step * grown[k]) / 2 - Math.abs(u + half - (k + 0.5) * step), wide);
    };
  return (u, v, out) => {
    const [i, j] = [Math.floor((u + half) / step), Math.floor((v + half) / step)];
    if (i < 0 || j < 0 || i >= n || j >= n) return 0;
    tint(i, out);
    const r = hypot(u + half - (i + 0.5) * step, v + half - (j + 0.5) * step);
    return edge((thickness * step * grown[i] * own(i * n + j)) / 2 - r, wide);
  };
}

/** Discs one on the other, the largest below, each with its shadow on those below it. */
function discs(
  n: number,
  half: number,
  least: number,
  grown: Float64Array,
  wide: number,
  shadow: number,
  tint: (k: number, out: Float64Array) => void,
): Paint {
  const radii = Float64Array.from(grown, (g, k) => (least + (half - least) * (1 - k / n)) * g);
  const own = new Float64Array(3);
  return (u, v, out) => {
    const r = hypot(u, v);
    let there = 0;
    out.fill(0);
    for (let k = 0; k < n; k++) {
      if (radii[k] <= 0) continue;
      const d = radii[k] - r;
      const c = edge(d, wide);
      const dark = d < 0 && there > 0 ? 1 - shadow * edge(d + SHADOW / 2, SHADOW) : 1;
      tint(k, own);
      for (let a = 0; a < 3; a++) out[a] = out[a] * dark * (1 - c) + own[a] * c;
      there = Math.max(there, c);
    }
    return there;
  };
}
