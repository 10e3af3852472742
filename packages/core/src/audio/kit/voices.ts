import { cos, exp, pow, seeded, sin } from '../../maths/index.ts';
import { noise } from '../instruments.ts';
import { GlidingFilter, SETTING_EVERY } from './filter.ts';

const TURN = 2 * Math.PI;

/** What a voice is made for. */
export interface VoiceOf {
  sampleRate: number;
  samples: number;
  /** Factor on all frequencies. */
  pitch: number;
  /** 0 airy, 1 heavy. */
  weight: number;
  seed: number;
  /** Share of its length at which its accent falls. */
  accent: number;
}

/** One channel of a sound, any height; made twice with other seeds where its sides differ. */
export type Voice = (of: VoiceOf) => Float32Array;

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
/** 0 before and 1 after, softly between. */
function ramp(t: number): number {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
}

/** Swells to the accent and falls from it, each at its own speed; 1 at the accent. */
function swell(t: number, accent: number, rise: number, fall: number): number {
  return t < accent ? pow(t / accent, rise) : pow(Math.max(0, (1 - t) / (1 - accent)), fall);
}

/**
 * Adds a sine that dies away, as a two-pole resonator rings that was struck once.
 * @param decay in nepers a second; it is let go 52 dB down.
 */
function addRing(
  out: Float32Array,
  from: number,
  frequency: number,
  height: number,
  decay: number,
  rate: number,
): void {
  const turn = (TURN * frequency) / rate;
  const damped = exp(-decay / rate);
  const [near, far] = [2 * damped * cos(turn), -damped * damped];
  const end = Math.min(out.length, from + Math.floor((6 * rate) / decay));
  let [last, before] = [0, -(height * sin(turn)) / damped];
  for (let i = from; i < end; i++) {
    out[i] += last;
    [last, before] = [near * last + far * before, last];
  }
}

/** Noise whose band sweeps up to the accent and down again, over a darker rush. */
export const whoosh: Voice = ({ sampleRate, samples, pitch, weight, seed, accent }) => {
  const air = noise(seed * 7919 + 1);
  const [band, rush] = [new GlidingFilter(sampleRate), new GlidingFilter(sampleRate)];
  return Float32Array.from({ length: samples }, (_, i) => {
    const t = i / samples;
    const near = swell(t, accent, 2.2, 1.6);
    if (i % SETTING_EVERY === 0) {
      band.set(pitch * mix(260, mix(3200, 1500, weight), near), 1.1);
      rush.set(pitch * mix(90, 420, near), 0.7);
    }
    const n = air();
    return near * (band.next(n).band * mix(1, 0.55, weight) + rush.next(n).low * mix(0.35, 1.5, weight));
  });
};

/** Rises over its whole length: a stack of saws by an octave and a half, and air that opens. */
export const riser: Voice = ({ sampleRate, samples, pitch, weight, seed, accent }) => {
  const air = noise(seed * 6151 + 3);
  const open = new GlidingFilter(sampleRate);
  const random = seeded(seed + 11);
  const voices = Array.from({ length: 5 }, () => ({ detune: 1 + (random() - 0.5) * 0.012, phase: random() }));
  let beat = 0;
  return Float32Array.from({ length: samples }, (_, i) => {
    const t = Math.min(1, i / (samples * accent));
    if (i % SETTING_EVERY === 0) open.set(pitch * mix(180, 7000, t * t), 0.9);
    let saw = 0;
    const frequency = (pitch * 110 * pow(2, 1.5 * t)) / sampleRate;
    for (const voice of voices) {
      voice.phase += frequency * voice.detune;
      voice.phase -= Math.floor(voice.phase);
      saw += 2 * voice.phase - 1;
    }
    beat += mix(3, 14, t * t) / sampleRate;
    const tremble = 0.75 + 0.25 * sin(TURN * beat);
    // Cut off just after its accent, not where a click would be heard.
    const end = i / samples <= accent ? 1 : ramp((samples - i) / (samples * (1 - accent)));
    const body = open.next(saw * 0.2 * mix(0.5, 1.2, weight) + air() * mix(0.6, 0.25, weight)).low;
    return body * tremble * pow(t, 1.6) * end;
  });
};

/** A struck low drum under a burst of air. */
export const hit: Voice = ({ sampleRate, samples, pitch, weight, seed }) => {
  const air = noise(seed * 4093 + 5);
  const burst = new GlidingFilter(sampleRate);
  burst.set(pitch * 900, 0.6);
  const long = samples / sampleRate;
  return Float32Array.from({ length: samples }, (_, i) => {
    const t = i / sampleRate;
    const phase = pitch * (mix(58, 42, weight) * t + (mix(90, 150, weight) / 30) * (1 - exp(-30 * t)));
    const drum = sin(TURN * phase) * exp((-5.5 / long) * t) * mix(0.7, 1.1, weight);
    const crack = burst.next(air()).band * exp(-42 * t) * mix(1.2, 0.5, weight);
    return (drum + crack) * ramp(t / 0.002) * ramp((long - t) / (0.15 * long));
  });
};

