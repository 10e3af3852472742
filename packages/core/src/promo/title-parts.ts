import type { PartByPart, Title } from '../document/index.ts';
import { seeded } from '../maths/index.ts';

/** A run of letters that arrives by itself: from its first letter to the one after its last. */
export interface TitlePart {
  from: number;
  to: number;
}

const PATTERNS: Record<PartByPart['part'], RegExp> = {
  line: /[^\n]+/g,
  word: /\S+/g,
  // Marks and joined letters go with the letter that they belong to.
  letter: /\p{Extended_Pictographic}(?:\u200d\p{Extended_Pictographic})*|\S\p{M}*/gu,
};

/** The parts of a text in reading order; spaces belong to none. */
export function titleParts(text: string, part: PartByPart['part']): TitlePart[] {
  return [...text.matchAll(PATTERNS[part])].map((match) => ({ from: match.index, to: match.index + match[0].length }));
}

/** The turn of each part, 0 the first to come. */
export function partTurns(count: number, { order, seed }: Pick<PartByPart, 'order' | 'seed'>): number[] {
  const indices = Array.from({ length: count }, (_, i) => i);
  if (order === 'forward') return indices;
  if (order === 'back') return indices.map((i) => count - 1 - i);
  const random = seeded(seed);
  const key = order === 'middle' ? indices.map((i) => Math.abs(i - (count - 1) / 2)) : indices.map(() => random());
  const sorted = [...indices].sort((a, b) => key[a] - key[b] || a - b);
  const turns: number[] = [];
  sorted.forEach((part, turn) => (turns[part] = turn));
  return turns;
}

/**
 * When each part begins to arrive and how long it takes, in frames of the title: within the arrival's frames, each sharing some of
 * its own time with the next; or at times of their own, each in the frames of the arrival. Parts without a time come with the last.
 */
export function partTimes(title: Title, count: number): Array<{ begin: number; frames: number }> {
  const { arrive, parts } = title;
  if (!parts || count === 0) return [];
  const turns = partTurns(count, parts);
  if (parts.times.length > 0) {
    const last = parts.times[parts.times.length - 1];
    return turns.map((turn) => ({ begin: parts.times[turn] ?? last, frames: arrive.frames }));
  }
  const step = 1 - parts.overlap;
  const each = arrive.frames / (1 + (count - 1) * step);
  return turns.map((turn) => ({ begin: turn * step * each, frames: each }));
}
