import type { GradientStop, LayerOf } from '../document/index.ts';
import { atan2, cos, hashed, hypot, sin } from '../maths/index.ts';
import { edge, type Paint, type Place } from './place.ts';
import type { Plate } from './plate.ts';

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
  return (x - ax) * ey - (y - ay) * ex < 0 ? -away : away;
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

/** Entries of a table of a gradient's colours. */
const ENTRIES = 4096;
/**
 * Noise that takes the place of bands: a square of it, again and again, a step of a byte wide about 0. Each row has every height once, in
 * an order of its own, so that no row is brighter than another.
 */
const NOISE = 64;
const NOISES = Float32Array.from(
  Array.from({ length: NOISE }, (_, y) =>
    Array.from({ length: NOISE }, (_unused, k) => ({ height: (k + 0.5) / NOISE - 0.5, order: hashed(k, y, 3, 29) }))
      .sort((p, q) => p.order - q.order)
      .map(({ height }) => height / 255),
  ).flat(),
);

/** Colours along stops, premultiplied, four numbers an entry. @param tint a colour as the layer's space has it. */
export function stopTable(stops: readonly GradientStop[], tint: (hex: string) => Colour): Float32Array {
  const sorted = [...stops].sort((p, q) => p.at - q.at);
  const rows = sorted.map(({ colour, opacity }) => [...tint(colour).map((v) => v * opacity), opacity]);
  const table = new Float32Array((ENTRIES + 1) * 4);
  for (let n = 0, k = 0; n <= ENTRIES; n++) {
    const t = n / ENTRIES;
    while (k < sorted.length - 1 && sorted[k + 1].at <= t) k++;
    const [p, q] = [sorted[k], sorted[Math.min(k + 1, sorted.length - 1)]];
    const way = q.at > p.at ? Math.min(1, Math.max(0, (t - p.at) / (q.at - p.at))) : 0;
    const next = Math.min(k + 1, sorted.length - 1);
    for (let c = 0; c < 4; c++) table[n * 4 + c] = rows[k][c] + (rows[next][c] - rows[k][c]) * way;
  }
  return table;
}

/**
 * Paints a run of colours over a plate; they may be clear. A loop of its own: a call for each pixel of the picture would cost more than
 * the colour does. A noise of a step of a byte keeps slow runs from showing bands.
 * @param table of colours on the way; null: the two.
 */
export function paintGradient(
  { width, height, data }: Plate,
  { a, b, c, d, e, f, g, h, i }: Place,
  { form, size, middle, otherOpacity }: LayerOf<'gradient'>,
  from: Colour,
  to: Colour,
  table: Float32Array | null,
  scene: boolean,
): void {
  const along = Math.max(1e-6, size);
  // Mixed as premultiplied colours are, so that what fades out does not darken.
  const [r0, g0, b0] = from;
  const [r1, g1, b1] = to.map((v) => v * otherOpacity);
  const [before, after] = [0.5 / middle, 0.5 / (1 - middle)];
  const [linear, radial] = [form === 'linear', form === 'radial'];
  for (let y = 0, o = 0; y < height; y++) {
    const py = y + 0.5;
    for (let x = 0; x < width; x++, o += 4) {
      const px = x + 0.5;
      const w = g * px + h * py + i;
      if (w <= 0) continue;
      const u = (a * px + b * py + c) / w;
      const v = (d * px + e * py + f) / w;
      let t: number;
      if (linear) t = 0.5 - v / along;
      else if (radial) t = (2 * Math.sqrt(u * u + v * v)) / along;
      else t = atan2(u, v) / TURN + (u < 0 ? 1 : 0);
      t = t <= 0 ? 0 : t >= 1 ? 1 : t;
      if (table) {
        const at = t * ENTRIES;
        const first = Math.min(ENTRIES - 1, Math.floor(at)) * 4;
        const share = at - first / 4;
        for (let k = 0; k < 4; k++) data[o + k] = table[first + k] + (table[first + 4 + k] - table[first + k]) * share;
      } else {
        t = t <= middle ? t * before : 0.5 + (t - middle) * after;
        const near = 1 - t;
        data[o] = r0 * near + r1 * t;
        data[o + 1] = g0 * near + g1 * t;
        data[o + 2] = b0 * near + b1 * t;
        data[o + 3] = near + otherOpacity * t;
      }
      const noise = NOISES[(y % NOISE) * NOISE + (x % NOISE)] * data[o + 3];
      // A step of a byte is about so much of light, by the slope of the power that codes it.
      for (let k = 0; k < 3; k++) {
        const there = data[o + k];
        if (there > 0) data[o + k] = Math.max(0, there + noise * (scene ? 2.2 * Math.sqrt(there) : 1));
      }
    }
  }
}

/** How far shadows of discs reach. */
const SHADOW = 0.05;

/** Copies of a form: round the middle, one in the other, or side by side. */
export function repeaterPaint(layer: LayerOf<'repeater'>, first: Colour, last: Colour, pixel: number): Paint {
  const { form, size, inner, thickness, growth, stagger, softness, shadow } = layer;
  const n = Math.max(1, Math.round(layer.count));
  const wide = Math.max(pixel, softness);
  /** How far the k-th has grown. */
  const grown = Float64Array.from({ length: n }, (_, k) => {
    const t = Math.min(1, Math.max(0, growth * (1 + (n - 1) * stagger) - k * stagger));
    return t * t * (3 - 2 * t);
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
    return edge((thickness * step * grown[i]) / 2 - r, wide);
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
