/** Keeps what workers are asked in the tests of the suite that calls it, instead of asking them; answers come from the test. */
export function heldWorkers<Request, Reply>(): {
  /** What was asked in the test, the latest last. */
  requests: Request[];
  /** Answers as the worker that was asked last. */
  reply: (data: Reply) => void;
  /** Fails as the worker that was asked last. */
  fail: () => void;
  /** Waits until something was asked: what calms down first takes its time. */
  asked: () => Promise<void>;
} {
  const requests: Request[] = [];
  const workers: Worker[] = [];
  const { postMessage } = Worker.prototype;
  beforeEach(() => {
    requests.length = 0;
    Worker.prototype.postMessage = function (this: Worker, request: never) {
      workers.push(this);
      requests.push(request);
    } as never;
  });
  afterEach(() => void (Worker.prototype.postMessage = postMessage));
  async function asked(): Promise<void> {
    for (let turn = 0; turn < 100 && requests.length === 0; turn++) await new Promise((done) => setTimeout(done, 30));
  }
  return {
    requests,
    asked,
    fail: () => workers.at(-1)!.onerror!(new ErrorEvent('error')),
    reply: (data) => workers.at(-1)!.onmessage!({ data } as MessageEvent),
  };
}
