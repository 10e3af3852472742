import { Problem } from '../../problem/index.ts';
import { PARTICLE, type SimulatedParticles } from '../../scene/index.ts';

/** Particles of one simulated frame: all that the next one follows from. */
export interface ParticleFrame extends SimulatedParticles {
  /** How many were born so far, and the share of the next one that is due. */
  born: number;
  due: number;
  /** Seconds from this frame to the one before it. */
  seconds: number;
}

/** Raised with every change to what is made of the same settings. */
export const PARTICLE_ENGINE = 2;
const MARK = 0x4c545250;
const HEADER = 8;

/** A frame as bytes, to be compressed and kept. */
export function writeParticles({ count, data, numbers, born, due, seconds }: ParticleFrame): Uint8Array {
  const bytes = new Uint8Array(HEADER * 4 + count * 4 * (PARTICLE.stride + 1));
  const words = new DataView(bytes.buffer);
  [MARK, PARTICLE_ENGINE, count, born].forEach((v, i) => words.setUint32(i * 4, v, true));
  words.setFloat64(16, due, true);
  words.setFloat64(24, seconds, true);
  bytes.set(new Uint8Array(data.buffer, data.byteOffset, count * PARTICLE.stride * 4), HEADER * 4);
  bytes.set(new Uint8Array(numbers.buffer, numbers.byteOffset, count * 4), (HEADER + count * PARTICLE.stride) * 4);
  return bytes;
}

/** Whether bytes are those of a frame of particles, of whatever version. */
export function areParticles(bytes: Uint8Array): boolean {
  return bytes.length >= 4 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === MARK;
}

/** @throws Problem `effect/stored` for bytes that are no stored frame, or one of another version. */
export function readParticles(bytes: Uint8Array): ParticleFrame {
  const words = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const bad = (why: string): never => {
    throw new Problem(
      'effect/stored',
      `A stored frame of particles cannot be used: ${why}. Simulate the effect again.`,
    );
  };
  if (bytes.length < HEADER * 4 || !areParticles(bytes)) bad('it is no frame of particles');
  if (words.getUint32(4, true) !== PARTICLE_ENGINE) bad('it was made by another version');
  const count = words.getUint32(8, true);
  if (bytes.length !== (HEADER + count * (PARTICLE.stride + 1)) * 4) bad('it is not whole');
  const data = new Float32Array(count * PARTICLE.stride);
  const numbers = new Uint32Array(count);
  const split = (HEADER + count * PARTICLE.stride) * 4;
  new Uint8Array(data.buffer).set(bytes.subarray(HEADER * 4, split));
  new Uint8Array(numbers.buffer).set(bytes.subarray(split));
  const [due, seconds] = [words.getFloat64(16, true), words.getFloat64(24, true)];
  return { kind: 'particles', count, data, numbers, born: words.getUint32(12, true), due, seconds };
}

/** No particles yet. */
export function noParticles(seconds: number): ParticleFrame {
  return {
    kind: 'particles',
    count: 0,
    data: new Float32Array(),
    numbers: new Uint32Array(),
    born: 0,
    due: 0,
    seconds,
  };
}

/**
 * Particles between two frames that follow each other, `share` of the way from the first to the second: those that die in between
 * fly on until then, those that are born in between come from there.
 */
export function particlesBetween(a: ParticleFrame, b: ParticleFrame, share: number): SimulatedParticles {
  if (share <= 0) return a;
  if (share >= 1) return b;
  const { stride } = PARTICLE;
  const data = new Float32Array((a.count + b.count) * stride);
  const numbers = new Uint32Array(a.count + b.count);
  let count = 0;
  /** Takes one on, or back, from where it is. */
  const fly = (from: Float32Array, at: number, number: number, seconds: number): void => {
    const age = from[at + PARTICLE.age] + seconds;
    if (age < 0 || age >= from[at + PARTICLE.life]) return;
    const out = count * stride;
    data.set(from.subarray(at, at + stride), out);
    data[out + PARTICLE.age] = age;
    for (let k = 0; k < 3; k++) data[out + k] += from[at + PARTICLE.velocity + k] * seconds;
    numbers[count++] = number;
  };
  const both = (i: number, j: number): void => {
    const [p, q, out] = [i * stride, j * stride, count * stride];
    for (let k = 0; k < stride; k++) data[out + k] = a.data[p + k] * (1 - share) + b.data[q + k] * share;
    const turn = PARTICLE.turn;
    let dot = 0;
    for (let k = turn; k < turn + 4; k++) dot += a.data[p + k] * b.data[q + k];
    let long = 0;
    for (let k = turn; k < turn + 4; k++) {
      data[out + k] = a.data[p + k] * (1 - share) + b.data[q + k] * (dot < 0 ? -share : share);
      long += data[out + k] * data[out + k];
    }
    for (let k = turn; k < turn + 4; k++) data[out + k] /= Math.sqrt(long);
    numbers[count++] = a.numbers[i];
  };
  let [i, j] = [0, 0];
  while (i < a.count || j < b.count) {
    const first = i < a.count ? a.numbers[i] : Infinity;
    const second = j < b.count ? b.numbers[j] : Infinity;
    if (first === second) both(i++, j++);
    else if (first < second) fly(a.data, i++ * stride, first, share * b.seconds);
    else fly(b.data, j++ * stride, second, (share - 1) * b.seconds);
  }
  return { kind: 'particles', count, data: data.subarray(0, count * stride), numbers: numbers.subarray(0, count) };
}
