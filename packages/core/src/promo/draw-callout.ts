import type { Canvas, CanvasKit } from 'canvaskit-wasm';
import type { Title } from '../document/index.ts';
import { colourOf } from './lay-out-title.ts';

/** Room between a text and its line, the radius of a ring and of a dot, em. */
const GAP = 0.3;
const RADIUS = { ring: 0.2, dot: 0.1, none: 0 };

/** The place on a box's edge from which a line goes out to a point; null where the point lies within. */
export function edgeTowards(
  [x, y, wide, high]: readonly [number, number, number, number],
  [px, py]: readonly [number, number],
): [number, number] | null {
  if (px > x && px < x + wide && py > y && py < y + high) return null;
  return [Math.min(x + wide, Math.max(x, px)), Math.min(y + high, Math.max(y, py))];
}

/** The line of a callout from its text's box to what it points at, and the mark there. @param grown share of it that is there. */
export function drawCallout(
  ck: CanvasKit,
  canvas: Canvas,
  { callout, colour, size, dress }: Title,
  [x, y, wide, high]: readonly [number, number, number, number],
  point: readonly [number, number],
  grown: number,
): void {
  if (!callout || grown <= 0) return;
  // A box that is drawn has its padding between the text and the line.
  const room = size * (dress && dress.box > 0 ? dress.boxPadding : GAP);
  const lower = dress && dress.box > 0 ? room / 2 : 0;
  const from = edgeTowards([x - room, y - lower, wide + 2 * room, high + 2 * lower], point);
  const radius = RADIUS[callout.mark] * size;
  const paint = new ck.Paint();
  paint.setAntiAlias(true);
  paint.setColor(colourOf(ck, dress && dress.box > 0 ? dress.boxColour : colour, 1));
  paint.setStrokeWidth(Math.max(0.5, callout.line * size));
  paint.setStrokeCap(ck.StrokeCap.Round);
  paint.setStyle(ck.PaintStyle.Stroke);
  if (from) {
    const [dx, dy] = [point[0] - from[0], point[1] - from[1]];
    const long = Math.sqrt(dx * dx + dy * dy);
    const share = long > radius ? ((long - (callout.mark === 'ring' ? radius : 0)) / long) * grown : 0;
    if (callout.line > 0 && share > 0)
      canvas.drawLine(from[0], from[1], from[0] + dx * share, from[1] + dy * share, paint);
  }
  if (callout.mark === 'dot') paint.setStyle(ck.PaintStyle.Fill);
  if (radius > 0) canvas.drawCircle(point[0], point[1], radius * grown, paint);
  paint.delete();
}
