import { renderedFor, type TakeSnapshot } from '@tender-orbit/core/document';
import { AROUND } from '@tender-orbit/core/trace';

type Frames = Pick<TakeSnapshot, 'shot' | 'frames'>;

/** The frames that a frame is developed from: itself and, where the take moves at its full rate, those near it. */
export function neighboursOf(frame: number, { shot, frames }: Frames): number[] {
  if (frames && (frames.step > 1 || frames.first === frames.last)) return [frame];
  const [from, to] = [Math.max(0, frame - AROUND), Math.min(shot.length - 1, frame + AROUND)];
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}

/** For each frame of a take the one that is rendered for it. */
export function sourcesOf({ shot, frames }: Frames): number[] {
  return Array.from({ length: shot.length }, (_, frame) => (frames ? renderedFor(frame, frames) : frame));
}
