import {
  readPosed,
  isNumeric,
  type LinkedEase,
  type SetDocument,
  type ShotDocument,
  type Track,
} from '@tender-orbit/core/document';
import { compileMoves, NumberCurve } from '@tender-orbit/core/motion';
import type { NumberProperty, Property } from '@tender-orbit/core/properties';
import type { ThreadRow } from '../timeline-rows.ts';

export type GraphMode = 'value' | 'speed';

/** A thread as the graph draws it. */
export interface GraphLine {
  id: string;
  track: Track<number>;
  property: NumberProperty;
  colour: string;
  /** Value by keys alone, and with what rules make of it; in the unit that a person sees. */
  keyed: (frame: number) => number;
  result: ((frame: number) => number) | null;
}

/** Half the frames over which a speed is taken. */
const INSTANT = 0.02;

export const isNumber = (property: Property | undefined): property is NumberProperty =>
  property?.type === 'number' || property?.type === 'turn';

/** The lines of threads that hold numbers; of a speed graph their change a second. @param rate frames a second. */
export function graphLines(
  rows: readonly ThreadRow[],
  set: SetDocument,
  shot: ShotDocument,
  mode: GraphMode,
  rate: number,
): GraphLine[] {
  return rows.flatMap(({ id, track, property, colour, rules }) => {
    if (!isNumber(property) || !isNumeric(track)) return [];
    const keyed = courseOf(track, property, shot.eases);
    const result = rules.some((r) => !r.muted) ? resultOf(set, shot, track, property) : null;
    const shown = (f: (frame: number) => number) => (mode === 'speed' ? speedOf(f, rate) : f);
    return [{ id, track, property, colour, keyed: shown(keyed), result: result && shown(result) }];
  });
}

function courseOf(track: Track<number>, property: NumberProperty, linked: readonly LinkedEase[]) {
  const curve = new NumberCurve(track.keys, property, linked);
  return (frame: number): number => curve.at(frame) * property.display.scale;
}

function resultOf(set: SetDocument, shot: ShotDocument, { thing, path }: Track, { display }: NumberProperty) {
  const mover = compileMoves(set, shot).posers.get(thing);
  return mover ? (frame: number): number => (readPosed(mover.at(frame), path) as number) * display.scale : null;
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
