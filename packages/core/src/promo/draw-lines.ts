import type { Canvas, CanvasKit, ContourMeasure, Paint, Path } from 'canvaskit-wasm';
import type { VectorPicture } from '../composite/index.ts';
import type { LayerOf, StrokePoint } from '../document/index.ts';
import { cos, sin } from '../maths/index.ts';
import type { Overlay } from '../picture/index.ts';
import { rasterOverlay } from './raster-overlay.ts';

type Stroke = LayerOf<'stroke'>;
type Logo = LayerOf<'logo'>;

/** Points along a spiral's turn, and its turns. */
const SPIRAL = { steps: 24, turns: 3 };
/** Points along a line of changing width. */
const TAPERED = 160;

/** Draws a stroke or a vector picture in its place, size and no turn; null when nothing of it is seen. Colours are sRGB. */
export function drawLines(
  ck: CanvasKit,
  layer: Stroke | Logo,
  width: number,
  height: number,
  vector: VectorPicture | null | undefined,
): Overlay | null {
  const paint = new ck.Paint();
  paint.setAntiAlias(true);
  try {
    return rasterOverlay(ck, { left: 0, top: 0, width, height }, (canvas) => {
      canvas.translate(width / 2 + layer.x * height, height / 2 - layer.y * height);
      if (layer.kind === 'stroke') {
        // Its lengths are shares of the height, y up.
        canvas.scale(layer.scale * height, -layer.scale * height);
        drawStroke(ck, canvas, paint, layer);
      } else if (vector) {
        const size = (layer.height * layer.scale * height) / vector.height;
        canvas.scale(size, size);
        canvas.translate(-vector.width / 2, -vector.height / 2);
        drawLogo(ck, canvas, paint, layer, vector);
      }
    });
  } finally {
    paint.delete();
  }
}

/** The way of a stroke as SVG path data: shares of the picture's height. */
export function strokePath({ form, width, height, points, closed }: Stroke): string {
  const [w, h] = [width / 2, height / 2];
  if (form === 'line') return `M ${-w} 0 L ${w} 0`;
  if (form === 'arc') return `M ${-w} ${-h} A ${w} ${height} 0 0 0 ${w} ${-h}`;
  if (form === 'wave') {
    const [q, c] = [w / 2, w * 0.1817];
    return [
      `M ${-w} 0 C ${-w + c} ${h} ${-q - c} ${h} ${-q} ${h}`,
      `C ${-q + c} ${h} ${-c} ${h * 0.6} 0 0 C ${c} ${-h * 0.6} ${q - c} ${-h} ${q} ${-h} C ${q + c} ${-h} ${w - c} ${-h} ${w} 0`,
    ].join(' ');
  }
  if (form === 'spiral') {
    const count = SPIRAL.steps * SPIRAL.turns;
    const at = (k: number): string => {
      const [turn, r] = [(2 * Math.PI * k) / SPIRAL.steps, k / count];
      return `${w * r * cos(turn)} ${h * r * sin(turn)}`;
    };
    return `M ${at(0)} ${Array.from({ length: count }, (_, k) => `L ${at(k + 1)}`).join(' ')}`;
  }
  if (points.length < 2) return '';
  const side = (p: StrokePoint, q: StrokePoint): string =>
    `C ${p.at[0] + p.out[0]} ${p.at[1] + p.out[1]} ${q.at[0] + q.in[0]} ${q.at[1] + q.in[1]} ${q.at[0]} ${q.at[1]}`;
  const sides = points.slice(1).map((q, i) => side(points[i], q));
  if (closed) sides.push(side(points[points.length - 1], points[0]), 'Z');
  return `M ${points[0].at[0]} ${points[0].at[1]} ${sides.join(' ')}`;
}

/** A line over a picture, pixels, y down. */
export interface Way {
  length: number;
  closed: boolean;
  /** The place at a distance along it, and the direction there, 1 long. */
  at: (distance: number) => [x: number, y: number, alongX: number, alongY: number];
  /** Lets its native memory go. */
  dispose: () => void;
}

/** The way that a stroke goes over a picture as it lies and is turned there; null for one that goes nowhere. */
export function strokeWay(ck: CanvasKit, stroke: Stroke, width: number, height: number): Way | null {
  const path = ck.Path.MakeFromSVGString(strokePath(stroke));
  const contour = path ? contourOf(ck, path) : null;
  path?.delete();
  if (!contour) return null;
  const size = stroke.scale * height;
  // Degrees to the left, y up in the stroke and down in the picture.
  const [c, s] = [cos((stroke.rotation * Math.PI) / 180), sin((stroke.rotation * Math.PI) / 180)];
  const [left, top] = [width / 2 + stroke.x * height, height / 2 - stroke.y * height];
  return {
    length: contour.length() * size,
    closed: contour.isClosed(),
    at: (distance) => {
      const [x, y, tx, ty] = contour.getPosTan(distance / size);
      return [left + (c * x - s * y) * size, top - (s * x + c * y) * size, c * tx - s * ty, -(s * tx + c * ty)];
    },
    dispose: () => contour.delete(),
  };
}

/** The first contour of a path of shares, measured finely. */
function contourOf(ck: CanvasKit, path: Path): ContourMeasure | null {
  const iterator = new ck.ContourMeasureIter(path, false, 1000);
  const contour = iterator.next();
  iterator.delete();
  return contour;
}

/** The parts of a line that trimming leaves, as shares of its length; over its end it goes on at its beginning. */
export function trimmed(from: number, to: number, shift: number): Array<[number, number]> {
  const long = Math.min(1, to - from);
  if (long <= 0) return [];
  if (long === 1) return [[0, 1]];
  const start = from + shift - Math.floor(from + shift);
  const end = start + long;
  return end <= 1
    ? [[start, end]]
    : [
        [start, 1],
        [0, end - 1],
      ];
}

