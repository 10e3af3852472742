import type { BodiesReply, BodiesRequest } from '../workers/bodies-worker.ts';

/** Asks for drops one at a time: what comes for an earlier one is let go. The engine is loaded with the first. */
export class BodiesClient {
  private worker: Worker | null = null;
  private asked = 0;

  constructor(private readonly answer: (reply: BodiesReply) => void) {}

  ask(request: Omit<BodiesRequest, 'id'>): void {
    this.worker ??= this.start();
    this.worker.postMessage({ ...request, id: ++this.asked } satisfies BodiesRequest);
  }

  private start(): Worker {
    const worker = new Worker(new URL('../workers/bodies-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<BodiesReply>) => {
      if (data.id === this.asked) this.answer(data);
    };
    return worker;
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}
