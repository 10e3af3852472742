import { cos, exp, pow, sin } from '../maths/index.ts';
import type { Sound } from './sound.ts';

/** Frequency in Hz of a MIDI note number, A4 = 69 = 440 Hz. */
export function noteFrequency(note: number): number {
  return 440 * pow(2, (note - 69) / 12);
}

/** Adds a mono voice to `sound` from `start` seconds for `length`, panned -1..1 (equal power). */
export function addVoice(
  sound: Sound,
  start: number,
  length: number,
  level: number,
  pan: number,
  voice: (t: number) => number,
): void {
  const from = Math.round(start * sound.sampleRate);
  const to = Math.min(sound.left.length, from + Math.round(length * sound.sampleRate));
  const angle = ((pan + 1) * Math.PI) / 4;
  const l = cos(angle) * level;
  const r = sin(angle) * level;
  for (let i = Math.max(0, from); i < to; i++) {
    const v = voice((i - from) / sound.sampleRate);
    sound.left[i] += v * l;
    sound.right[i] += v * r;
  }
}

/** Repeatable white noise, -1..1. */
export function noise(seed: number): () => number {
  let s = seed >>> 0 || 1;
  return () => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return ((s >>> 0) / 4294967295) * 2 - 1;
  };
}

/** Felt kick: a sine that falls from 120 to 46 Hz. */
export function kick(): (t: number) => number {
  return (t) => sin(2 * Math.PI * (46 * t + (74 / 28) * (1 - exp(-28 * t)))) * exp(-7 * t);
}

/** Brushed snare: band of noise over a short tone. */
export function brush(seed: number): (t: number) => number {
  const n = noise(seed);
  let last = 0;
  return (t) => {
    const white = n();
    const high = white - last;
    last = white;
    return (high * 0.5 * exp(-16 * t) + sin(2 * Math.PI * 185 * t) * 0.35 * exp(-26 * t)) * Math.min(1, t * 900);
  };
}

/** Shaker: high-passed noise with a soft start. */
export function shaker(seed: number, decay = 38): (t: number) => number {
  const n = noise(seed);
  let a = 0;
  let b = 0;
  return (t) => {
    const white = n();
    const out = white - 2 * a + b;
    b = a;
    a = white;
    return out * 0.25 * exp(-decay * t) * Math.min(1, t * 160);
  };
}

/** Round bass: two partials through a slow decay. */
export function bass(frequency: number, length: number): (t: number) => number {
  return (t) => {
    const p = 2 * Math.PI * frequency * t;
    const body = sin(p) + 0.32 * sin(2 * p) * exp(-5 * t) + 0.1 * sin(3 * p) * exp(-9 * t);
    return body * Math.min(1, t * 120) * exp(-1.1 * t) * release(t, length, 0.05);
  };
}

/** Wooden mallet: a fundamental with the bar's fourth and tenth partials. */
export function mallet(frequency: number): (t: number) => number {
  return (t) => {
    const p = 2 * Math.PI * frequency * t;
    const tone = sin(p) * exp(-3.2 * t) + 0.28 * sin(3.93 * p) * exp(-11 * t) + 0.07 * sin(9.6 * p) * exp(-28 * t);
    return tone * Math.min(1, t * 700);
  };
}

/** Warm pad: five detuned partial stacks under a slow swell. */
export function pad(frequency: number, length: number): (t: number) => number {
  const detune = [-0.4, -0.17, 0, 0.19, 0.37];
  return (t) => {
    let v = 0;
    for (const d of detune) {
      const p = 2 * Math.PI * (frequency + d) * t;
      v += sin(p + d) + 0.22 * sin(2 * p) + 0.09 * sin(3 * p + d * 5);
    }
    return (v / detune.length) * Math.min(1, t / 0.5) * release(t, length, 0.5);
  };
}

function release(t: number, length: number, tail: number): number {
  return Math.min(1, Math.max(0, (length - t) / tail));
}

/** Schroeder reverberation in place: parallel combs into all-passes, `wet` 0..1. */
export function addRoom(sound: Sound, wet: number): void {
  const channel = (data: Float32Array, shift: number): void => {
    const out = new Float32Array(data.length);
    for (const [ms, gain] of [
      [29.7, 0.77],
      [37.1, 0.75],
      [41.1, 0.73],
      [43.7, 0.71],
    ]) {
      const delay = Math.round(((ms + shift) / 1000) * sound.sampleRate);
      const line = new Float32Array(delay);
      let low = 0;
      for (let i = 0, at = 0; i < data.length; i++, at = at + 1 === delay ? 0 : at + 1) {
        const v = line[at];
        low += (v - low) * 0.45;
        line[at] = data[i] * 0.25 + low * gain;
        out[i] += v;
      }
    }
    for (const ms of [5, 1.7]) {
      const delay = Math.round((ms / 1000) * sound.sampleRate);
      const line = new Float32Array(delay);
      for (let i = 0, at = 0; i < data.length; i++, at = at + 1 === delay ? 0 : at + 1) {
        const v = line[at];
        const x = out[i] + v * 0.7;
        line[at] = x;
        out[i] = v - x * 0.7;
      }
    }
    for (let i = 0; i < data.length; i++) data[i] += out[i] * wet;
  };
  channel(sound.left, 0);
  channel(sound.right, 0.9);
}

/** Scales in place so that the largest sample is at `peak`. */
export function normalise(sound: Sound, peak: number): void {
  let max = 0;
  for (let i = 0; i < sound.left.length; i++) max = Math.max(max, Math.abs(sound.left[i]), Math.abs(sound.right[i]));
  if (max === 0) return;
  for (let i = 0; i < sound.left.length; i++) {
    sound.left[i] *= peak / max;
    sound.right[i] *= peak / max;
  }
}
