/** Asks a worker for one thing at a time: what comes for an earlier question is let go. The worker is started with the first. */
export class LatestWorker<Request extends { id: number }, Reply extends { id: number }> {
  private worker: Worker | null = null;
  private asked = 0;

  constructor(
    private readonly start: () => Worker,
    private readonly answer: (reply: Reply) => void,
  ) {}

  ask(request: Omit<Request, 'id'>): void {
    if (!this.worker) {
      this.worker = this.start();
      this.worker.onmessage = ({ data }: MessageEvent<Reply>) => {
        if (data.id === this.asked) this.answer(data);
      };
    }
    this.worker.postMessage({ ...request, id: ++this.asked });
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}
