import { Problem } from '../problem/index.ts';

/** Frames per second as an exact ratio, so that 29.97 never drifts. */
export interface FrameRate {
  num: number;
  den: number;
}

/** The rates that cameras, broadcasters and screens use. */
export const USUAL_RATES: readonly FrameRate[] = [
  { num: 24000, den: 1001 },
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30000, den: 1001 },
  { num: 30, den: 1 },
  { num: 50, den: 1 },
  { num: 60000, den: 1001 },
  { num: 60, den: 1 },
];

/** @throws Problem `time/bad-rate` unless both parts are positive whole numbers. */
export function checkRate(rate: FrameRate): void {
  if (!Number.isInteger(rate.num) || !Number.isInteger(rate.den) || rate.num <= 0 || rate.den <= 0) {
    throw new Problem(
      'time/bad-rate',
      `The frame rate ${rate.num}/${rate.den} is not a ratio of whole numbers above zero: choose one of the usual rates.`,
      'Frame rate',
    );
  }
}

/** `24`, `23.976`, `29.97`: at most three decimals, as people say it. */
export function rateLabel(rate: FrameRate): string {
  return String(Math.round((rate.num / rate.den) * 1000) / 1000);
}

/** Frame number (may be fractional) to seconds. */
export function framesToSeconds(frames: number, rate: FrameRate): number {
  return (frames * rate.den) / rate.num;
}

/** Seconds to a frame number, fractional. */
export function secondsToFrames(seconds: number, rate: FrameRate): number {
  return (seconds * rate.num) / rate.den;
}

/** Audio samples that exactly cover `frames` pictures, rounded to the nearest sample. */
export function framesToSamples(frames: number, rate: FrameRate, sampleRate: number): number {
  return Math.round((frames * rate.den * sampleRate) / rate.num);
}
