import { fork, type ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { Problem, type ProblemDetails } from '@tender-orbit/core/problem';

const BOOT = fileURLToPath(new URL('./boot.mjs', import.meta.url));
/** How often a child's memory is looked at, ms. */
const WATCH_EVERY = 50;
/** Seconds that a child may take to load its code, on a machine that is busy. */
const START_SECONDS = 60;
/** Page of the kernel's memory accounting, bytes. */
const PAGE = 4096;

export interface ChildPoolOptions {
  /** Children at work at a time; the rest wait in turn. */
  atOnce?: number;
  /** Megabytes of resident memory that a child may have. */
  memoryMb?: number;
  /** A child that has more than this when it is done is ended, so that its memory goes back. */
  keepMb?: number;
  /** Milliseconds that an idle child is kept. */
  idleMs?: number;
}

export interface ChildRunOptions {
  signal?: AbortSignal;
  /** Seconds it may take. */
  seconds: number;
  /** What is said when it takes longer or more memory, and when it breaks down. */
  tooHeavy: Problem;
}

type Reply = { ok: true; value: unknown } | { ok: false; problem?: ProblemDetails; reason?: string };

interface Child {
  process: ChildProcess;
  /** Whether it has loaded what it works with; false when it ended before. */
  ready: Promise<boolean>;
  idle?: NodeJS.Timeout;
}

/**
 * Processes that read what strangers made. Each has a limit of time and of resident memory, which counts what limits of
 * threads do not: buffers and native code. What it has taken goes back with it.
 */
export class ChildPool<Task extends object> {
  private readonly children = new Set<Child>();
  private readonly spare: Child[] = [];
  private readonly waiting: Array<() => void> = [];
  private working = 0;
  private closed = false;
  private readonly options: Required<ChildPoolOptions>;
  /** Most resident memory that a child has had, MB. */
  peakMb = 0;

  constructor(
    private readonly url: URL,
    options: ChildPoolOptions = {},
  ) {
    this.options = { atOnce: 2, memoryMb: 2600, keepMb: 320, idleMs: 60_000, ...options };
  }

  /** Gets a child ready, so that the next task does not wait for it. */
  warm(): void {
    if (this.closed || this.spare.length > 0 || this.children.size >= this.options.atOnce) return;
    this.rest(this.start());
  }

  /** @throws Problem what the work reported, or `tooHeavy`; AbortError when given up. */
  async run<Result>(task: Task, options: ChildRunOptions): Promise<Result> {
    await this.turn(options.signal);
    try {
      options.signal?.throwIfAborted();
      return await this.work<Result>(task, options);
    } finally {
      // The place is handed on, or given back.
      const next = this.waiting.shift();
      if (next) next();
      else this.working--;
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    await Promise.all([...this.children].map((child) => this.end(child)));
  }

  /** Waits for a place. @throws AbortError when given up before there was one. */
  private async turn(signal?: AbortSignal): Promise<void> {
    if (this.working < this.options.atOnce) {
      this.working++;
      return;
    }
    await new Promise<void>((done, fail) => {
      const take = (): void => {
        signal?.removeEventListener('abort', leave);
        done();
      };
      const leave = (): void => {
        this.waiting.splice(this.waiting.indexOf(take), 1);
        fail(signal!.reason as Error);
      };
      this.waiting.push(take);
      if (signal?.aborted) leave();
      else signal?.addEventListener('abort', leave, { once: true });
    });
  }

  private async work<Result>(task: Task, { signal, seconds, tooHeavy }: ChildRunOptions): Promise<Result> {
    const child = this.spare.pop() ?? this.start();
    clearTimeout(child.idle);
    child.process.ref();
    child.process.channel?.ref();
    // Loading its code is not the task's time.
    if (!(await child.ready)) throw tooHeavy;
    if (signal?.aborted) {
      await this.release(child);
      signal.throwIfAborted();
    }
    return new Promise<Result>((resolve, reject) => {
      const settle = (): void => {
        clearInterval(watch);
        clearTimeout(limit);
        signal?.removeEventListener('abort', onAbort);
        child.process.off('message', onReply).off('exit', onExit).off('error', fail);
      };
      const fail = (error: Error): void => {
        settle();
        void this.end(child);
        reject(error);
      };
      const onAbort = (): void => fail(signal!.reason as Error);
      const onExit = (): void => fail(tooHeavy);
      const onReply = (reply: Reply): void => {
        settle();
        void this.release(child).then(() => {
          if (reply.ok) resolve(reply.value as Result);
          else if (reply.problem) reject(new Problem(reply.problem.code, reply.problem.message, reply.problem.thing));
          else reject(new Error(reply.reason ?? 'a reader failed'));
        });
      };
      const watch = setInterval(() => {
        void memoryOf(child.process).then((mb) => {
          this.peakMb = Math.max(this.peakMb, mb);
          if (mb > this.options.memoryMb) fail(tooHeavy);
        });
      }, WATCH_EVERY);
      const limit = setTimeout(() => fail(tooHeavy), seconds * 1000);
      signal?.addEventListener('abort', onAbort);
      child.process.on('message', onReply).on('exit', onExit).on('error', fail);
      child.process.send(task, (error) => error && fail(error));
    });
  }

  private start(): Child {
    const forked = fork(BOOT, [this.url.href], {
      serialization: 'advanced',
      execArgv: [`--max-old-space-size=${this.options.memoryMb}`],
      // What reads strangers' files needs none of the server's secrets.
      env: { PATH: process.env.PATH, HOME: process.env.HOME, TMPDIR: process.env.TMPDIR },
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    const ready = new Promise<boolean>((done) => {
      forked.once('message', () => done(true));
      forked.once('exit', () => done(false));
      setTimeout(() => done(false), START_SECONDS * 1000).unref();
    });
    const child: Child = { process: forked, ready };
    this.children.add(child);
    child.process.on('exit', () => this.forget(child));
    child.process.on('error', () => undefined);
    return child;
  }

  /** A child that has grown is ended; others are kept for a while. */
  private async release(child: Child): Promise<void> {
    const mb = await memoryOf(child.process);
    this.peakMb = Math.max(this.peakMb, mb);
    if (this.closed || mb > this.options.keepMb || this.spare.length >= this.options.atOnce) await this.end(child);
    else this.rest(child);
  }

  private rest(child: Child): void {
    child.process.unref();
    child.process.channel?.unref();
    child.idle = setTimeout(() => void this.end(child), this.options.idleMs);
    child.idle.unref();
    this.spare.push(child);
  }

  private forget(child: Child): void {
    this.children.delete(child);
    const at = this.spare.indexOf(child);
    if (at >= 0) this.spare.splice(at, 1);
  }

  private async end(child: Child): Promise<void> {
    clearTimeout(child.idle);
    this.forget(child);
    if (child.process.exitCode !== null || child.process.signalCode !== null) return;
    const gone = new Promise<void>((done) => child.process.once('exit', () => done()));
    child.process.kill('SIGKILL');
    await gone;
  }
}

/** Resident memory of a process in MB; 0 when it is gone, or where the system does not tell. */
async function memoryOf({ pid }: ChildProcess): Promise<number> {
  try {
    const [, resident] = (await readFile(`/proc/${pid}/statm`, 'utf8')).split(' ');
    return (Number(resident) * PAGE) / 1024 / 1024;
  } catch {
    return 0;
  }
}
