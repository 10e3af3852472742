import type { LayerOf } from '../document/index.ts';
import { kelvinToRgb } from '../light/index.ts';
import { exp2, pow } from '../maths/index.ts';
import type { Floats, Plate, Plates } from './plate.ts';

type Grade = LayerOf<'grade'>;
const DAYLIGHT = 6504;
/** Rec.709 weights of luminance. */
const [R, G, B] = [0.2126, 0.7152, 0.0722];

/**
 * Gains that bring what was lit at a colour temperature to neutral, in linear Rec.709, at the same luminance of white (von Kries).
 * A tint of 100 takes a fifth of the green away.
 */
export function whiteBalance(temperature: number, tint: number): [number, number, number] {
  const [light, day] = [kelvinToRgb(temperature), kelvinToRgb(DAYLIGHT)];
  const gains = [0, 1, 2].map((c) => (temperature === DAYLIGHT ? 1 : day[c] / Math.max(1e-3, light[c])));
  gains[1] *= 1 - tint / 500;
  const white = R * gains[0] + G * gains[1] + B * gains[2];
  return gains.map((g) => g / white) as [number, number, number];
}

/**
 * One linear colour through a grade, in its order: exposure, white balance, ASC CDL (slope, offset, power; ASC CDL 1.2), contrast in
 * stops about its pivot, saturation about Rec.709 luminance, vibrance (saturation where there is little). In place at `at`.
 */
export function grader(grade: Grade): (rgb: Float32Array | Float64Array, at: number) => void {
  const stops = exp2(grade.exposure);
  const gain = whiteBalance(grade.temperature, grade.tint).map((g) => g * stops);
  const slope = [grade.slopeRed, grade.slopeGreen, grade.slopeBlue];
  const offset = [grade.offsetRed, grade.offsetGreen, grade.offsetBlue];
  const power = [grade.powerRed, grade.powerGreen, grade.powerBlue];
  const { contrast, pivot, saturation, vibrance } = grade;
  return (rgb, at) => {
    for (let c = 0; c < 3; c++) {
      let v = rgb[at + c] * gain[c] * slope[c] + offset[c];
      if (v < 0) v = 0;
      if (power[c] !== 1) v = pow(v, power[c]);
      if (contrast !== 1) v = v > 0 ? pivot * pow(v / pivot, contrast) : 0;
      rgb[at + c] = v;
    }
    if (saturation === 1 && vibrance === 0) return;
    const [r, g, b] = [rgb[at], rgb[at + 1], rgb[at + 2]];
    const y = R * r + G * g + B * b;
    const high = Math.max(r, g, b);
    const dull = high > 0 ? Math.min(r, g, b) / high : 1;
    const s = saturation * (1 + vibrance * dull);
    rgb[at] = Math.max(0, y + (r - y) * s);
    rgb[at + 1] = Math.max(0, y + (g - y) * s);
    rgb[at + 2] = Math.max(0, y + (b - y) * s);
  };
}

/** What the kernel needs to know of a grade, in its order. */
function numbersOf(grade: Grade): number[] {
  const stops = exp2(grade.exposure);
  const slope = [grade.slopeRed, grade.slopeGreen, grade.slopeBlue];
  const gain = whiteBalance(grade.temperature, grade.tint).map((g, c) => g * stops * slope[c]);
  const offset = [grade.offsetRed, grade.offsetGreen, grade.offsetBlue];
  const power = [grade.powerRed, grade.powerGreen, grade.powerBlue];
  return [
    ...[...gain, 1, ...offset, 0, ...power, 1],
    ...[grade.contrast, Math.max(1e-6, grade.pivot), grade.saturation, grade.vibrance],
  ];
}

/** Grades a plate, as its colours are without their alpha. @param amount 0..1. @param mask how much of it, a pixel. */
export function applyGrade(plates: Plates, plate: Plate, grade: Grade, amount: number, mask: Floats | null): void {
  plates.within(() => {
    const numbers = plates.store(numbersOf(grade));
    plates.kernel.grade(plate.at, plate.width * plate.height, numbers.at, amount, mask?.at ?? 0);
  });
}
