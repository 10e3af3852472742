import { exp, sin } from '../../maths/index.ts';
import { noise } from '../instruments.ts';

/** A plucked string: a burst of noise in a line as long as the note's period, whose heights die first (Karplus and Strong 1983). */
export function pluck(frequency: number, sampleRate: number, seed: number, bright = 0.5): (t: number) => number {
  const random = noise(seed);
  const line = Float64Array.from({ length: Math.max(2, Math.round(sampleRate / frequency)) }, () => random());
  let at = 0;
  let low = 0;
  return () => {
    const now = line[at];
    const next = line[at + 1 === line.length ? 0 : at + 1];
    line[at] = 0.4985 * (now + next);
    at = at + 1 === line.length ? 0 : at + 1;
    low += bright * (now - low);
    return low;
  };
}

/** A synthetic bass: the odd and even partials of a saw that close as it goes on. */
export function sawBass(frequency: number, length: number): (t: number) => number {
  return (t) => {
    const p = 2 * Math.PI * frequency * t;
    const open = exp(-6 * t);
    let v = 0;
    for (let k = 1; k <= 6; k++) v += (sin(k * p) / k) * (k === 1 ? 1 : exp(-(k - 1) * 0.9 * (1 - open)));
    return v * 0.6 * Math.min(1, t * 200) * Math.min(1, Math.max(0, (length - t) / 0.03));
  };
}

/** A closed or open hi-hat: noise whose depths are taken away twice. */
export function hat(seed: number, decay: number): (t: number) => number {
  const random = noise(seed);
  let [a, b] = [0, 0];
  return (t) => {
    const white = random();
    const out = white - 2 * a + b;
    [a, b] = [white, a];
    return out * 0.3 * exp(-decay * t);
  };
}

/** A clap: four bursts close together, then a tail. */
export function clap(seed: number): (t: number) => number {
  const random = noise(seed);
  let [low, last] = [0, 0];
  return (t) => {
    const white = random();
    low += 0.35 * (white - low);
    const band = low - last;
    last += 0.08 * (low - last);
    const burst = t < 0.036 ? exp(-110 * (t % 0.012)) : exp(-18 * (t - 0.036));
    return band * burst * 1.6;
  };
}

/** A rising breath of noise that leads to the next bar. @param length seconds. */
export function lift(seed: number, length: number): (t: number) => number {
  const random = noise(seed);
  let low = 0;
  return (t) => {
    const share = Math.min(1, t / length);
    low += (0.02 + 0.5 * share * share) * (random() - low);
    return low * share * share * (share < 1 ? 1 : 0);
  };
}
