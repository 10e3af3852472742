import { pow } from '../maths/index.ts';
/** Two channels of samples, nominal range -1..1. */
export interface Sound {
  sampleRate: number;
  left: Float32Array;
  right: Float32Array;
}

/** What all of Tender Orbit works at; files are converted on their way in. */
export const SAMPLE_RATE = 48000;

export function silence(samples: number, sampleRate = SAMPLE_RATE): Sound {
  return { sampleRate, left: new Float32Array(samples), right: new Float32Array(samples) };
}

export function decibelsToGain(db: number): number {
  return pow(10, db / 20);
}
