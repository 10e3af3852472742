import { joinPieces, stretchSound, type Piece, type Sound } from '../audio/index.ts';
import type { MusicPart, MusicUse, PromoDocument } from '../document/index.ts';
import { pow } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';

type Edits = Pick<MusicUse, 'pieces' | 'stretch'>;

/** Nearer than this, seconds are the same. */
const SAME = 1e-6;

/** Where a second of the music file is heard in the music as it is edited: nowhere, or as often as its piece is played. */
export function editedSeconds({ pieces, stretch = 1 }: Edits, seconds: number): number[] {
  if (!pieces) return [seconds * stretch];
  let at = 0;
  return pieces.flatMap(({ from, to }) => {
    const here = seconds >= from - SAME && seconds < to - SAME ? [(at + seconds - from) * stretch] : [];
    at += to - from;
    return here;
  });
}

/** The second of the music file that is heard at a second of the music as it is edited; past its end it goes on. */
export function fileSeconds({ pieces, stretch = 1 }: Edits, seconds: number): number {
  let left = seconds / stretch;
  if (!pieces) return left;
  for (const { from, to } of pieces) {
    if (left < to - from) return from + left;
    left -= to - from;
  }
  return pieces[pieces.length - 1].to + left;
}

/** Seconds of the music file that a promo of so many seconds plays at most. */
export function heardOfMusic(use: Edits & Pick<MusicUse, 'trim'>, seconds: number): number {
  if (use.pieces) return Math.max(...use.pieces.map(({ to }) => to));
  return fileSeconds(use, use.trim + seconds);
}

/** The last edit made of each piece of music. */
const edited = new WeakMap<Sound, { key: string; sound: Sound }>();

/** The music with its bars cut or repeated, and stretched; itself where it is neither. The same object while it is kept. */
export function editedMusic(music: Sound, { pieces, stretch = 1 }: Edits): Sound {
  if (!pieces && stretch === 1) return music;
  const key = JSON.stringify([pieces, stretch]);
  const known = edited.get(music);
  if (known?.key === key) return known.sound;
  const sound = stretchSound(pieces ? joinPieces(music, pieces) : music, stretch);
  edited.set(music, { key, sound });
  return sound;
}

/** The parts of the music in seconds of the promo, in order. */
export function promoSections({ music }: Pick<PromoDocument, 'music'>): MusicPart[] {
  if (!music) return [];
  return music.sections
    .flatMap(({ from, to, kind }) =>
      editedSeconds(music, from).map((at) => ({
        ...{ kind, from: at - music.trim, to: at - music.trim + (to - from) * (music.stretch ?? 1) },
      })),
    )
    .sort((a, b) => a.from - b.from);
}

/** Seconds of the file at which its bars begin, as far as the music goes. */
export function barsOf({ beats, beatsPerBar, downbeat, tempo, firstBeat }: MusicUse, seconds: number): number[] {
  if (beats.length > 0) return beats.filter((_, i) => i >= downbeat && (i - downbeat) % beatsPerBar === 0);
  if (tempo <= 0) return [];
  const bar = (60 / tempo) * beatsPerBar;
  const count = Math.max(0, Math.floor((seconds - firstBeat) / bar) + 1);
  return Array.from({ length: count }, (_, i) => firstBeat + i * bar).filter((at) => at >= 0 && at < seconds);
}

/** Slots of a bar that are compared. */
const SLOTS = 16;

/** How a bar sounds: the level of its depths, middle and heights in slots, compressed as hearing does. */
function soundOfBar({ left, right, sampleRate }: Sound, from: number, to: number): Float64Array {
  const out = new Float64Array(SLOTS * 3);
  const [first, last] = [Math.round(from * sampleRate), Math.round(to * sampleRate)];
  let [low, middle] = [0, 0];
  for (let i = first; i < last; i++) {
    const v = (left[i] ?? 0) + (right[i] ?? 0);
    low += 0.02 * (v - low);
    middle += 0.25 * (v - middle);
    const slot = Math.min(SLOTS - 1, Math.floor(((i - first) / (last - first)) * SLOTS)) * 3;
    out[slot] += low * low;
    out[slot + 1] += (middle - low) * (middle - low);
    out[slot + 2] += (v - middle) * (v - middle);
  }
  return out.map((power) => pow(power / Math.max(1, last - first), 0.15));
}

const difference = (a: Float64Array, b: Float64Array): number =>
  Math.sqrt(a.reduce((sum, v, i) => sum + (v - b[i]) * (v - b[i]), 0));

