/** One row of the table. */
export interface Bench {
  name: string;
  unit: string;
  run: () => Promise<{ value: number; note: string }>;
}

/** Median milliseconds of `work` over `runs`, after one run that is not counted (it compiles). */
export async function medianMs(runs: number, work: () => unknown): Promise<number> {
  await work();
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await work();
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  return times[times.length >> 1];
}
