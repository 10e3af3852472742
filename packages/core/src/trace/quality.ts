import type { TraceLimits } from './passes.ts';

/** What a take's quality means to the tracer. */
export interface Quality {
  samples: number;
  /** Blocks of which more than `target` (relative error) would be left after denoising get up to `most` samples. */
  adapt?: { target: number; most: number };
  /** Samples of the first surface where print and edges are: see TraceOptions. */
  features: number;
  limits: Omit<TraceLimits, 'exposureScale'>;
  clay: boolean;
}

/** Raised when the same frame would come out as another picture: those from before are not shared with takes of today. */
export const PICTURES = 3;

export const QUALITIES: Record<'clay' | 'draft' | 'final', Quality> = {
  clay: {
    samples: 2,
    adapt: { target: 0.2, most: 8 },
    features: 16,
    limits: { maxDepth: 3, maxBounces: 2, clamp: 2 },
    clay: true,
  },
  draft: {
    samples: 3,
    adapt: { target: 0.16, most: 24 },
    features: 32,
    limits: { maxDepth: 24, maxBounces: 4, clamp: 2 },
    clay: false,
  },
  final: {
    samples: 8,
    adapt: { target: 0.035, most: 128 },
    features: 128,
    limits: { maxDepth: 24, maxBounces: 4, clamp: 2 },
    clay: false,
  },
};
