import type { LayerOf } from '../document/index.ts';

type Three = [number, number, number];
/** What a grade does as lift, gamma and gain: ((x + lift (1 - x)) gain) to the power of 1 / gamma, red, green and blue. */
export interface Wheels {
  lift: Three;
  gamma: Three;
  gain: Three;
}

/** Values of a grade that wheels stand for: slope, offset and power (ASC CDL) say the same in other words. */
export type WheelValues = Pick<
  LayerOf<'grade'>,
  | ('slopeRed' | 'slopeGreen' | 'slopeBlue')
  | ('offsetRed' | 'offsetGreen' | 'offsetBlue')
  | ('powerRed' | 'powerGreen' | 'powerBlue')
>;

/** The least that a gain may be, so that its lift can be told. */
const LEAST = 1e-3;

/** A grade's slope, offset and power as wheels: gain is slope + offset, lift offset over gain, gamma one over power. */
export function toWheels(g: WheelValues): Wheels {
  const slope: Three = [g.slopeRed, g.slopeGreen, g.slopeBlue];
  const offset: Three = [g.offsetRed, g.offsetGreen, g.offsetBlue];
  const power: Three = [g.powerRed, g.powerGreen, g.powerBlue];
  const gain = slope.map((v, c) => v + offset[c]) as Three;
  return {
    lift: offset.map((v, c) => v / (Math.abs(gain[c]) < LEAST ? LEAST : gain[c])) as Three,
    gamma: power.map((v) => 1 / v) as Three,
    gain,
  };
}

/** And back: slope is gain (1 - lift), offset gain times lift. */
export function fromWheels({ lift, gamma, gain }: Wheels): WheelValues {
  const slope = gain.map((v, c) => Math.min(4, Math.max(0, v * (1 - lift[c]))));
  const offset = gain.map((v, c) => Math.min(1, Math.max(-1, v * lift[c])));
  const power = gamma.map((v) => Math.min(8, Math.max(0.1, 1 / Math.max(LEAST, v))));
  return {
    ...{ slopeRed: slope[0], slopeGreen: slope[1], slopeBlue: slope[2] },
    ...{ offsetRed: offset[0], offsetGreen: offset[1], offsetBlue: offset[2] },
    ...{ powerRed: power[0], powerGreen: power[1], powerBlue: power[2] },
  };
}

/** Where red, green and blue lie on a wheel: upwards, then a third of a turn each. */
const AXES = [
  [0, 1],
  [Math.sqrt(3) / 2, -0.5],
  [-Math.sqrt(3) / 2, -0.5],
] as const;

/** Three numbers as their mean and where on a wheel they pull to, right and up: the plane across the grey axis. */
export function toPuck(values: Three): { level: number; x: number; y: number } {
  const level = (values[0] + values[1] + values[2]) / 3;
  const pull = (axis: 0 | 1): number => (2 / 3) * values.reduce((sum, v, c) => sum + (v - level) * AXES[c][axis], 0);
  return { level, x: pull(0), y: pull(1) };
}

export function fromPuck({ level, x, y }: { level: number; x: number; y: number }): Three {
  return AXES.map(([ax, ay]) => level + x * ax + y * ay) as Three;
}
