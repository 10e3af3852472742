import type { ProductDocument, SetDocument, ShotDocument, TakeQuality } from '@tender-orbit/core/document';

/** Everything a take is rendered from, as it was when the take was started: later edits do not touch it. */
export interface TakeSnapshot {
  set: SetDocument;
  shot: ShotDocument;
  /** Products of the set by id. */
  products: Record<string, ProductDocument>;
  quality: TakeQuality;
  width: number;
  height: number;
  /** Samples a pixel; 0 takes the quality's own. */
  samples: number;
  /** Keeps all passes of each frame as a layered OpenEXR file. */
  passes?: boolean;
  /** Only this part of the picture is rendered, in shares of it; the rest stays black. */
  region?: { x0: number; y0: number; x1: number; y1: number };
}

/** Frames on each side that a frame is steadied with. */
export const AROUND = 3;

/** The frames that a frame is developed from: itself and those near it. */
export function neighboursOf(frame: number, length: number): number[] {
  const [from, to] = [Math.max(0, frame - AROUND), Math.min(length - 1, frame + AROUND)];
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}