function drawStroke(ck: CanvasKit, canvas: Canvas, paint: Paint, layer: Stroke): void {
  const path = ck.Path.MakeFromSVGString(strokePath(layer));
  if (!path) return;
  const [r, g, b] = ck.parseColorString(layer.colour);
  paint.setColor(ck.Color4f(r, g, b, 1));
  const pieces = trimmed(layer.from, layer.to, layer.shift);
  const tapered = layer.taperIn > 0 || layer.taperOut > 0;
  if (layer.filled && pieces.length > 0) {
    paint.setStyle(ck.PaintStyle.Fill);
    canvas.drawPath(path, paint);
  }
  if (!tapered) {
    paint.setStyle(ck.PaintStyle.Stroke);
    paint.setStrokeWidth(layer.line);
    paint.setStrokeCap(layer.cap === 'round' ? ck.StrokeCap.Round : ck.StrokeCap.Butt);
    paint.setStrokeJoin(ck.StrokeJoin.Round);
  }
  for (const [from, to] of pieces) {
    if (tapered) drawTapered(ck, canvas, paint, path, layer, from, to, pieces);
    else {
      const part = from === 0 && to === 1 ? path.copy() : path.makeTrimmed(from, to, false);
      const line = part && layer.dash > 0 && layer.gap > 0 ? part.makeDashed(layer.dash, layer.gap, 0) : part;
      if (line) canvas.drawPath(line, paint);
      if (line !== part) line?.delete();
      part?.delete();
    }
  }
  path.delete();
}

/** A piece of a line whose width grows out of nothing at the ends of all that is seen. */
function drawTapered(
  ck: CanvasKit,
  canvas: Canvas,
  paint: Paint,
  path: Path,
  { line, taperIn, taperOut }: Stroke,
  from: number,
  to: number,
  pieces: ReadonlyArray<[number, number]>,
): void {
  const contour = contourOf(ck, path);
  if (!contour) return;
  const all = pieces.reduce((n, [a, b]) => n + b - a, 0);
  const before = pieces[0][0] === from ? 0 : pieces[0][1] - pieces[0][0];
  const length = contour.length();
  const [left, right]: [string[], string[]] = [[], []];
  for (let k = 0; k <= TAPERED; k++) {
    const at = from + ((to - from) * k) / TAPERED;
    const along = (before + at - from) / all;
    const grown = (t: number, over: number): number => (over > 0 ? Math.min(1, t / over) : 1);
    const half = (line / 2) * grown(along, taperIn) * grown(1 - along, taperOut);
    const [x, y, tx, ty] = contour.getPosTan(at * length);
    left.push(`${x - ty * half} ${y + tx * half}`);
    right.push(`${x + ty * half} ${y - tx * half}`);
  }
  contour.delete();
  const outline = ck.Path.MakeFromSVGString(`M ${[...left, ...right.reverse()].join(' L ')} Z`);
  paint.setStyle(ck.PaintStyle.Fill);
  if (outline) canvas.drawPath(outline, paint);
  outline?.delete();
}

/** When each of so many lines is drawn, as shares of the whole: one after the other, or more at once as they overlap. */
export function drawnShare(drawn: number, overlap: number, count: number, index: number): number {
  const long = 1 / (1 + (count - 1) * (1 - overlap));
  return Math.min(1, Math.max(0, (drawn - index * long * (1 - overlap)) / long));
}

function drawLogo(ck: CanvasKit, canvas: Canvas, paint: Paint, layer: Logo, vector: VectorPicture): void {
  const colour = (hex: string, opacity: number): Float32Array => {
    const [r, g, b] = ck.parseColorString(hex);
    return ck.Color4f(r, g, b, opacity);
  };
  const { drawn, filled, overlap, recoloured } = layer;
  vector.shapes.forEach((shape, i) => {
    const share = drawnShare(drawn, overlap, vector.shapes.length, i);
    const path = share > 0 ? ck.Path.MakeFromSVGString(shape.path) : null;
    if (!path) return;
    if (filled > 0 && share === 1) {
      if (shape.fill) {
        path.setFillType(shape.evenOdd ? ck.FillType.EvenOdd : ck.FillType.Winding);
        paint.setStyle(ck.PaintStyle.Fill);
        paint.setColor(colour(recoloured ? layer.colour : shape.fill, filled * shape.fillOpacity));
        canvas.drawPath(path, paint);
      }
      if (shape.stroke) {
        outlined(ck, paint, shape.strokeWidth);
        paint.setColor(colour(recoloured ? layer.colour : shape.stroke, filled * shape.strokeOpacity));
        canvas.drawPath(path, paint);
      }
    }
    // The line that draws it goes as what it draws comes.
    const over = share < 1 ? 1 : 1 - filled;
    const part = over > 0 ? (share < 1 ? path.makeTrimmed(0, share, false) : path.copy()) : null;
    if (part) {
      outlined(ck, paint, (layer.line / layer.height) * vector.height);
      paint.setColor(colour(layer.lineColour, over));
      canvas.drawPath(part, paint);
      part.delete();
    }
    path.delete();
  });
}

function outlined(ck: CanvasKit, paint: Paint, width: number): void {
  paint.setStyle(ck.PaintStyle.Stroke);
  paint.setStrokeWidth(width);
  paint.setStrokeCap(ck.StrokeCap.Round);
  paint.setStrokeJoin(ck.StrokeJoin.Round);
}
