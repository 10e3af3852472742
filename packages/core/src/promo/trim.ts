import {
  FASTEST_PACE,
  PROMO_LIMITS,
  type Clip,
  type ClipChange,
  type Pace,
  type PromoDocument,
} from '../document/index.ts';
import { clamp } from '../maths/index.ts';
import { framesPlayed, halvesOf, shiftedPace } from './pace.ts';

/** Its beginning so many frames earlier: its change of speed goes on as it was. */
function earlier(clip: Clip, by: number): { start: number; pace?: Pace } {
  const { start, length, pace } = clip;
  if (!pace) return { start: start - by };
  if (pace.points)
    return {
      start: pace.reverse ? start : start + framesPlayed(clip, -by),
      pace: shiftedPace(pace, by, length + by),
    };
  const slope = (pace.to - pace.from) / length;
  const from = pace.from - slope * by;
  return { start: pace.reverse ? start : start - (pace.from - (slope * by) / 2) * by, pace: { ...pace, from } };
}

/** How many frames a clip's beginning may go back before its take begins, or its speed turns. */
function roomBefore(clip: Clip): number {
  let by = 0;
  for (; by < PROMO_LIMITS.frames; by++) {
    const { start, pace } = earlier(clip, by + 1);
    if (start < -1e-6 || (pace && (pace.from < 0 || pace.from > FASTEST_PACE))) break;
  }
  return by;
}

/**
 * A clip that begins so many frames later, or earlier where that is below 0: what is seen at all others stays the same, and its keys
 * with it. It keeps a frame, and does not begin before its take does.
 */
export function trimStart(clip: Clip, by: number): ClipChange {
  const shift = clamp(Math.round(by), -roomBefore(clip), clip.length - 1);
  const { id, length } = clip;
  if (shift === 0) return { id, values: {} };
  if (shift > 0) return { id, values: { ...halvesOf(clip, shift)[1], length: length - shift }, shift };
  const { start, ...rest } = earlier(clip, -shift);
  return { id, values: { ...rest, start: Math.max(0, Math.round(start)), length: length - shift }, shift };
}

/** The cut before a clip moves by so many frames; all others stay where they are. */
export function rollCut({ clips }: PromoDocument, id: string, by: number): ClipChange[] {
  const n = clips.findIndex((c) => c.id === id);
  if (n < 1) return [];
  const [before, after] = [clips[n - 1], clips[n]];
  const change = trimStart(after, clamp(by, 1 - before.length, after.length - 1));
  const moved = change.shift ?? 0;
  return moved === 0 ? [] : [{ id: before.id, values: { length: before.length + moved } }, change];
}

/** Shows other frames of the take in the same place: so many frames of the take later. @param takeLength of the take. */
export function slipClip(clip: Clip, by: number, takeLength: number): ClipChange {
  const most = Math.max(0, Math.floor(takeLength - framesPlayed(clip)));
  return { id: clip.id, values: { start: clamp(Math.round(clip.start + by), 0, Math.max(most, clip.start)) } };
}

/** Carries a clip along between its neighbours, which give way: it shows what it showed, and the promo keeps its length. */
export function slideClip({ clips }: PromoDocument, id: string, by: number): ClipChange[] {
  const n = clips.findIndex((c) => c.id === id);
  const [before, after] = [clips[n - 1], clips[n + 1]];
  if (n < 1 || !after) return [];
  const change = trimStart(after, clamp(Math.round(by), 1 - before.length, after.length - 1));
  const moved = change.shift ?? 0;
  return moved === 0 ? [] : [{ id: before.id, values: { length: before.length + moved } }, change];
}
