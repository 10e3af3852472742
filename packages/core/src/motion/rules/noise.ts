/** A number in -1..1 by whole ones (a mix of their bits, after Murmur 3). */
export function noise(seed: number, axis: number, at: number): number {
  let h = Math.imul(seed ^ Math.imul(axis + 1, 0x9e3779b1), 0x85ebca6b) ^ Math.imul(at | 0, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 0x7fffffff - 1;
}
