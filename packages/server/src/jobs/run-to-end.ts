import { Problem } from '@tender-orbit/core/problem';
import type { Database } from '../database/index.ts';
import { newId } from '../ids.ts';
import type { JobDispatcher } from './dispatcher.ts';
import type { NewJob } from './job.ts';
import type { JobQueue } from './job-queue.ts';

export interface JobsContext {
  db: Database;
  jobs: JobQueue;
  dispatcher: JobDispatcher;
}

/** How often a request looks whether its job has ended, in ms. */
const LOOK_EVERY = 50;

/**
 * Queues a job and waits for what comes of it. It is a job like any other: it comes to its end even when whoever asked for
 * it is gone.
 * @param thing what the job is about, as a person knows it
 * @throws Problem with the job's own code and sentence when it fails, `job/dropped` when its campaign was removed
 */
export async function runToEnd<Result>(
  { db, jobs, dispatcher }: JobsContext,
  job: Omit<NewJob, 'subject'>,
  thing: string,
): Promise<Result> {
  const subject = newId();
  await db.transaction((statements) => jobs.add(statements, [{ ...job, subject }]));
  dispatcher.wake();
  for (;;) {
    const now = await jobs.stateOf(subject);
    if (!now) throw new Problem('job/dropped', `"${thing}" is no longer being read: bring it again.`, thing);
    if (now.state === 'done' || now.state === 'failed') {
      await jobs.cancel(subject);
      if (now.state === 'done') return now.result as Result;
      const refused = (now.result ?? {}) as { code?: string; thing?: string };
      throw new Problem(
        refused.code ?? 'job/failed',
        now.error ?? `"${thing}" could not be read: bring it again.`,
        refused.thing ?? thing,
      );
    }
    await new Promise((next) => setTimeout(next, LOOK_EVERY));
  }
}
