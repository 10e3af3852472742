import type { PromoDocument } from '@tender-orbit/core/document';
import type { FitReply, FitRequest } from '../workers/title-worker.ts';

/** A copy of a cut in another proportion, its titles measured and brought into its picture by a worker. */
export async function fittedCopy(before: PromoDocument, after: PromoDocument): Promise<PromoDocument> {
  if (after.titles.length === 0) return after;
  const worker = new Worker(new URL('../workers/title-worker.ts', import.meta.url), { type: 'module' });
  try {
    return await new Promise<PromoDocument>((done) => {
      worker.onmessage = ({ data }: MessageEvent<FitReply>) => done({ ...after, titles: data.titles });
      // Without measuring they are where their anchors are safe.
      worker.onerror = () => done(after);
      worker.postMessage({ key: after.name, before, after } satisfies FitRequest);
    });
  } finally {
    worker.terminate();
  }
}
