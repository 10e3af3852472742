/** Four pixels of four floats each, turned so that a vector has one channel of each, and back. */

/** The first or the second, and the third or the fourth, numbers of two pixels in turn. */
// @ts-ignore: decorator
@inline
export function lowPairs(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 4, 1, 5);
}

// @ts-ignore: decorator
@inline
export function highPairs(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 6, 3, 7);
}

// @ts-ignore: decorator
@inline
export function firstHalves(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 1, 4, 5);
}

// @ts-ignore: decorator
@inline
export function lastHalves(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 3, 6, 7);
}

/** Writes four pixels whose channels are in a vector each. */
// @ts-ignore: decorator
@inline
export function storePixels(at: usize, r: v128, g: v128, b: v128, a: v128): void {
  const rg = lowPairs(r, g);
  const ba = lowPairs(b, a);
  v128.store(at, firstHalves(rg, ba));
  v128.store(at, lastHalves(rg, ba), 16);
  const rg2 = highPairs(r, g);
  const ba2 = highPairs(b, a);
  v128.store(at, firstHalves(rg2, ba2), 32);
  v128.store(at, lastHalves(rg2, ba2), 48);
}
