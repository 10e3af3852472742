import type { TraceLimits } from './path.ts';

/** What a take's quality means to the tracer. */
export interface Quality {
  samples: number;
  limits: Omit<TraceLimits, 'exposureScale'>;
  denoise: boolean;
  clay: boolean;
}

export const QUALITIES: Record<'clay' | 'draft' | 'final', Quality> = {
  clay: { samples: 6, limits: { maxDepth: 3, maxBounces: 2, clamp: 4 }, denoise: true, clay: true },
  draft: { samples: 16, limits: { maxDepth: 12, maxBounces: 2, clamp: 4 }, denoise: true, clay: false },
  final: { samples: 64, limits: { maxDepth: 24, maxBounces: 4, clamp: 8 }, denoise: true, clay: false },
};
