import type { TraceLimits } from './passes.ts';

/** What a take's quality means to the tracer. */
export interface Quality {
  samples: number;
  /** Tiles noisier than `target` (relative error) get up to `most` samples. */
  adapt?: { target: number; most: number };
  limits: Omit<TraceLimits, 'exposureScale'>;
  denoise: boolean;
  clay: boolean;
  /** Keeps the passes for compositing, and steadies frames with their neighbours. */
  detail: boolean;
}

export const QUALITIES: Record<'clay' | 'draft' | 'final', Quality> = {
  clay: {
    samples: 6,
    limits: { maxDepth: 3, maxBounces: 2, clamp: 2 },
    denoise: true,
    clay: true,
    detail: false,
  },
  draft: {
    samples: 16,
    limits: { maxDepth: 12, maxBounces: 2, clamp: 2 },
    denoise: true,
    clay: false,
    detail: false,
  },
  final: {
    samples: 32,
    adapt: { target: 0.05, most: 128 },
    limits: { maxDepth: 24, maxBounces: 4, clamp: 2 },
    denoise: true,
    clay: false,
    detail: true,
  },
};
