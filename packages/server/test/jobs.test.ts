import { expect } from 'chai';
import { pino } from 'pino';
import { Problem } from '@tender-orbit/core/problem';
import type { Database } from '../src/database/index.ts';
import {
  JobEvents,
  JobQueue,
  MOST_ATTEMPTS,
  ThreadDispatcher,
  type DispatcherOptions,
  type JobHandler,
  type NewJob,
} from '../src/jobs/index.ts';
import { until } from './harness.ts';
import { CAMPAIGN, emptyDatabase } from './jobs-database.ts';

const log = pino({ level: 'silent' });
const pause = (ms: number): Promise<void> => new Promise((next) => setTimeout(next, ms));

describe('server: jobs', () => {
  let db: Database;
  let queue: JobQueue;
  const running: ThreadDispatcher[] = [];

  beforeEach(async () => {
    db ??= await emptyDatabase();
    await db.run('DELETE FROM jobs');
    queue = new JobQueue(db, 1);
  });
  afterEach(async () => {
    await Promise.all(running.splice(0).map((d) => d.stop()));
  });
  after(() => db.close());

  const frames = (count: number, values: Partial<NewJob> = {}): NewJob[] =>
    Array.from({ length: count }, (_, part) => ({
      ...{ queue: 'render', kind: 'frame', campaign: CAMPAIGN, subject: 'take', part },
      ...values,
    }));
  const add = (jobs: readonly NewJob[], to = queue): Promise<void> => db.transaction((s) => to.add(s, jobs));
  const states = async (): Promise<Record<string, number>> =>
    Object.fromEntries(
      (await db.rows<{ state: string; n: number }>('SELECT state, COUNT(*) AS n FROM jobs GROUP BY state')).map((r) => [
        r.state,
        Number(r.n),
      ]),
    );
  const dispatcher = (
    handlers: Record<string, JobHandler>,
    { slots = { render: 1 }, ...options }: Partial<DispatcherOptions> = {},
    on = queue,
  ): ThreadDispatcher => {
    const made = new ThreadDispatcher(on, new JobEvents(), log, {
      ...{ handlers, slots, lookEvery: 50, beatEvery: 100 },
      ...options,
    });
    running.push(made);
    made.start();
    return made;
  };
  const ended = (): Promise<Record<string, number>> => until(states, (s) => !('waiting' in s) && !('working' in s), 30);

  it('the number of jobs at a time may change while they are done', async () => {
    await add(frames(12));
    let most = 2;
    let [at, seen] = [0, 0];
    const counts: number[] = [];
    dispatcher(
      {
        frame: async () => {
          counts.push(++at);
          if (++seen === 6) most = 1;
          await new Promise((next) => setTimeout(next, 20));
          at--;
        },
      },
      { slots: { render: () => most } },
    );
    await ended();
    expect(Math.max(...counts.slice(0, 6))).equal(2);
    // Of those under way one is ended before the next begins.
    expect(counts.slice(7)).deep.equal([1, 1, 1, 1, 1]);
  });

  it('two dispatchers share one take: every frame is done once, and both do some', async () => {
    await add(frames(40));
    const done = new Map<string, number[]>([
      ['a', []],
      ['b', []],
    ]);
    for (const [name, parts] of done)
      dispatcher(
        {
          frame: async ({ part }) => {
            parts.push(part);
            await pause(10);
          },
        },
        { slots: { render: 2 } },
        name === 'a' ? queue : new JobQueue(db, 1),
      );
    expect(await ended()).deep.equal({ done: 40 });
    const all = [...done.values()].flat().sort((x, y) => x - y);
    expect(all).deep.equal(Array.from({ length: 40 }, (_, i) => i));
    for (const [name, parts] of done) expect(parts.length, name).above(5);
  });

  it('a claim passes over what another is claiming in the same take, and waits for nobody', async () => {
    await add(frames(3));
    let release = (): void => undefined;
    const held = new Promise<void>((next) => (release = next));
    const other = db.transaction(async (statements) => {
      const row = await statements.one<{ part: number }>(
        "SELECT part FROM jobs FORCE INDEX (claimable) WHERE queue = 'render' AND state = 'waiting' AND waits = 0 ORDER BY priority, turn, id LIMIT 1 FOR UPDATE SKIP LOCKED",
      );
      await held;
      return row!.part;
    });
    await pause(100);
    const mine = await queue.claim('render', 'me');
    const next = await queue.claim('render', 'me');
    expect([mine!.part, next!.part]).deep.equal([1, 2]);
    expect(await queue.claim('render', 'me')).equal(null);
    release();
    expect(await other).equal(0);
  });

  it('a job that breaks is tried again and then said to have failed; all others go on', async () => {
    await add(frames(5));
    await add(frames(2, { subject: 'other' }));
    const tries: number[] = [];
    dispatcher({
      frame: async ({ subject, part }) => {
        if (subject !== 'take' || part !== 1) return;
        tries.push(part);
        throw new Error('The disk is full.');
      },
    });
    expect(await ended()).deep.equal({ done: 6, failed: 1 });
    expect(tries.length).equal(MOST_ATTEMPTS);
    const failed = await db.one<{ error: string; owner: string | null }>(
      "SELECT error, owner FROM jobs WHERE state = 'failed'",
    );
    // What broke is in the log; it may name folders of the server.
    expect(failed).deep.equal({ error: 'The server broke down at this: try it again.', owner: null });
  });

  it('what a person must mend is not tried again, and keeps its code', async () => {
    await add(frames(1));
    let tries = 0;
    dispatcher({
      frame: async () => {
        tries++;
        throw new Problem('picture/broken', 'Save it again as PNG.', 'label.png');
      },
    });
    expect(await ended()).deep.equal({ failed: 1 });
    expect(tries).equal(1);
    expect(await queue.stateOf('take')).deep.equal({
      state: 'failed',
      error: 'Save it again as PNG.',
      result: { code: 'picture/broken', thing: 'label.png' },
    });
    await queue.resume('take');
    expect(await ended()).deep.equal({ failed: 1 });
    expect(tries).equal(2);
  });

  it('a handler that throws at once, or a kind that nobody knows, leaves nothing working', async () => {
    await add([...frames(1), ...frames(1, { kind: 'unheard of', subject: 'x' })]);
    dispatcher({
      frame: () => {
        throw new TypeError('snapshot is undefined');
      },
    });
    expect(await ended()).deep.equal({ failed: 2 });
  });

  it('a claim that fails does not end the queue', async () => {
    await add(frames(3));
    const lame = new JobQueue(db, 1);
    const claim = lame.claim.bind(lame);
    let refused = 0;
    lame.claim = (...args) => (refused++ < 2 ? Promise.reject(new Error('Connection lost')) : claim(...args));
    dispatcher({ frame: async () => undefined }, {}, lame);
    expect(await ended()).deep.equal({ done: 3 });
    expect(refused).above(2);
  });

  it('a result that cannot be written comes back when its lease ends, and is done then', async () => {
    await add(frames(1));
    const lame = new JobQueue(db, 1);
    const finish = lame.finish.bind(lame);
    let written = 0;
    lame.finish = (...args) => (written++ === 0 ? Promise.reject(new Error('Connection lost')) : finish(...args));
    lame.fail = () => Promise.reject(new Error('Connection lost'));
    let done = 0;
    dispatcher({ frame: async () => void done++ }, {}, lame);
    expect(await ended()).deep.equal({ done: 1 });
    expect([done, written]).deep.equal([2, 2]);
  });

  it('a dead owner’s job goes to another, and what the dead one still brings is not taken', async () => {
    await add(frames(1));
    const dead = (await queue.claim('render', 'dead'))!;
    await pause(1200);
    dispatcher({ frame: async () => ({ result: 'from the living' }) });
    expect(await ended()).deep.equal({ done: 1 });
    expect(await queue.finish(dead.id, 'dead', { seconds: 1, result: 'from the dead' })).equal(false);
    expect((await queue.stateOf('take'))!.result).equal('from the living');
  });

  it('a job whose owners keep getting lost has failed, and says so', async () => {
    await add(frames(1));
    for (let i = 0; i < MOST_ATTEMPTS; i++) {
      expect(await queue.claim('render', `lost ${i}`)).not.equal(null);
      await pause(1100);
      await queue.reclaim();
    }
    const job = await queue.stateOf('take');
    expect(job!.state).equal('failed');
    expect(job!.error).match(/lost, more than once/);
  });

  it('a sign of life keeps a long job its owner’s', async () => {
    await add(frames(1));
    let runs = 0;
    const handlers = {
      frame: async () => {
        runs++;
        await pause(2500);
      },
    };
    dispatcher(handlers);
    dispatcher(handlers, {}, new JobQueue(db, 1));
    expect(await ended()).deep.equal({ done: 1 });
    expect(runs).equal(1);
  });

  it('jobs wait for those that must be done before, and hear when they are', async () => {
    const after = (part: number) => [part - 1, part, part + 1].filter((p) => p >= 0 && p < 6);
    await add([
      ...frames(6, { kind: 'trace' }),
      ...frames(6, { kind: 'develop', priority: 4 }).map((job) => ({
        ...job,
        after: after(job.part!).map((part) => ({ kind: 'trace', part })),
      })),
    ]);
    const traced = new Set<number>();
    const early: number[] = [];
    const order: string[] = [];
    dispatcher(
      {
        trace: async ({ part }) => {
          await pause(part === 2 ? 150 : 5);
          traced.add(part);
          order.push(`t${part}`);
        },
        develop: async ({ part }) => {
          if (!after(part).every((p) => traced.has(p))) early.push(part);
          order.push(`d${part}`);
        },
      },
      { slots: { render: 2 } },
    );
    expect(await ended()).deep.equal({ done: 12 });
    expect(early).deep.equal([]);
    // Pictures come as early as they can: the first is developed before the last is traced.
    expect(order.indexOf('d0')).below(order.indexOf('t5'));
  });

  it('what waits for something that failed does not run, until that is tried again', async () => {
    await add([
      ...frames(2, { kind: 'trace' }),
      ...frames(2, { kind: 'develop' }).map((job) => ({ ...job, after: [{ kind: 'trace', part: job.part! }] })),
    ]);
    let broken = true;
    const developed: number[] = [];
    dispatcher({
      trace: async ({ part }) => {
        if (part === 0 && broken) throw new Problem('x', 'No.');
      },
      develop: async ({ part }) => void developed.push(part),
    });
    await until(states, (s) => s.done === 2 && s.failed === 1, 20);
    await pause(200);
    expect(developed).deep.equal([1]);
    broken = false;
    await queue.resume('take');
    expect(await ended()).deep.equal({ done: 4 });
    expect(developed).deep.equal([1, 0]);
  });

  it('what is written with a result is written with it or not at all', async () => {
    await add([
      ...frames(1),
      ...frames(1, { kind: 'next' }).map((j) => ({ ...j, after: [{ kind: 'frame', part: 0 }] })),
    ]);
    const job = (await queue.claim('render', 'me'))!;
    await queue
      .finish(job.id, 'me', {
        seconds: 1,
        also: async (statements) => {
          await statements.run('UPDATE campaigns SET document = \'{"x":1}\'');
          throw new Error('halfway');
        },
      })
      .then(
        () => expect.fail('it was written'),
        (error: Error) => expect(error.message).equal('halfway'),
      );
    expect(await states()).deep.equal({ waiting: 1, working: 1 });
    expect(await db.one('SELECT document FROM campaigns')).deep.equal({ document: '{}' });
    expect(await queue.claim('render', 'me')).equal(null);
  });

  it('are held, go on, change places in the queue and are given up', async () => {
    await add(frames(3, { subject: 'first' }));
    await add(frames(3, { subject: 'second' }));
    await add(frames(1, { subject: 'third' }));
    await db.transaction((statements) => queue.reorder(statements, ['third', 'gone', 'first']));
    const whole = [];
    for (let n = 0; n < 7; n++) whole.push((await queue.claim('render', 'me'))!);
    // The second keeps its place between the two that changed theirs.
    expect(whole.map(({ subject }) => subject).join(' ')).equal('third second second second first first first');
    for (const { id } of whole) await queue.release(id, 'me');
    await queue.cancel('third');
    await queue.pause('first');
    expect((await queue.claim('render', 'me'))!.subject).equal('second');
    expect(await states()).deep.equal({ paused: 3, waiting: 2, working: 1 });
    await queue.cancel('second');
    expect(await queue.claim('render', 'me')).equal(null);
    await queue.resume('first');
    expect((await queue.claim('render', 'me'))!.subject).equal('first');
  });

  it('work that is dropped is aborted, wherever its job was held from', async () => {
    await add(frames(1));
    let aborted = 0;
    const handlers: Record<string, JobHandler> = {
      frame: (_job, { signal }) =>
        new Promise((_done, fail) => {
          signal.addEventListener('abort', () => {
            aborted++;
            fail(new Error('given up'));
          });
        }),
    };
    const here = dispatcher(handlers);
    await until(states, (s) => s.working === 1, 10);
    await queue.pause('take');
    await here.drop('take');
    expect([aborted, await states()]).deep.equal([1, { paused: 1 }]);
    // Held from another process: the next sign of life tells.
    await queue.resume('take');
    await until(states, (s) => s.working === 1, 10);
    await new JobQueue(db, 1).pause('take');
    await until(
      async () => aborted,
      (n) => n === 2,
      10,
    );
    expect(await states()).deep.equal({ paused: 1 });
  });

  it('a stopped server gives its work back without counting it as a try', async () => {
    await add(frames(1));
    const here = dispatcher({
      frame: (_job, { signal }) =>
        new Promise((_, fail) => signal.addEventListener('abort', () => fail(new Error('x')))),
    });
    await until(states, (s) => s.working === 1, 10);
    await here.stop();
    expect(await db.one('SELECT state, attempts, owner FROM jobs')).deep.equal({
      ...{ state: 'waiting', attempts: 0, owner: null },
    });
  });

  it('say how far they are', async () => {
    await add(frames(1));
    let go = (): void => undefined;
    dispatcher({
      frame: (_job, { progress }) => {
        progress(0.5);
        return new Promise((next) => (go = () => next()));
      },
    });
    const progress = async (): Promise<number> =>
      (await db.one<{ progress: number }>('SELECT progress FROM jobs'))!.progress;
    await until(progress, (p) => p === 0.5, 10);
    go();
    await ended();
    expect(await progress()).equal(1);
  });
});
