import { expect } from 'chai';
import { pino } from 'pino';
import { Problem } from '@tender-orbit/core/problem';
import type { Database } from '../src/database/index.ts';
import { JobEvents, JobQueue, runToEnd, ThreadDispatcher, type JobHandler } from '../src/jobs/index.ts';
import { until } from './harness.ts';
import { CAMPAIGN, emptyDatabase } from './jobs-database.ts';

describe('server: jobs that somebody waits for', () => {
  let db: Database;
  let jobs: JobQueue;
  const handlers: Record<string, JobHandler> = {};
  let dispatcher: ThreadDispatcher | undefined;

  before(async () => {
    db = await emptyDatabase();
    jobs = new JobQueue(db, 1);
  });
  after(async () => {
    await dispatcher?.stop();
    await db.close();
  });

  it('give whoever waits for one its result or its reason, and leave no row behind', async () => {
    const options = { handlers, slots: { import: 1 }, lookEvery: 50, beatEvery: 100 };
    const working = (dispatcher = new ThreadDispatcher(jobs, new JobEvents(), pino({ level: 'silent' }), options));
    working.start();
    const asked = (payload: unknown): Promise<unknown> => {
      const job = { queue: 'import', kind: 'sound', campaign: CAMPAIGN, payload } as const;
      return runToEnd({ db, jobs, dispatcher: working }, job, 'tune.wav');
    };
    let given: AbortSignal | undefined;
    handlers.sound = async ({ payload }, { signal }) => {
      if (payload === 'broken') throw new Problem('sound/broken', '"tune.wav" is broken: save it again.', 'tune.wav');
      given = signal;
      if (payload === 'long') await until(async () => signal.aborted, Boolean, 30);
      return { result: { seconds: 4 } };
    };
    expect(await asked('whole')).deep.equal({ seconds: 4 });
    const reason = (promise: Promise<unknown>): Promise<Problem> =>
      promise.then(
        () => expect.fail('it came to an end'),
        (error: Problem) => error,
      );
    expect(await reason(asked('broken'))).include({
      code: 'sound/broken',
      message: '"tune.wav" is broken: save it again.',
    });
    expect(await db.rows('SELECT id FROM jobs')).deep.equal([]);
    // Its campaign was removed meanwhile.
    given = undefined;
    const waiting = reason(asked('long'));
    await until(async () => given, Boolean, 30);
    await db.run('DELETE FROM jobs');
    expect((await waiting).code).equal('job/dropped');
    await until(async () => given!.aborted, Boolean, 30);
    await working.stop();
  });

  it('imports whose answer nobody fetched go after a day, nothing else does', async () => {
    const endings = [
      ['import', 'done', 25],
      ['import', 'failed', 25],
      ['import', 'done', 23],
      ['import', 'waiting', 25],
      ['render', 'done', 25],
    ] as const;
    const old = endings.map(([queue], part) => ({ queue, kind: 'other', campaign: CAMPAIGN, subject: 'old', part }));
    await db.transaction((statements) => jobs.add(statements, old));
    for (const [part, [, state, hours]] of endings.entries())
      await db.run('UPDATE jobs SET state = ?, updated_at = NOW(3) - INTERVAL ? HOUR WHERE part = ?', [
        state,
        hours,
        part,
      ]);
    await jobs.forgetUnfetched();
    const left = await db.rows<{ part: number }>('SELECT part FROM jobs ORDER BY part');
    expect(left.map((row) => row.part)).deep.equal([2, 3, 4]);
  });
});