/** A sine that falls out of hearing. */
export const subDrop: Voice = ({ sampleRate, samples, pitch, weight }) => {
  const long = samples / sampleRate;
  let phase = 0;
  return Float32Array.from({ length: samples }, (_, i) => {
    const t = i / samples;
    phase += (pitch * mix(96, 27, 1 - exp(-3 * t))) / sampleRate;
    const tone = sin(TURN * phase);
    // Odd overtones for small speakers.
    const driven = tone - 0.35 * weight * tone * tone * tone;
    return driven * ramp((i / sampleRate) * 60) * ramp((long - i / sampleRate) / (0.4 * long));
  });
};

/** Small bells at chance moments, thickest at the accent. */
export const shimmer: Voice = ({ sampleRate, samples, pitch, weight, seed, accent }) => {
  const out = new Float32Array(samples);
  const random = seeded(seed + 23);
  const long = samples / sampleRate;
  // Steps of a scale without half tones: any of them sound well together.
  const steps = [0, 2, 4, 7, 9, 12, 14, 16, 19, 21, 24];
  const count = Math.round(14 + 22 * long);
  for (let bell = 0; bell < count; bell++) {
    const spread = (random() + random() + random()) / 3;
    const from = Math.floor(Math.max(0, accent + (spread - 0.5) * 1.3) * samples * 0.75);
    const frequency = pitch * 1320 * pow(2, steps[Math.floor(random() * steps.length)] / 12) * mix(1, 0.5, weight);
    const [loud, decay] = [0.3 + 0.7 * random(), mix(9, 5, weight) * (0.7 + random())];
    addRing(out, from, frequency, 0.25 * loud, decay, sampleRate);
    addRing(out, from, frequency * 2.76, 0.08 * loud, 3 * decay, sampleRate);
  }
  return faded(out, Math.round(0.25 * samples));
};

/** Partials of a tapped glass: a bar's modes, a little apart on either side of the rim. */
const GLASS: ReadonlyArray<readonly [ratio: number, height: number, decay: number]> = [
  [1, 1, 5],
  [1.004, 0.6, 5.4],
  [2.32, 0.62, 8],
  [4.25, 0.4, 13],
  [6.63, 0.24, 21],
  [9.38, 0.13, 34],
];

/** A nail on glass. */
export const glassTap: Voice = ({ sampleRate, samples, pitch, weight, seed }) => {
  const random = seeded(seed + 31);
  const out = new Float32Array(samples);
  for (const [ratio, height, decay] of GLASS) {
    const frequency = pitch * mix(1900, 1150, weight) * ratio * (1 + (random() - 0.5) * 0.004);
    addRing(out, 0, frequency, height * (0.8 + 0.4 * random()), decay * mix(1.3, 0.8, weight), sampleRate);
  }
  return faded(out, Math.round(0.1 * samples));
};

/** A breath of smoke: soft noise that closes as it goes. */
export const smokePuff: Voice = ({ sampleRate, samples, pitch, weight, seed, accent }) => {
  const air = noise(seed * 2741 + 9);
  const [breath, drift] = [new GlidingFilter(sampleRate), seeded(seed + 41)];
  const flutter = 2 + 3 * drift();
  return Float32Array.from({ length: samples }, (_, i) => {
    const t = i / samples;
    if (i % SETTING_EVERY === 0) breath.set(pitch * mix(mix(2400, 900, weight), 170, pow(t, 0.6)), 0.6);
    const shake = 1 + 0.2 * sin(TURN * flutter * (i / sampleRate)) * t;
    return breath.next(air()).low * swell(t, accent, 1.4, 2.4) * shake;
  });
};

/** What a quiet room sounds like: so that silence is not dead. */
export const roomTone: Voice = ({ sampleRate, samples, pitch, weight, seed }) => {
  const air = noise(seed * 9311 + 13);
  const [low, high] = [new GlidingFilter(sampleRate), new GlidingFilter(sampleRate)];
  low.set(pitch * mix(240, 110, weight), 0.5);
  high.set(pitch * 2600, 0.5);
  const out = Float32Array.from({ length: samples }, () => {
    const n = air();
    return low.next(n).low + 0.06 * high.next(n).band;
  });
  const soft = Math.min(samples >> 1, Math.round(0.5 * sampleRate));
  for (let i = 0; i < soft; i++) out[i] *= ramp(i / soft);
  return faded(out, soft);
};

/** Ends softly. */
function faded(out: Float32Array, samples: number): Float32Array {
  for (let i = 0; i < samples; i++) out[out.length - 1 - i] *= ramp(i / samples);
  return out;
}
