import { isNumeric, type LinkedEase, type Track } from '@tender-orbit/core/document';
import { NumberCurve } from '@tender-orbit/core/motion';
import type { NumberProperty, Property } from '@tender-orbit/core/properties';

export type GraphMode = 'value' | 'speed';

/** A track that a graph can show. */
export interface GraphRow {
  id: string;
  track: Track;
  property: Property | undefined;
  colour: string;
  /** Made by a recipe: it is seen, and not changed here. */
  made?: boolean;
}

/** A track as the graph draws it. */
export interface GraphLine extends Pick<GraphRow, 'id' | 'colour'> {
  track: Track<number>;
  property: NumberProperty;
  /** Value by keys alone, and with what rules make of it; in the unit that a person sees. */
  keyed: (frame: number) => number;
  result: ((frame: number) => number) | null;
}

/** What rules make of a track's values; null where there are none. */
export type RuledBy = (row: GraphRow, property: NumberProperty) => ((frame: number) => number) | null;

/** Half the frames over which a speed is taken. */
const INSTANT = 0.02;

export const isNumber = (property: Property | undefined): property is NumberProperty =>
  property?.type === 'number' || property?.type === 'turn';

/** The lines of tracks that hold numbers; of a speed graph their change a second. @param rate frames a second. */
export function graphLines(
  rows: readonly GraphRow[],
  eases: readonly LinkedEase[],
  mode: GraphMode,
  rate: number,
  ruledBy: RuledBy = () => null,
): GraphLine[] {
  return rows.flatMap((row) => {
    const { id, track, property, colour } = row;
    if (!isNumber(property) || !isNumeric(track)) return [];
    const curve = new NumberCurve(track.keys, property, eases);
    const keyed = (frame: number): number => curve.at(frame) * property.display.scale;
    const result = ruledBy(row, property);
    const shown = (f: (frame: number) => number) => (mode === 'speed' ? speedOf(f, rate) : f);
    return [{ id, track, property, colour, keyed: shown(keyed), result: result && shown(result) }];
  });
}

const speedOf =
  (value: (frame: number) => number, rate: number) =>
  (frame: number): number =>
    ((value(frame + INSTANT) - value(frame - INSTANT)) / (2 * INSTANT)) * rate;

/** Values that lines reach over the shot, with room for those given; never of no height. */
export function rangeOf(
  lines: readonly GraphLine[],
  [from, to]: readonly [number, number],
  also: readonly number[] = [],
): { low: number; high: number } {
  let [low, high] = [Math.min(Infinity, ...also), Math.max(-Infinity, ...also)];
  const steps = 240;
  for (const { keyed, result } of lines)
    for (const line of result ? [keyed, result] : [keyed])
      for (let i = 0; i <= steps; i++) {
        const v = line(from + ((to - from) * i) / steps);
        low = Math.min(low, v);
        high = Math.max(high, v);
      }
  if (!Number.isFinite(low)) return { low: 0, high: 1 };
  return high - low > 1e-9 ? { low, high } : { low: low - 0.5, high: high + 0.5 };
}

/** Values to draw lines at: a few round ones. */
export function roundValues(low: number, high: number, most: number): number[] {
  const raw = (high - low) / most;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((n) => n * power).find((s) => s >= raw) ?? raw;
  const values: number[] = [];
  for (let v = Math.ceil(low / step) * step; v <= high + 1e-9; v += step) values.push(Number(v.toPrecision(10)));
  return values;
}
