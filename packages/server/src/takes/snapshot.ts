/** Frames on each side that a frame is steadied with. */
export const AROUND = 3;

/** The frames that a frame is developed from: itself and those near it. */
export function neighboursOf(frame: number, length: number): number[] {
  const [from, to] = [Math.max(0, frame - AROUND), Math.min(length - 1, frame + AROUND)];
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}
