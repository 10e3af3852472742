import type { BodiesReply, BodiesRequest } from '../workers/bodies-worker.ts';
import type { ShatterReply, ShatterRequest } from '../workers/shatter-worker.ts';
import { LatestWorker } from './latest-worker.ts';

/** Asks for drops. The engine is loaded with the first. */
export const bodiesClient = (answer: (reply: BodiesReply) => void): LatestWorker<BodiesRequest, BodiesReply> =>
  new LatestWorker(
    () => new Worker(new URL('../workers/bodies-worker.ts', import.meta.url), { type: 'module' }),
    answer,
  );

/** Asks for products in pieces. */
export const shatterClient = (answer: (reply: ShatterReply) => void): LatestWorker<ShatterRequest, ShatterReply> =>
  new LatestWorker(
    () => new Worker(new URL('../workers/shatter-worker.ts', import.meta.url), { type: 'module' }),
    answer,
  );
