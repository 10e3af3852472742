import { roundValues, type GraphLine, type GraphMode } from './graph-lines.ts';

/** What a graph draws, in CSS pixels of its canvas. */
export interface GraphDrawing {
  lines: readonly GraphLine[];
  mode: GraphMode;
  width: number;
  height: number;
  x: (frame: number) => number;
  y: (value: number) => number;
  /** Frames that are in sight. */
  from: number;
  to: number;
  range: { low: number; high: number };
  chosen: (line: GraphLine, frame: number) => boolean;
  /** Frames that chosen keys are carried by. */
  moved: number;
  colours: { grid: string; text: string; chosen: string; of: (css: string) => string };
}

const FONT = '12px "Spline Sans Mono Variable", monospace';

/** Draws lines of values and their keys. A pixel column is one sample, so that it takes as long for three keys as for thousands. */
export function drawGraph(context: CanvasRenderingContext2D, drawing: GraphDrawing): void {
  const { width, height, lines, range, y, colours } = drawing;
  context.clearRect(0, 0, width, height);
  context.lineWidth = 1;
  context.font = FONT;
  context.strokeStyle = colours.grid;
  context.fillStyle = colours.text;
  context.beginPath();
  for (const value of roundValues(range.low, range.high, Math.max(2, height / 34))) {
    const line = Math.round(y(value)) + 0.5;
    context.moveTo(0, line);
    context.lineTo(width, line);
    if (line > 12) context.fillText(label(value), 4, line - 3);
  }
  context.stroke();
  for (const line of lines) {
    context.strokeStyle = colours.of(line.colour);
    if (line.result) {
      context.globalAlpha = 0.45;
      stroke(context, drawing, line.keyed);
      context.globalAlpha = 1;
    }
    context.lineWidth = 1.6;
    stroke(context, drawing, line.result ?? line.keyed);
    context.lineWidth = 1;
    keys(context, drawing, line);
  }
}

const label = (value: number): string => String(Number(value.toPrecision(6)));

function stroke(context: CanvasRenderingContext2D, drawing: GraphDrawing, value: (frame: number) => number): void {
  const { from, to, x, y } = drawing;
  const [first, last] = [x(from), x(to)];
  const [left, right] = [Math.max(0, first), Math.min(drawing.width, last)];
  context.beginPath();
  for (let px = left; px <= right; px++) {
    const frame = from + ((px - first) / (last - first)) * (to - from);
    context.lineTo(px, y(value(frame)));
  }
  context.stroke();
}

/** All keys of a line that are not chosen in one path, then the chosen ones over them. */
function keys(context: CanvasRenderingContext2D, drawing: GraphDrawing, line: GraphLine): void {
  const { x, y, from, to, chosen, colours, mode, moved } = drawing;
  const marked: Array<[number, number]> = [];
  context.fillStyle = colours.of(line.colour);
  context.beginPath();
  for (const key of line.track.keys) {
    if (key.frame < from || key.frame > to) continue;
    const value = mode === 'value' ? key.value * line.property.display.scale : line.keyed(key.frame);
    const py = y(value);
    if (chosen(line, key.frame)) marked.push([x(key.frame + moved), py]);
    else context.rect(x(key.frame) - 3, py - 3, 6, 6);
  }
  context.fill();
  context.fillStyle = colours.chosen;
  for (const [px, py] of marked) {
    context.beginPath();
    context.arc(px, py, 5, 0, 2 * Math.PI);
    context.fill();
  }
}
