import type { TextRun } from './types.ts';

/** A stretch of a text that others take the place of: from its first letter to the one after its last, and how many come. */
export interface TextEdit {
  from: number;
  to: number;
  letters: number;
}

/**
 * Runs of a text after edits of it, which are in their order. What comes within a run or takes the place of its letters is of the run;
 * what comes at its ends is not, and a run whose letters are all gone goes.
 */
export function editedRuns(runs: readonly TextRun[], edits: readonly TextEdit[]): TextRun[] {
  const moved = (at: number, end: boolean): number => {
    let by = 0;
    for (const { from, to, letters } of edits) {
      const passed = end ? from < at && to <= at : to <= at;
      if (!passed) return from < at ? from + by + (end ? 0 : letters) : at + by;
      by += letters - (to - from);
    }
    return at + by;
  };
  return runs
    .map((run) => ({ ...run, from: moved(run.from, false), to: moved(run.to, true) }))
    .filter(({ from, to }) => from < to);
}

/** Runs of a text that is written anew: what is the same at its beginning and its end keeps them. */
export function heldRuns(runs: readonly TextRun[], before: string, after: string): TextRun[] {
  if (before === after || runs.length === 0) return [...runs];
  const most = Math.min(before.length, after.length);
  let head = 0;
  while (head < most && before[head] === after[head]) head++;
  let tail = 0;
  while (tail < most - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
  return editedRuns(runs, [{ from: head, to: before.length - tail, letters: after.length - tail - head }]);
}
