import { unitHash } from './tiled.ts';
import { PATTERN_KINDS, type PatternKind, type PatternRecipe } from './patterns.ts';

/** Words that ask for a pattern, by how they begin. */
const KIND_WORDS: Array<[PatternKind, string[]]> = [
  ['honeycomb', ['honey', 'comb', 'bee', 'hex', 'hive']],
  ['stripes', ['strip', 'line', 'band', 'bar', 'awning']],
  ['dots', ['dot', 'spot', 'polka', 'pearl', 'drop']],
  ['waves', ['wave', 'water', 'sea', 'flow', 'ripple', 'hill']],
  ['leaves', ['leaf', 'leav', 'heather', 'flower', 'garden', 'moor', 'herb', 'botan', 'petal']],
  ['weave', ['weave', 'woven', 'linen', 'cloth', 'basket', 'canvas', 'thread']],
  ['terrazzo', ['terrazzo', 'stone', 'chip', 'confetti', 'pebble', 'granite']],
  ['noise', ['cloud', 'noise', 'mist', 'smoke', 'marble', 'rust', 'fog']],
  ['grain', ['wood', 'grain', 'oak', 'walnut', 'plank', 'timber']],
  ['scratches', ['scratch', 'brush', 'worn', 'steel', 'scuff']],
  ['fingerprints', ['finger', 'print', 'smudge', 'touch', 'greas']],
];

/** Ground, figure and accent for colour words. */
const COLOUR_WORDS: Array<[string[], [string, string, string]]> = [
  [
    ['gold', 'honey', 'amber'],
    ['#F3E3BE', '#D9982B', '#8C5A14'],
  ],
  [
    ['purple', 'heather', 'violet', 'lilac'],
    ['#EFE6F2', '#7E5A99', '#4A2F5F'],
  ],
  [
    ['green', 'leaf', 'moss', 'herb'],
    ['#E9EEDF', '#5E7F4F', '#2F4A34'],
  ],
  [
    ['blue', 'sea', 'water', 'sky'],
    ['#E4EDF2', '#3F7398', '#1D3F5C'],
  ],
  [
    ['red', 'berry', 'cherry'],
    ['#F4E4DF', '#B23B3B', '#6D1F2A'],
  ],
  [
    ['pink', 'rose', 'petal'],
    ['#F8E9EA', '#D88C9A', '#A04D63'],
  ],
  [
    ['black', 'dark', 'night', 'ink'],
    ['#1D1A22', '#4A4456', '#C9A45C'],
  ],
  [
    ['grey', 'gray', 'stone', 'steel'],
    ['#D9D7D3', '#8B8A88', '#54545A'],
  ],
  [
    ['wood', 'brown', 'walnut', 'oak'],
    ['#C99A66', '#8A5A33', '#5B371E'],
  ],
  [
    ['cream', 'linen', 'paper', 'kraft'],
    ['#EFE5D2', '#C9B48D', '#8F7650'],
  ],
];
const PALETTES = COLOUR_WORDS.map(([, colours]) => colours);

/**
 * Three patterns that answer a few words, in place of an outside generator: words choose kind and colours where they
 * are known here, the seed the rest. The same words and seed give the same three.
 */
export function candidatesFor(words: string, seed: number): [PatternRecipe, PatternRecipe, PatternRecipe] {
  const said = words.toLowerCase().match(/[a-z]+/g) ?? [];
  const begins = (starts: string[]): boolean => said.some((word) => starts.some((s) => word.startsWith(s)));
  const kinds = KIND_WORDS.filter(([, starts]) => begins(starts)).map(([kind]) => kind);
  const colours = COLOUR_WORDS.filter(([starts]) => begins(starts)).map(([, c]) => c);
  const own = [...words.trim().toLowerCase()].reduce((h, c) => (Math.imul(h, 31) + c.charCodeAt(0)) | 0, seed | 0);
  const fine = begins(['fine', 'small', 'tiny', 'dense']) ? 2 : begins(['big', 'large', 'bold', 'wide']) ? 0.5 : 1;
  const make = (i: number): PatternRecipe => {
    const random = (which: number): number => unitHash(own, i, which);
    const pick = <T>(list: readonly T[], which: number): T => list[Math.floor(random(which) * list.length)];
    return {
      kind: kinds.length ? kinds[i % kinds.length] : pick(PATTERN_KINDS, 1),
      seed: Math.floor(random(2) * 0xffffffff),
      count: Math.max(1, Math.min(64, Math.round((3 + random(3) * 6) * fine))),
      amount: 0.3 + random(4) * 0.45,
      softness: random(5) * 0.25,
      colours: [...(colours.length ? colours[i % colours.length] : pick(PALETTES, 6))],
      size: 1024,
    };
  };
  return [make(0), make(1), make(2)];
}
