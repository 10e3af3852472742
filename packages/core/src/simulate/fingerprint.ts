/** A text's fingerprint of 32 hex digits (four FNV-1a hashes with different seeds): tells contents apart, keeps no secrets. */
export function fingerprint(text: string): string {
  let out = '';
  for (let seed = 0; seed < 4; seed++) {
    let h = (0x811c9dc5 ^ Math.imul(seed, 0x9e3779b1)) >>> 0;
    for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
    h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
    out += ((h ^ (h >>> 16)) >>> 0).toString(16).padStart(8, '0');
  }
  return out;
}

/** The same of numbers, through their bits. */
export function fingerprintOf(numbers: Float32Array): string {
  const words = new Uint32Array(numbers.buffer, numbers.byteOffset, numbers.length);
  let [a, b] = [0x811c9dc5, 0x9e3779b1];
  for (let i = 0; i < words.length; i++) {
    a = Math.imul(a ^ words[i], 0x01000193);
    b = Math.imul(b ^ words[i], 0x85ebca6b) ^ (b >>> 15);
  }
  return `${words.length}-${(a >>> 0).toString(16)}-${(b >>> 0).toString(16)}`;
}
