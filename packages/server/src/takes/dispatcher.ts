import type { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { startWorker, stopListening, type WorkerReply } from '../workers/index.ts';
import type { RenderJob } from './render-worker.ts';
import type { TakeSnapshot } from './snapshot.ts';
import type { TakeFiles } from './take-files.ts';

/** Hands waiting frames to whoever renders them. This machine's threads are one way to serve it. */
export interface FrameDispatcher {
  /** Takes frames left half-done by a stopped server back into the queue and begins. */
  start(): Promise<void>;
  /** There may be new frames. */
  wake(): void;
  /** A take was stopped or deleted: work on its frames is given up. */
  drop(take: string): void;
  /** Gives up what is being worked on; those frames go back to the queue. */
  stop(): Promise<void>;
}

const WORKER = new URL('./render-worker.ts', import.meta.url);
/** A frame that breaks its worker this often is marked as failed. */
const TRIES = 2;

interface Claim {
  take: string;
  frame: number;
}

/** Serves the queue with worker threads of this process. */
export class ThreadDispatcher implements FrameDispatcher {
  private readonly busy = new Map<number, { worker: Worker; claim: Claim }>();
  private readonly idle: Worker[] = [];
  private readonly tries = new Map<string, number>();
  private readonly snapshots = new Map<string, { snapshot: TakeSnapshot; paths: Record<string, string> }>();
  private stopping = false;
  private pumping: Promise<void> | null = null;
  private again = false;
  private readonly finishing = new Set<Promise<void>>();

  constructor(
    private readonly db: Database,
    private readonly assets: AssetStore,
    private readonly files: TakeFiles,
    private readonly threads: number,
    private readonly log: Logger,
  ) {}

  async start(): Promise<void> {
    await this.db.run("UPDATE take_frames SET state = 'waiting' WHERE state = 'working'");
    this.wake();
  }

  wake(): void {
    if (this.stopping) return;
    if (this.pumping) {
      this.again = true;
      return;
    }
    this.pumping = this.pump()
      .catch((error: unknown) => this.log.error({ err: error }, 'render queue'))
      .finally(() => {
        this.pumping = null;
        if (this.again) {
          this.again = false;
          this.wake();
        }
      });
  }

  drop(take: string): void {
    this.snapshots.delete(take);
    for (const [id, { worker, claim }] of this.busy) {
      if (claim.take !== take) continue;
      this.busy.delete(id);
      stopListening(worker);
      void worker.terminate();
    }
    this.wake();
  }

  async stop(): Promise<void> {
    this.stopping = true;
    await this.pumping;
    const workers = [...this.idle, ...[...this.busy.values()].map((b) => b.worker)];
    workers.forEach(stopListening);
    await Promise.all(workers.map((w) => w.terminate()));
    await Promise.all(this.finishing);
    for (const { claim } of this.busy.values()) await this.setState(claim, 'waiting');
    this.busy.clear();
  }

  private async pump(): Promise<void> {
    while (!this.stopping && this.busy.size < this.threads) {
      const claim = await this.claim();
      if (!claim) return;
      await this.give(claim);
    }
  }

  /** Marks the oldest waiting frame as taken. Other claimants skip rows that are being claimed. */
  private async claim(): Promise<Claim | null> {
    return this.db.transaction(async (connection) => {
      const [rows] = await connection.query(
        `SELECT f.take_id AS take, f.frame FROM take_frames f JOIN takes t ON t.id = f.take_id
         WHERE f.state = 'waiting' AND t.state = 'rendering' ORDER BY t.created_at, f.frame LIMIT 1 FOR UPDATE SKIP LOCKED`,
      );
      const claim = (rows as Claim[])[0];
      if (!claim) return null;
      await connection.query("UPDATE take_frames SET state = 'working' WHERE take_id = ? AND frame = ?", [
        claim.take,
        claim.frame,
      ]);
      return claim;
    });
  }

  private async give(claim: Claim): Promise<void> {
    const work = await this.snapshotOf(claim.take);
    const worker = this.idle.pop() ?? startWorker(WORKER);
    const id = worker.threadId;
    const started = performance.now();
    this.busy.set(id, { worker, claim });
    const end = (then: () => Promise<void>, keep: boolean): void => {
      stopListening(worker);
      this.busy.delete(id);
      if (keep && !this.stopping) this.idle.push(worker);
      const done = then()
        .catch((error: unknown) => this.log.error({ err: error }, 'finishing a frame'))
        .finally(() => {
          this.finishing.delete(done);
          this.wake();
        });
      this.finishing.add(done);
    };
    worker.on('message', (reply: WorkerReply<Uint8Array>) =>
      end(() => this.finish(claim, reply, (performance.now() - started) / 1000), true),
    );
    worker.on('error', (error: Error) => end(() => this.retry(claim, error.message), false));
    const job: RenderJob = { task: 'frame', frame: claim.frame, ...work };
    worker.postMessage(job);
  }

  private async finish(claim: Claim, reply: WorkerReply<Uint8Array>, seconds: number): Promise<void> {
    if (!reply.ok) {
      await this.fail(claim, reply.problem.message);
      return;
    }
    await this.files.write(claim.take, claim.frame, reply.value);
    await this.db.run(
      "UPDATE take_frames SET state = 'done', seconds = ?, error = NULL WHERE take_id = ? AND frame = ?",
      [seconds, claim.take, claim.frame],
    );
    await this.db.run(
      "UPDATE takes SET state = 'done' WHERE id = ? AND state = 'rendering' AND NOT EXISTS (SELECT 1 FROM take_frames WHERE take_id = takes.id AND state <> 'done')",
      [claim.take],
    );
  }

  /** A worker died: its frame goes back, unless it has broken workers before. */
  private async retry(claim: Claim, message: string): Promise<void> {
    const key = `${claim.take} ${claim.frame}`;
    const tries = (this.tries.get(key) ?? 0) + 1;
    this.tries.set(key, tries);
    if (tries < TRIES) await this.setState(claim, 'waiting');
    else await this.fail(claim, message);
  }

  private async fail(claim: Claim, message: string): Promise<void> {
    await this.db.run("UPDATE take_frames SET state = 'failed', error = ? WHERE take_id = ? AND frame = ?", [
      message.slice(0, 500),
      claim.take,
      claim.frame,
    ]);
    await this.db.run("UPDATE takes SET state = 'failed', error = ? WHERE id = ?", [
      `Frame ${claim.frame + 1}: ${message}`.slice(0, 500),
      claim.take,
    ]);
  }

  private async setState(claim: Claim, state: string): Promise<void> {
    await this.db.run("UPDATE take_frames SET state = ? WHERE take_id = ? AND frame = ? AND state = 'working'", [
      state,
      claim.take,
      claim.frame,
    ]);
  }

  private async snapshotOf(take: string): Promise<{ snapshot: TakeSnapshot; paths: Record<string, string> }> {
    const known = this.snapshots.get(take);
    if (known) return known;
    const row = await this.db.one<{ snapshot: string }>('SELECT snapshot FROM takes WHERE id = ?', [take]);
    const snapshot = JSON.parse(row!.snapshot) as TakeSnapshot;
    const work = { snapshot, paths: modelPaths(this.assets, snapshot) };
    this.snapshots.set(take, work);
    return work;
  }
}

export function modelPaths(assets: AssetStore, snapshot: TakeSnapshot): Record<string, string> {
  return Object.fromEntries(Object.values(snapshot.products).map((p) => [p.model, assets.path(p.model)]));
}
