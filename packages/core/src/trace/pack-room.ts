import { sin } from '../maths/index.ts';
import { panoramaOf, srgbD65Luminance, type Panorama } from '../light/index.ts';
import type { Tableau } from '../scene/index.ts';
import type { PackedRoom } from './layout.ts';

/** Panoramas read from files, by hash. */
export type Panoramas = ReadonlyMap<string, Panorama>;

const known = new Map<string, Panorama>();
/** Rooms kept; one that is being drawn makes many. */
const KEEP = 12;

/** The room of a tableau with what sampling it needs. */
export function packRoom({ environment }: Pick<Tableau, 'environment'>, files?: Panoramas): PackedRoom {
  const { room, intensity, rotation, seen } = environment;
  const file = room.kind === 'file' ? files?.get(room.asset) : undefined;
  const key = JSON.stringify([room, Boolean(file)]);
  const panorama = known.get(key) ?? panoramaOf(room, file);
  if (known.size >= KEEP && !known.has(key)) known.clear();
  known.set(key, panorama);
  return roomOf(panorama, intensity, rotation, seen);
}

/** A panorama as light all round; its alias table (Walker 1977, built as Vose 1991 does) draws cells by their light. */
export function roomOf({ width, height, data }: Panorama, intensity: number, rotation = 0, seen = true): PackedRoom {
  const count = width * height;
  const cells = new Float32Array(count * 4);
  let sum = 0;
  for (let row = 0; row < height; row++) {
    const size = sin(((row + 0.5) / height) * Math.PI);
    for (let column = 0; column < width; column++) {
      const i = row * width + column;
      const rgb = [data[i * 3] * intensity, data[i * 3 + 1] * intensity, data[i * 3 + 2] * intensity];
      const weight = Math.fround(srgbD65Luminance(rgb) * size);
      cells.set([...rgb, weight], i * 4);
      sum += weight;
    }
  }
  const alias = new Float32Array(count * 2);
  const ints = new Int32Array(alias.buffer);
  const scaled = Float64Array.from({ length: count }, (_, i) => (sum > 0 ? (cells[i * 4 + 3] / sum) * count : 1));
  const small: number[] = [];
  const large: number[] = [];
  scaled.forEach((p, i) => (p < 1 ? small : large).push(i));
  while (small.length > 0 && large.length > 0) {
    const s = small.pop()!;
    const l = large.at(-1)!;
    alias[s * 2] = scaled[s];
    ints[s * 2 + 1] = l;
    scaled[l] -= 1 - scaled[s];
    if (scaled[l] < 1) small.push(large.pop()!);
  }
  // What is left is 1 up to rounding.
  for (const i of [...small, ...large]) {
    alias[i * 2] = 1;
    ints[i * 2 + 1] = i;
  }
  return { width, height, cells, alias, sum, rotation, seen };
}
