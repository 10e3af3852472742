import type { CompositeReply, CompositeRequest } from '../workers/composite-worker.ts';

/** Asks a worker for frames of a composite; what comes for an earlier question is shown only while nothing newer has come. */
export class CompositeClient {
  private readonly worker: Worker;
  private asked = 0;
  private shown = 0;

  constructor(show: (reply: CompositeReply) => void) {
    this.worker = new Worker(new URL('../workers/composite-worker.ts', import.meta.url), { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<CompositeReply>) => {
      if (data.id < this.shown) return;
      this.shown = data.id;
      show(data);
    };
  }

  ask(request: Omit<CompositeRequest, 'id'>): void {
    // Documents are proxies in here; a worker gets plain ones.
    const plain = JSON.parse(JSON.stringify(request)) as typeof request;
    this.worker.postMessage({ ...plain, id: ++this.asked } satisfies CompositeRequest);
  }

  /** Lets go of what is still to come. */
  forget(): void {
    this.shown = ++this.asked;
  }

  close(): void {
    this.worker.terminate();
  }
}
