import { AROUND } from '@tender-orbit/core/trace';

/** The frames that a frame is developed from: itself and those near it. */
export function neighboursOf(frame: number, length: number): number[] {
  const [from, to] = [Math.max(0, frame - AROUND), Math.min(length - 1, frame + AROUND)];
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}
