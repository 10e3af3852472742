import { METRES_IN, type LengthUnit } from '@tender-orbit/core/geometry';
import { countOf } from './count-of.ts';

export const UNIT_NAMES: Record<LengthUnit, string> = {
  m: 'metres',
  cm: 'centimetres',
  mm: 'millimetres',
  in: 'inches',
};

/** One decimal, or two digits of what is small. */
const readable = (value: number): number => Number(value >= 1 ? value.toFixed(1) : value.toPrecision(2));

/** A length in metres as a person reads it best: `2 mm`, `15.5 cm`, `155 m`. */
export function lengthWords(metres: number): string {
  const [value, unit] = metres >= 1.95 ? [metres, 'm'] : metres >= 0.01 ? [metres * 100, 'cm'] : [metres * 1000, 'mm'];
  return `${readable(value)} ${unit}`;
}

/** Width, height and depth in one unit: `8 x 12 x 8 cm`. */
export function sizeWords(size: readonly number[], metres: number): string {
  const largest = Math.max(...size) * metres;
  const [scale, unit] = largest >= 1.95 ? [1, 'm'] : largest >= 0.01 ? [100, 'cm'] : [1000, 'mm'];
  return `${size.map((v) => readable(v * metres * scale)).join(' x ')} ${unit}`;
}

/** What a product would measure if the file's numbers were in that unit. */
export function unitOffer(unit: LengthUnit, size: readonly number[]): string {
  return `In ${UNIT_NAMES[unit]}: ${lengthWords(Math.max(...size) * METRES_IN[unit])}`;
}

/** `2 lights and 1 camera`, or nothing. */
export function rigWords(lights: number, cameras: number): string {
  return [lights > 0 ? countOf(lights, 'light') : '', cameras > 0 ? countOf(cameras, 'camera') : '']
    .filter(Boolean)
    .join(' and ');
}
