import { Problem } from '../../problem/index.ts';
import type { Vec3 } from '../../geometry/index.ts';

/** Smoke of one simulated frame, as it is kept, drawn and traced: density in steps of `most` / 65535. */
export interface SmokeFrame {
  kind: 'smoke';
  size: Vec3;
  cell: number;
  origin: Vec3;
  most: number;
  density: Uint16Array;
}

/** Densities packed to sixteen bits. */
export function packSmoke(frame: Pick<SmokeFrame, 'size' | 'cell' | 'origin'>, density: Float32Array): SmokeFrame {
  let most = 0;
  for (let i = 0; i < density.length; i++) if (density[i] > most) most = density[i];
  const out = new Uint16Array(density.length);
  const scale = most > 0 ? 65535 / most : 0;
  for (let i = 0; i < density.length; i++) out[i] = Math.round(density[i] * scale);
  const { size, cell, origin } = frame;
  return { kind: 'smoke', size, cell, origin, most, density: out };
}

/** Densities of two frames, `share` of the way from the first to the second. */
export function densityBetween(a: SmokeFrame, b: SmokeFrame, share: number): Float32Array {
  const out = new Float32Array(a.density.length);
  const [p, q] = [((1 - share) * a.most) / 65535, (share * b.most) / 65535];
  const alike = b.density.length === a.density.length;
  for (let i = 0; i < out.length; i++) out[i] = p * a.density[i] + (alike ? q * b.density[i] : 0);
  return out;
}

/** First words of a stored frame: a mark, then the version of the engine that made it. */
const MARK = 0x4b4d5354;
/** Raised with every change to what the solver makes of the same settings. */
export const SMOKE_ENGINE = 2;
const HEADER = 12;

/** A frame as bytes, to be compressed and kept. */
export function writeSmoke({ size, cell, origin, most, density }: SmokeFrame): Uint8Array {
  const bytes = new Uint8Array(HEADER * 4 + density.byteLength);
  const words = new DataView(bytes.buffer);
  [MARK, SMOKE_ENGINE, ...size].forEach((v, i) => words.setUint32(i * 4, v, true));
  [cell, ...origin, most].forEach((v, i) => words.setFloat32((5 + i) * 4, v, true));
  bytes.set(new Uint8Array(density.buffer, density.byteOffset, density.byteLength), HEADER * 4);
  return bytes;
}

/** @throws Problem `effect/stored` for bytes that are no stored frame, or one of another version. */
export function readSmoke(bytes: Uint8Array): SmokeFrame {
  const words = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const bad = (why: string): never => {
    throw new Problem('effect/stored', `A stored frame of smoke cannot be used: ${why}. Simulate the effect again.`);
  };
  if (bytes.length < HEADER * 4 || words.getUint32(0, true) !== MARK) bad('it is no frame of smoke');
  if (words.getUint32(4, true) !== SMOKE_ENGINE) bad('it was made by another version');
  const size = [2, 3, 4].map((i) => words.getUint32(i * 4, true)) as Vec3;
  const count = size[0] * size[1] * size[2];
  if (bytes.length !== HEADER * 4 + count * 2) bad('it is not whole');
  const [cell, x, y, z, most] = [5, 6, 7, 8, 9].map((i) => words.getFloat32(i * 4, true));
  const density = new Uint16Array(count);
  new Uint8Array(density.buffer).set(bytes.subarray(HEADER * 4));
  return { kind: 'smoke', size, cell, origin: [x, y, z], most, density };
}
