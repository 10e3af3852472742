import { QUALITIES } from '@tender-orbit/core/trace';
import { mean, type Bench } from './bench.ts';
import {
  gradientError,
  inner,
  OUTER,
  REFERENCE_SAMPLES,
  relativeError,
  similarity,
  square,
  withReference,
  type Crop,
} from './crops.ts';

/** Label text, the jar's foot, an outline out of focus and the lid's rim: where a picture is looked at closest. */
const CROPS: Crop[] = [
  { shot: 'hero', frame: 30, x: 370, y: 318 },
  { shot: 'hero', frame: 30, x: 346, y: 418 },
  { shot: 'hero', frame: 30, x: 664, y: 384 },
  { shot: 'hero', frame: 30, x: 540, y: 116 },
];

interface Measured {
  error: number;
  edges: number;
  similarity: number;
  /** Seconds to trace, one thread. */
  seconds: number;
  noisy: number;
  /** Light of the cleaned picture, and the true one. */
  light: [number, number];
}
let measured: Promise<Measured[]> | null = null;

async function measure(): Promise<Measured[]> {
  const all: Measured[] = [];
  const { samples, adapt, features } = QUALITIES.final;
  for (const crop of CROPS) {
    const { tracer, truth } = await withReference(crop);
    const start = performance.now();
    const passes = square(tracer, crop, OUTER, { samples, adapt, features });
    const seconds = (performance.now() - start) / 1000;
    const clean = inner(tracer.denoise(passes).beauty);
    all.push({
      error: relativeError(clean, truth),
      edges: gradientError(clean, truth),
      similarity: similarity(clean, truth),
      seconds,
      noisy: relativeError(inner(passes.beauty), truth),
      light: [mean([...clean]), mean([...truth])],
    });
  }
  return all;
}

const each = (values: readonly number[]): string => values.map((v) => (v * 1e4).toFixed(1)).join(', ');

export const edgeBenches: Bench[] = [
  {
    name: 'take/equal-error',
    unit: 'x 1e-4',
    run: async () => {
      const all = await (measured ??= measure());
      const errors = all.map((m) => m.error);
      return {
        value: mean(errors) * 1e4,
        note: `relative error of a final against ${REFERENCE_SAMPLES} samples at text, foot, outline, rim: ${each(errors)}; text alike by ${all[0].similarity.toFixed(4)}; ${all.reduce((n, m) => n + m.seconds, 0).toFixed(2)} s to trace`,
      };
    },
  },
  {
    name: 'take/edge-error',
    unit: 'x 1e-4',
    run: async () => {
      const edges = (await (measured ??= measure())).map((m) => m.edges);
      return { value: mean(edges) * 1e4, note: `the same of differences between neighbours: ${each(edges)}` };
    },
  },
  {
    name: 'take/brightness-bias',
    unit: '%',
    run: async () => {
      const all = await (measured ??= measure());
      const off = all.map(({ light: [seen, truth] }) => (seen / truth - 1) * 100);
      return {
        value: Math.max(...off.map(Math.abs)),
        note: `light of the cleaned crops over their references, the furthest off: ${off.map((v) => v.toFixed(2)).join(', ')}`,
      };
    },
  },
  {
    name: 'trace/equal-error-seconds',
    unit: 's',
    run: async () => {
      // Error falls as one over the time: this is the time at which it would be 0.01.
      const all = await (measured ??= measure());
      const seconds = all.map((m) => (m.seconds * m.noisy) / 0.01);
      return {
        value: mean(seconds),
        note: `one thread, before denoising, to a relative error of 0.01 over 112 x 112 pixels: ${seconds.map((s) => s.toFixed(2)).join(', ')}`,
      };
    },
  },
];
