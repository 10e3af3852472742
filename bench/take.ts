import { availableParallelism } from 'node:os';
import { QUALITIES } from '@tender-orbit/core/trace';
import { medianMs, type Bench } from './bench.ts';
import { packedHero } from './demo-scene.ts';
import { kernelWith } from './kernel.ts';

export const takeBenches: Bench[] = [
  {
    name: 'take/draft-frames-per-minute',
    unit: 'frames/min',
    run: async () => {
      const { samples, limits } = QUALITIES.draft;
      const [width, height] = [480, 270];
      const ms = await medianMs(1, async () => {
        const tracer = kernelWith(await packedHero());
        const traced = tracer.traceFrame({
          width,
          height,
          samples,
          limits: { ...limits, exposureScale: 0.001 },
          frame: 24,
        });
        tracer.denoise(traced!);
      });
      const threads = availableParallelism();
      return {
        value: (60000 / ms) * threads,
        note: `${width} x ${height}, ${samples} samples, evaluated, packed, traced, denoised; ${threads} threads, taken as that many of one`,
      };
    },
  },
];
