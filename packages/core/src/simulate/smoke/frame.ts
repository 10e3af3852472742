import { Problem } from '../../problem/index.ts';
import type { Vec3 } from '../../geometry/index.ts';

/** Numbers about 0 in steps of `most` / 127 or 32767, three a cell of a grid that is coarser than the smoke's. */
interface CoarseWays<A> {
  size: Vec3;
  most: number;
  values: A;
}

/** Smoke of one simulated frame, as it is kept, drawn and traced: density in steps of `most` / 65535. */
export interface SmokeFrame {
  kind: 'smoke';
  size: Vec3;
  cell: number;
  origin: Vec3;
  most: number;
  density: Uint16Array;
  /** Red, green, blue a cell, square roots of linear shares; only where emitters have colours. */
  colours?: Uint8Array;
  /** Degrees above the room's in steps of `most` / 255. */
  heat?: { most: number; values: Uint8Array };
  /** Metres that gas goes in this frame. */
  motion?: CoarseWays<Int8Array>;
  /** Metres that gas was carried since the two patterns began (one after the other), and how much the first one counts. */
  flow?: CoarseWays<Int16Array> & { share: number };
}

/** Numbers of 0 and above as whole steps up to `top`. */
function packed<A extends Uint8Array | Uint16Array>(values: Float32Array, out: A, top: number): number {
  let most = 0;
  for (let i = 0; i < values.length; i++) if (values[i] > most) most = values[i];
  const scale = most > 0 ? top / most : 0;
  for (let i = 0; i < values.length; i++) out[i] = Math.round(values[i] * scale);
  return most;
}

/** Numbers on both sides of 0 as whole steps up to `top`. */
export function packWays<A extends Int8Array | Int16Array>(size: Vec3, ways: Float32Array, values: A): CoarseWays<A> {
  const top = values.BYTES_PER_ELEMENT === 1 ? 127 : 32767;
  let most = 0;
  for (let i = 0; i < ways.length; i++) if (Math.abs(ways[i]) > most) most = Math.abs(ways[i]);
  const scale = most > 0 ? top / most : 0;
  for (let i = 0; i < ways.length; i++) values[i] = Math.round(ways[i] * scale);
  return { size, most, values };
}

/** Densities packed to sixteen bits. */
export function packSmoke(frame: Pick<SmokeFrame, 'size' | 'cell' | 'origin'>, density: Float32Array): SmokeFrame {
  const out = new Uint16Array(density.length);
  const most = packed(density, out, 65535);
  const { size, cell, origin } = frame;
  return { kind: 'smoke', size, cell, origin, most, density: out };
}

/** Temperatures packed to eight bits. */
export function packHeat(heat: Float32Array): SmokeFrame['heat'] {
  const values = new Uint8Array(heat.length);
  return { most: packed(heat, values, 255), values };
}

/** Colours of cells from the density of each colour's share. */
export function packColours(density: Float32Array, shares: readonly Float32Array[]): Uint8Array {
  const out = new Uint8Array(density.length * 3);
  for (let i = 0; i < density.length; i++)
    for (let c = 0; c < 3 && density[i] > 0; c++)
      out[i * 3 + c] = Math.round(255 * Math.sqrt(Math.min(1, shares[c][i] / density[i])));
  return out;
}

/** Densities of two frames, `share` of the way from the first to the second. */
export function densityBetween(a: SmokeFrame, b: SmokeFrame, share: number): Float32Array {
  return between(a.density, a.most / 65535, b.density, b.most / 65535, share);
}

type Steps = Uint8Array | Uint16Array | Int8Array | Int16Array;

/** Numbers of two frames, `share` of the way from the first to the second; those of the second only when they are as many. */
export function between(a: Steps, ofA: number, b: Steps, ofB: number, share: number): Float32Array {
  const out = new Float32Array(a.length);
  const alike = b.length === a.length;
  const [p, q] = [(1 - share) * ofA, alike ? share * ofB : 0];
  for (let i = 0; i < out.length; i++) out[i] = p * a[i] + (alike ? q * b[i] : 0);
  return out;
}

/** Every array of a frame. */
export function smokeArrays({ density, flow, colours, heat, motion }: SmokeFrame): Steps[] {
  const all = [density, flow?.values, colours, heat?.values, motion?.values];
  return all.filter((part) => part !== undefined);
}

/** First words of a stored frame: a mark, then the version of the engine that made it. */
const MARK = 0x4b4d5354;
/** Raised with every change to what the solver makes of the same settings. */
export const SMOKE_ENGINE = 4;
/** Whole numbers of the header: mark, engine, cells, what there is, cells of motion, cells of flow; then its floats. */
const WORDS = 12;
const HEADER = WORDS + 9;
const HAS = { colours: 1, heat: 2, motion: 4, flow: 8 } as const;

/** A frame as bytes, to be compressed and kept. */
export function writeSmoke(frame: SmokeFrame): Uint8Array {
  const { size, cell, origin, most, colours, heat, motion, flow } = frame;
  const has = (colours ? HAS.colours : 0) | (heat ? HAS.heat : 0) | (motion ? HAS.motion : 0) | (flow ? HAS.flow : 0);
  const none: Vec3 = [0, 0, 0];
  const parts = smokeArrays(frame);
  const bytes = new Uint8Array(HEADER * 4 + parts.reduce((sum, { byteLength }) => sum + byteLength, 0));
  const words = new DataView(bytes.buffer);
  const whole = [MARK, SMOKE_ENGINE, ...size, has, ...(motion?.size ?? none), ...(flow?.size ?? none)];
  whole.forEach((v, i) => words.setUint32(i * 4, v, true));
  const floats = [cell, ...origin, most, heat?.most ?? 0, motion?.most ?? 0, flow?.most ?? 0, flow?.share ?? 0];
  floats.forEach((v, i) => words.setFloat32((WORDS + i) * 4, v, true));
  let at = HEADER * 4;
  for (const part of parts) {
    bytes.set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), at);
    at += part.byteLength;
  }
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
  const sizeAt = (first: number): Vec3 => [0, 1, 2].map((i) => words.getUint32((first + i) * 4, true)) as Vec3;
  const cells = ([x, y, z]: Vec3): number => x * y * z;
  const [size, motionSize, flowSize] = [sizeAt(2), sizeAt(6), sizeAt(9)];
  const has = words.getUint32(20, true);
  const count = cells(size);
  const lengths = [
    count * 2,
    has & HAS.flow ? cells(flowSize) * 12 : 0,
    has & HAS.colours ? count * 3 : 0,
    has & HAS.heat ? count : 0,
    has & HAS.motion ? cells(motionSize) * 3 : 0,
  ];
  if (bytes.length !== HEADER * 4 + lengths.reduce((sum, n) => sum + n, 0)) bad('it is not whole');
  const float = (i: number): number => words.getFloat32((WORDS + i) * 4, true);
  let at = HEADER * 4;
  const [density, flow, colours, heat, motion] = lengths.map((length) => bytes.slice(at, (at += length)).buffer);
  return {
    ...{ kind: 'smoke', size, cell: float(0), origin: [float(1), float(2), float(3)], most: float(4) },
    density: new Uint16Array(density),
    ...(has & HAS.colours && { colours: new Uint8Array(colours) }),
    ...(has & HAS.heat && { heat: { most: float(5), values: new Uint8Array(heat) } }),
    ...(has & HAS.motion && { motion: { size: motionSize, most: float(6), values: new Int8Array(motion) } }),
    ...(has & HAS.flow && {
      flow: { size: flowSize, most: float(7), values: new Int16Array(flow), share: float(8) },
    }),
  } as SmokeFrame;
}
