/** Random numbers that are the same in every run of a seed (mulberry32). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

type Damage = (bytes: Uint8Array<ArrayBuffer>, random: () => number) => Uint8Array<ArrayBuffer>;

const at = (bytes: Uint8Array, random: () => number, room = 0): number =>
  Math.floor(random() * Math.max(1, bytes.length - room));
/** Numbers that readers stumble over. */
const EDGES = [0, 1, 0x7f, 0x80, 0xff, 0x7fff, 0xffff, 0x7fffffff, 0x80000000, 0xffffffff, 120_000_000];
const WORDS = [
  '-1',
  '0',
  '4294967295',
  '1e308',
  'NaN',
  '',
  '9007199254740993',
  '[[[[',
  '"\\ud800"',
  '../../../etc/passwd',
];

const DAMAGES: Damage[] = [
  /** A few bits flip. */
  (bytes, random) => {
    for (let i = 0; i < 1 + random() * 12; i++) bytes[at(bytes, random)] ^= 1 << Math.floor(random() * 8);
    return bytes;
  },
  /** It is cut off. */
  (bytes, random) => bytes.slice(0, at(bytes, random)),
  /** A number becomes one at the edge of what there is. */
  (bytes, random) => {
    if (bytes.length < 8) return bytes;
    const view = new DataView(bytes.buffer);
    for (let i = 0; i < 1 + random() * 3; i++)
      view.setUint32(at(bytes, random, 4), EDGES[Math.floor(random() * EDGES.length)], random() < 0.8);
    return bytes;
  },
  /** The same near the beginning, where sizes stand. */
  (bytes, random) => {
    if (bytes.length < 8) return bytes;
    const place = Math.floor(random() * Math.min(200, bytes.length - 4));
    new DataView(bytes.buffer).setUint32(place, EDGES[Math.floor(random() * EDGES.length)], random() < 0.8);
    return bytes;
  },
  /** A stretch is repeated. */
  (bytes, random) => {
    const from = at(bytes, random);
    const piece = bytes.slice(from, from + Math.floor(random() * 4000));
    return joined(bytes.slice(0, from), piece, piece, bytes.slice(from));
  },
  /** A stretch is missing. */
  (bytes, random) => {
    const from = at(bytes, random);
    return joined(bytes.slice(0, from), bytes.slice(from + Math.ceil(random() * 400)));
  },
  /** A stretch is noise. */
  (bytes, random) => {
    const from = at(bytes, random);
    const end = Math.min(bytes.length, from + Math.floor(random() * 600));
    for (let i = from; i < end; i++) bytes[i] = Math.floor(random() * 256);
    return bytes;
  },
  /** A number written as text becomes another. */
  (bytes, random) => {
    const from = at(bytes, random);
    for (let i = from; i < bytes.length; i++) {
      if (bytes[i] < 48 || bytes[i] > 57) continue;
      let end = i;
      while (end < bytes.length && bytes[end] >= 48 && bytes[end] <= 57) end++;
      const word = new TextEncoder().encode(WORDS[Math.floor(random() * WORDS.length)]);
      return joined(bytes.slice(0, i), word, bytes.slice(end));
    }
    return bytes;
  },
];

function joined(...pieces: Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let place = 0;
  for (const piece of pieces) {
    out.set(piece, place);
    place += piece.length;
  }
  return out;
}

/** A damaged copy of a file: one to three damages, one after another. */
export function damaged(file: Uint8Array, random: () => number): Uint8Array<ArrayBuffer> {
  let bytes = new Uint8Array(file);
  for (let i = 0; i < 1 + random() * 2; i++) bytes = DAMAGES[Math.floor(random() * DAMAGES.length)](bytes, random);
  return bytes.length > 0 ? bytes : new Uint8Array([0]);
}
