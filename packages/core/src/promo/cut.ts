import type { Clip, PromoDocument } from '../document/index.ts';

/** Frames of the whole promo: its clips end to end, or the last title's end when that is later. */
export function promoLength(promo: PromoDocument): number {
  const clips = promo.clips.reduce((n, c) => n + c.length, 0);
  return promo.titles.reduce((n, t) => Math.max(n, t.start + t.length), clips);
}

export interface PlacedClip {
  clip: Clip;
  /** First promo frame of the clip. */
  from: number;
}

export function placedClips(promo: PromoDocument): PlacedClip[] {
  let from = 0;
  return promo.clips.map((clip) => {
    const placed = { clip, from };
    from += clip.length;
    return placed;
  });
}

/** Which frame of which take shows at a promo frame; null where there is no clip or the clip has no take. */
export function takeFrameAt(
  promo: PromoDocument,
  frame: number,
  takeLength: (take: string) => number,
): { take: string; frame: number } | null {
  const placed = placedClips(promo).find((p) => frame >= p.from && frame < p.from + p.clip.length);
  if (!placed || placed.clip.take === '') return null;
  const length = takeLength(placed.clip.take);
  if (length <= 0) return null;
  return { take: placed.clip.take, frame: Math.min(length - 1, placed.clip.start + frame - placed.from) };
}
