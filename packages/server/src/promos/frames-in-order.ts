/** Frames that a thread makes one after the other, so that what they share is read once. */
const RUN = 4;

/** Makes frames from one to before another into memory that threads share, one after the other. */
export type MakeFrames = (from: number, to: number, into: Uint8Array<SharedArrayBuffer>) => Promise<unknown>;

/**
 * Frames 0 to `count`, made by several threads at a time and handed on in their order. Each is good until the next one is asked for; no
 * more are made ahead than a second run for each thread.
 * @param bytes of a frame. @throws what `make` threw for one of them.
 */
export async function* framesInOrder(
  count: number,
  bytes: number,
  threads: number,
  make: MakeFrames,
): AsyncGenerator<Uint8Array<SharedArrayBuffer>> {
  const runs = Math.ceil(count / RUN);
  const rooms = Array.from(
    { length: Math.min(runs, threads * 2) },
    () => new Uint8Array(new SharedArrayBuffer(bytes * RUN)),
  );
  const started: Array<Promise<unknown>> = [];
  const start = (run: number): void => {
    if (run >= runs) return;
    const made = make(run * RUN, Math.min(count, (run + 1) * RUN), rooms[run % rooms.length]);
    // It is asked for later; until then its failure is no one's.
    made.catch(() => undefined);
    started[run] = made;
  };
  for (let run = 0; run < rooms.length; run++) start(run);
  for (let run = 0; run < runs; run++) {
    await started[run];
    const room = rooms[run % rooms.length];
    for (let k = 0; k < Math.min(RUN, count - run * RUN); k++) yield room.subarray(k * bytes, (k + 1) * bytes);
    start(run + rooms.length);
  }
}
