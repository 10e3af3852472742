import type { LayerOf } from '../document/index.ts';

/** Seconds that a film's frame may begin late and still counts as there: moments are sums of fractions. */
const EARLY = 1e-6;

/** A frame of a film. */
export interface FilmFrame {
  list: string;
  frame: number;
}

/** What a frame of a film is known by. */
export const filmKey = ({ list, frame }: FilmFrame): string => `${list} ${frame}`;

/**
 * The frame that footage shows so many seconds after its span began: the one that is on at that moment, no mixture of two; null where it
 * shows nothing.
 */
export function filmFrame({ film, skip, pace, ends }: LayerOf<'footage'>, seconds: number): FilmFrame | null {
  if (!film) return null;
  const { list, frames, rate } = film;
  const at = Math.floor((skip + seconds * pace) * rate + EARLY);
  if (at >= 0 && at < frames) return { list, frame: at };
  switch (ends) {
    case 'nothing':
      return null;
    case 'loop':
      return { list, frame: ((at % frames) + frames) % frames };
    case 'hold':
      return { list, frame: at < 0 ? 0 : frames - 1 };
  }
}
