import { list, numbers, shape, type Field } from '../../fields.ts';
import type { Spot } from './mask-path.ts';

/** Curves of tone: of all channels, of each, of luma; then what is done by hue: to the hue itself, to saturation and to luma. */
export const TONE_CURVES = ['rgb', 'red', 'green', 'blue', 'luma'] as const;
export const HUE_CURVES = ['hueHue', 'hueSaturation', 'hueLuma'] as const;
export type CurveName = (typeof TONE_CURVES)[number] | (typeof HUE_CURVES)[number];
export const CURVE_NAMES: readonly CurveName[] = [...TONE_CURVES, ...HUE_CURVES];

/**
 * Points of curves from left to right; none: it changes nothing. Of tone curves both are display values 0 to 1; of hue curves the first is
 * the hue as a share of a turn (Oklab), the second -1 to 1.
 */
export type Curves = Record<CurveName, Spot[]>;

export const noCurves = (): Curves =>
  Object.fromEntries(CURVE_NAMES.map((name): [CurveName, Spot[]] => [name, []])) as Curves;

const points = list('Points of a curve', numbers<Spot>('Point of a curve', 2, -1, 1), 32);

export const curvesSchema: Field<Curves> = shape<Curves>(
  Object.fromEntries(CURVE_NAMES.map((name) => [name, points])) as Record<CurveName, typeof points>,
);
