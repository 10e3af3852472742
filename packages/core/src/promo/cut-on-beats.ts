import type { Clip, MusicPart } from '../document/index.ts';
import { seeded } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';
import { beatsBetween, secondsToFrames, type BeatGrid, type FrameRate } from '../time/index.ts';
import { framesPlayed } from './pace.ts';

/** Where a cut on beats cuts: every beat, every two, bars, every two bars, or where the music's parts begin. */
export const CUT_PATTERNS = ['beat', 'two beats', 'bar', 'two bars', 'parts'] as const;
export type CutPattern = (typeof CUT_PATTERNS)[number];

export interface CutOnBeats {
  /** Takes to choose from, with their lengths in frames. */
  takes: ReadonlyArray<{ id: string; length: number }>;
  grid: BeatGrid;
  /** Parts of the music, seconds on the promo's time line. */
  parts: readonly MusicPart[];
  rate: FrameRate;
  pattern: CutPattern;
  /** Frames of the promo. */
  length: number;
  seed: number;
  newId: () => string;
}

/** A clip shorter than this is a flicker. */
const LEAST_FRAMES = 4;
/** Slowest pace at which a take that is too short is stretched over its place. */
const SLOWEST = 0.5;

/** Frames at which a pattern cuts, the first frame and the end among them. */
export function cutFrames({
  grid,
  parts,
  rate,
  pattern,
  length,
}: Omit<CutOnBeats, 'takes' | 'seed' | 'newId'>): number[] {
  const beats = beatsBetween(grid, rate, 0, length);
  const every = (wanted: (bar: number, beat: number) => boolean): number[] =>
    beats.filter(({ bar, beat }) => wanted(bar, beat)).map(({ frame }) => frame);
  const at: Record<CutPattern, () => number[]> = {
    beat: () => every(() => true),
    'two beats': () => every((_, beat) => beat % 2 === 1),
    bar: () => every((_, beat) => beat === 1),
    'two bars': () => every((bar, beat) => beat === 1 && bar % 2 === 1),
    parts: () => parts.map(({ from }) => secondsToFrames(from, rate)),
  };
  const frames = [0];
  for (const frame of at[pattern]().map(Math.round))
    if (frame - frames[frames.length - 1] >= LEAST_FRAMES && length - frame >= LEAST_FRAMES) frames.push(frame);
  return [...frames, length];
}

/**
 * Clips that change with the music. Each take comes as often as the others, never twice in a row while there is another one, and goes
 * on where it was left; one that is too short for its place is slowed down, to half at most.
 * @throws Problem `promo/no-takes`.
 */
export function cutOnBeats(options: CutOnBeats): Clip[] {
  const { takes, seed, newId } = options;
  const usable = takes.filter(({ length }) => length > 0);
  if (usable.length === 0)
    throw new Problem('promo/no-takes', 'There is no finished take to cut: render one, or choose others.', 'Takes');
  const frames = cutFrames(options);
  const random = seeded(seed);
  let bag: typeof usable = [];
  let last = '';
  const left = new Map<string, number>();
  return frames.slice(1).map((end, i) => {
    const length = end - frames[i];
    if (bag.length === 0) bag = shuffled(usable, random);
    // The first of a new round must not be the last of the old one.
    if (bag[0].id === last && bag.length > 1) bag.push(bag.shift()!);
    const take = bag.shift()!;
    last = take.id;
    const clip: Clip = { id: newId(), take: take.id, start: 0, length };
    if (take.length < length) {
      const pace = Math.max(SLOWEST, take.length / length);
      clip.pace = { from: pace, to: pace, reverse: false, between: 'blend' };
    } else {
      const from = left.get(take.id) ?? 0;
      // What is left may be too short: then it begins again.
      clip.start = from + length <= take.length ? from : 0;
    }
    left.set(take.id, clip.start + Math.round(framesPlayed(clip)));
    return clip;
  });
}

function shuffled<T>(items: readonly T[], random: () => number): T[] {
  const out = [...items];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [out[i], out[j]] = [out[j], out[i]];
  }
  return out;
}
