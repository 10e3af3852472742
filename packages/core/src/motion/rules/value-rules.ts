import type { Rule } from '../../document/index.ts';
import { DEGREES } from '../../geometry/index.ts';
import { exp, sin } from '../../maths/index.ts';
import type { Curve } from '../curve.ts';
import { noise } from './noise.ts';
import type { RuleValues } from './rule-values.ts';

/** What a rule adds to a number at a frame, along one axis of a place or for a number alone. */
export type Offset = (frame: number, axis: number) => number;

type Of<K extends Rule['kind']> = Extract<Rule, { kind: K }>;

/** The offset of a rule that adds to values; null for the others. @param length frames of the shot. */
export function offsetOf(values: RuleValues, length: number): Offset | null {
  const { rule } = values;
  const amount = (frame: number): number => values.number('amount', frame);
  switch (rule.kind) {
    case 'drift':
      return drift(rule, values, length);
    case 'wave':
      return (frame) =>
        amount(frame) * sin((360 * (frame / values.number('period', frame)) + values.number('phase', frame)) * DEGREES);
    case 'hop':
      return (frame) => amount(frame) * hopAt(frame - rule.start, values.number('period', frame), rule.kept);
    case 'music': {
      const level = levelsOver(rule);
      return (frame) => amount(frame) * level(frame);
    }
    default:
      return null;
  }
}

/** A curve of another time, or of what is beyond its keys; the curve itself for a rule that does neither. */
export function retimed(curve: Curve, values: RuleValues): Curve {
  const { rule } = values;
  if (rule.kind === 'delay')
    return { ...spanOf(curve), at: (frame) => curve.at(frame - values.number('frames', frame)) };
  if (rule.kind !== 'repeat') return curve;
  const { first, last } = spanOf(curve);
  const span = last - first;
  if (!(span > 0)) return curve;
  if (rule.mode === 'continue') return continued(curve, first, last);
  return {
    first,
    last,
    at: (frame) => {
      const turns = (frame - first) / span;
      const whole = Math.floor(turns);
      const rest = (turns - whole) * span;
      return curve.at(rule.mode === 'ping-pong' && whole % 2 !== 0 ? last - rest : first + rest);
    },
  };
}

const spanOf = ({ first, last }: Curve): { first: number; last: number } => ({ first, last });

/** Frames over which the speed at an end is taken. */
const INSTANT = 1e-3;

function continued(curve: Curve, first: number, last: number): Curve {
  const value = (frame: number): unknown => curve.at(frame);
  if (typeof value(first) !== 'number') return curve;
  const number = value as (frame: number) => number;
  const before = (number(first + INSTANT) - number(first)) / INSTANT;
  const after = (number(last) - number(last - INSTANT)) / INSTANT;
  return {
    first,
    last,
    at: (frame) => {
      if (frame < first) return number(first) + (frame - first) * before;
      return frame > last ? number(last) + (frame - last) * after : number(frame);
    },
  };
}

/**
 * A uniform cubic B-spline through random numbers, one a period: position, speed and acceleration are continuous. Without a
 * seam the numbers come round again after the shot, whose length then holds a whole number of periods.
 */
function drift(rule: Of<'drift'>, values: RuleValues, length: number): Offset {
  return (frame, axis) => {
    const period = values.number('period', frame);
    const count = rule.seamless ? Math.max(1, Math.round(length / period)) : 0;
    const x = count > 0 ? (frame / length) * count : frame / period;
    const i = Math.floor(x);
    const t = x - i;
    const at = (k: number): number => noise(rule.seed, axis, count > 0 ? ((k % count) + count) % count : k);
    const [t2, t3] = [t * t, t * t * t];
    const blend =
      (1 - 3 * t + 3 * t2 - t3) * at(i - 1) +
      (4 - 6 * t2 + 3 * t3) * at(i) +
      (1 + 3 * t + 3 * t2 - 3 * t3) * at(i + 1) +
      t3 * at(i + 2);
    return (values.number('amount', frame) * blend) / 6;
  };
}

/** Height of a hop, 1 at the top of the first; each later one has a share of the height, and the root of it of the time. */
function hopAt(frames: number, period: number, kept: number): number {
  if (frames <= 0) return 0;
  const shorter = Math.sqrt(kept);
  let [at, long, height] = [frames, period, 1];
  while (at >= long) {
    at -= long;
    long *= shorter;
    height *= kept;
    if (height < 1e-4) return 0;
  }
  const u = at / long;
  return 4 * height * u * (1 - u);
}

/** Levels that rise within the attack and fall within the release (each the time of a first-order filter, in frames). */
function levelsOver({ levels, attack, release }: Of<'music'>): (frame: number) => number {
  const smooth = new Float64Array(levels.length);
  let now = levels[0] ?? 0;
  levels.forEach((level, i) => {
    const time = level > now ? attack : release;
    now += (level - now) * (time > 0 ? 1 - exp(-1 / time) : 1);
    smooth[i] = now;
  });
  return (frame) => {
    if (smooth.length === 0) return 0;
    const at = Math.min(smooth.length - 1, Math.max(0, frame));
    const i = Math.floor(at);
    const next = smooth[Math.min(smooth.length - 1, i + 1)];
    return smooth[i] + (next - smooth[i]) * (at - i);
  };
}