/** The bars of music as they are known, how long each is, and how many of them are whole. */
function wholeBars(use: MusicUse, end: number, least: number): { bars: number[]; bar: number; count: number } {
  const bars = barsOf(use, end);
  if (bars.length < least)
    throw new Problem('promo/no-bars', 'Too few bars of this music are known: find its beats first.', use.name);
  const bar = (bars[bars.length - 1] - bars[0]) / (bars.length - 1);
  // What rings after the last beat of the music counts for no bar.
  return { bars, bar, count: bars.filter((at) => at + 0.75 * bar <= end).length };
}

/**
 * Music that begins again at its first bar each time that its bars are over, for as long as a promo: it has no end of its own then.
 * @param seconds of the promo. @returns null where the music is as long as that without.
 * @throws Problem `promo/no-bars` where its bars are not known.
 */
export function loopMusic(use: MusicUse, music: Sound, seconds: number): Piece[] | null {
  const end = music.left.length / music.sampleRate;
  const { bars, bar, count } = wholeBars(use, end, 2);
  const { stretch = 1, trim } = use;
  const wanted = (seconds + trim) / stretch;
  if (wanted <= end) return null;
  const over = bars[count] ?? Math.min(end, bars[count - 1] + bar);
  const pieces: Piece[] = [{ from: 0, to: over }];
  for (let length = over; length < wanted && pieces.length < MOST_PIECES; length += over - bars[0])
    pieces.push({ from: bars[0], to: over });
  return pieces;
}

/** Pieces that music may have. */
const MOST_PIECES = 500;

/** Gives music that loops as many rounds as a promo takes that has become so many seconds long. Changes its own pieces. */
export function keepLooping(use: MusicUse, seconds: number): void {
  const { loops, pieces, trim, stretch = 1 } = use;
  if (!loops || !pieces || pieces.length < 2) return;
  const [first, round] = pieces;
  const missing = (seconds + trim) / stretch - (first.to - first.from);
  // One round stays, to be played again when it is needed.
  const rounds = Math.min(MOST_PIECES, Math.max(1, Math.ceil(missing / (round.to - round.from) - SAME)));
  if (rounds !== pieces.length - 1) use.pieces = [first, ...Array.from({ length: rounds }, () => ({ ...round }))];
}

/**
 * Whole bars cut out or played again so that the music is as long as a promo, to a bar, and still ends as it ends: joined where the bar
 * that is left sounds most like the one that comes.
 * @param seconds of the promo. @returns null where the music fits as it is.
 * @throws Problem `promo/no-bars` where its bars are not known.
 */
export function fitMusic(use: MusicUse, music: Sound, seconds: number): Piece[] | null {
  const end = music.left.length / music.sampleRate;
  const { bars, bar, count } = wholeBars(use, end, 3);
  const { stretch = 1, trim } = use;
  const wanted = Math.max(2, Math.round(((seconds + trim) / stretch - bars[0]) / bar));
  if (wanted === count) return null;
  const sounds = bars.map((at, i) => soundOfBar(music, at, bars[i + 1] ?? Math.min(end, at + bar)));
  if (wanted < count) {
    const gone = count - wanted;
    const joins = Array.from({ length: wanted - 1 }, (_, i) => i + 1);
    const best = least(joins, (at) => difference(sounds[at], sounds[at + gone]));
    return [
      { from: 0, to: bars[best] },
      { from: bars[best + gone], to: end },
    ];
  }
  const more = wanted - count;
  const back = Math.min(more, count - 2);
  const joins = Array.from({ length: count - 1 - back }, (_, i) => i + back + 1).filter((at) => at < count);
  const best = least(joins.length > 0 ? joins : [back], (at) => difference(sounds[at] ?? sounds[0], sounds[at - back]));
  const pieces: Piece[] = [{ from: 0, to: bars[best] }];
  for (let left = more; left > 0; left -= back) {
    const again = Math.min(left, back);
    pieces.push({ from: bars[best - again], to: bars[best] });
  }
  return [...pieces, { from: bars[best], to: end }].reduce(merged, []);
}

/** Pieces that follow each other in the music are one. */
function merged(pieces: Piece[], next: Piece): Piece[] {
  const last = pieces.at(-1);
  if (last && Math.abs(last.to - next.from) < SAME) return [...pieces.slice(0, -1), { from: last.from, to: next.to }];
  return [...pieces, next];
}

const least = (of: readonly number[], cost: (value: number) => number): number =>
  of.reduce((best, value) => (cost(value) < cost(best) ? value : best), of[0]);
