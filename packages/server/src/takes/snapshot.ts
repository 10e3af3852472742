import { renderedFor, takeLength, type TakeSnapshot } from '@tender-orbit/core/document';
import { AROUND } from '@tender-orbit/core/trace';

type Frames = Pick<TakeSnapshot, 'shot' | 'frames' | 'times' | 'quality'>;

/** Frames of the shot that a shutter may be open over, in frames of the take: a longer way is not a straight one. */
const MOST_OPEN = 2;

/** Frames of the shot from a frame of a take to the next, and from the one before. */
export function stepsOf({ times }: Pick<TakeSnapshot, 'times'>, frame: number): { next: number; last: number } {
  if (!times || times.length < 2) return { next: 1, last: 1 };
  const step = (n: number): number => times[n + 1] - times[n];
  const next = step(Math.min(times.length - 2, frame));
  return { next: Math.min(MOST_OPEN, next), last: frame > 0 ? step(frame - 1) : next };
}

/** The frames that a frame is developed from: itself and, where the take moves at its full rate, those near it. */
export function neighboursOf(frame: number, snapshot: Frames): number[] {
  const { frames, quality } = snapshot;
  if (quality === 'sketch') return [frame];
  if (frames && (frames.step > 1 || frames.first === frames.last)) return [frame];
  const [from, to] = [Math.max(0, frame - AROUND), Math.min(takeLength(snapshot) - 1, frame + AROUND)];
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}

/** For each frame of a take the one that is rendered for it. */
export function sourcesOf(snapshot: Frames): number[] {
  const { frames } = snapshot;
  return Array.from({ length: takeLength(snapshot) }, (_, frame) => (frames ? renderedFor(frame, frames) : frame));
}
