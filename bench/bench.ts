/** One row of the table. */
export interface Bench {
  name: string;
  unit: string;
  run: () => Promise<{ value: number; note: string }>;
}

export const mean = (values: readonly number[]): number => values.reduce((n, v) => n + v, 0) / values.length;

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

/** Shortest milliseconds of each of several works that take turns: what disturbs the machine meets all alike. */
export async function inTurn(runs: number, works: readonly (() => unknown)[]): Promise<number[]> {
  const best = works.map(() => Infinity);
  for (let i = -1; i < runs; i++) {
    for (const [k, work] of works.entries()) {
      const start = performance.now();
      await work();
      if (i >= 0) best[k] = Math.min(best[k], performance.now() - start);
    }
  }
  return best;
}
