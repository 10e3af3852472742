/**
 * A short name for a text: 53 bits by two multiplicative hashes, so that two of some thousand texts hardly ever share one. It protects
 * from nothing.
 */
export function textStamp(text: string): string {
  let high = 0xdeadbeef;
  let low = 0x41c6ce57;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    high = Math.imul(high ^ code, 0x9e3779b1);
    low = Math.imul(low ^ code, 0x5f356495);
  }
  high = Math.imul(high ^ (high >>> 16), 0x85ebca6b) ^ Math.imul(low ^ (low >>> 13), 0xc2b2ae35);
  low = Math.imul(low ^ (low >>> 16), 0x85ebca6b) ^ Math.imul(high ^ (high >>> 13), 0xc2b2ae35);
  return ((low & 0x1fffff) * 0x100000000 + (high >>> 0)).toString(36);
}
