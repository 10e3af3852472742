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
}
