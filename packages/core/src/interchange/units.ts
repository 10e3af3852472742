import { METRES_IN, type LengthUnit } from '../geometry/index.ts';

/** Sizes that a product usually has, metres. */
const SMALLEST = 0.005;
const LARGEST = 4;
/** What lies in the middle of them: the size that is likeliest. */
const USUAL = 0.15;

/**
 * What a model's numbers are taken to be and what else they may well be, likeliest first. A format that says its unit is
 * believed; otherwise metres are, unless a thing would then be larger than any product is.
 *
 * @param extent largest side in the file's numbers
 * @param metres what the format says that one of them is
 */
export function likelyUnits(extent: number, metres?: number): { unit: LengthUnit; units: LengthUnit[] } {
  const names = Object.keys(METRES_IN) as LengthUnit[];
  const off = (unit: LengthUnit): number => {
    const times = (extent * METRES_IN[unit]) / USUAL;
    return Math.max(times, 1 / times);
  };
  const fits = (unit: LengthUnit): boolean =>
    extent * METRES_IN[unit] >= SMALLEST && extent * METRES_IN[unit] <= LARGEST;
  const said = names.find((unit) => METRES_IN[unit] === metres);
  const likely = names.filter(fits).sort((a, b) => off(a) - off(b));
  // Numbers of millimetres are what most programs that say no unit write.
  const unit = said ?? (fits('m') || !likely.includes('mm') ? 'm' : 'mm');
  return { unit, units: likely.filter((other) => other !== unit) };
}
