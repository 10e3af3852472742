import type { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import { migrateTake, type TakeQuality, type TakeSnapshot } from '@tender-orbit/core/document';
import { QUALITIES } from '@tender-orbit/core/trace';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { startWorker, stopListening, type WorkerReply } from '../workers/index.ts';
import type { RenderJob } from './render-worker.ts';
import { AROUND, neighboursOf } from './snapshot.ts';
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
  /** What is done with it: all, or one half of a frame that is steadied with its neighbours. */
  task: 'frame' | 'trace' | 'develop';
}

/** States of a frame: waiting, working, (traced, developing,) done, failed. */
const BACK: Record<Claim['task'], string> = { frame: 'waiting', trace: 'waiting', develop: 'traced' };

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
    await this.db.run("UPDATE take_frames SET state = 'traced' WHERE state = 'developing'");
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
    for (const { claim } of this.busy.values()) await this.setState(claim, BACK[claim.task]);
    this.busy.clear();
  }

  private async pump(): Promise<void> {
    while (!this.stopping && this.busy.size < this.threads) {
      const claim = await this.claim();
      if (!claim) return;
      await this.give(claim);
    }
  }

  /**
   * Marks the next frame as taken: one whose neighbours are all traced is developed first, or else the oldest waiting one
   * begun. Other claimants skip rows that are being claimed.
   */
  private async claim(): Promise<Claim | null> {
    return this.db.transaction(async (connection) => {
      const next = async (where: string, state: string): Promise<(Claim & { quality: string }) | undefined> => {
        const [rows] = await connection.query(
          `SELECT f.take_id AS take, f.frame, t.quality FROM take_frames f JOIN takes t ON t.id = f.take_id
           WHERE t.state = 'rendering' AND ${where} ORDER BY t.created_at, f.frame LIMIT 1 FOR UPDATE SKIP LOCKED`,
        );
        const found = (rows as Array<Claim & { quality: string }>)[0];
        if (found) {
          await connection.query('UPDATE take_frames SET state = ? WHERE take_id = ? AND frame = ?', [
            state,
            found.take,
            found.frame,
          ]);
        }
        return found;
      };
      const ready = await next(
        `f.state = 'traced' AND NOT EXISTS (SELECT 1 FROM take_frames n WHERE n.take_id = f.take_id
           AND n.frame BETWEEN f.frame - ${AROUND} AND f.frame + ${AROUND} AND n.state IN ('waiting', 'working', 'failed'))`,
        'developing',
      );
      if (ready) return { take: ready.take, frame: ready.frame, task: 'develop' };
      const waiting = await next("f.state = 'waiting'", 'working');
      if (!waiting) return null;
      const { take, frame, quality } = waiting;
      return { take, frame, task: QUALITIES[quality as TakeQuality].detail ? 'trace' : 'frame' };
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
    const { take, frame, task } = claim;
    await this.files.makeFolder(take);
    const around = neighboursOf(frame, work.snapshot.shot.length);
    const job: RenderJob = {
      ...work,
      ...{ task, frame, exr: this.files.exrPath(take, frame) },
      raw: Object.fromEntries(around.map((f) => [f, this.files.rawPath(take, f)])),
    };
    worker.postMessage(job);
  }

  private async finish(claim: Claim, reply: WorkerReply<Uint8Array>, seconds: number): Promise<void> {
    if (!reply.ok) {
      await this.fail(claim, reply.problem.message);
      return;
    }
    const { take, frame, task } = claim;
    if (task === 'trace') {
      await this.db.run(
        "UPDATE take_frames SET state = 'traced', seconds = ?, error = NULL WHERE take_id = ? AND frame = ? AND state = 'working'",
        [seconds, take, frame],
      );
      return;
    }
    await this.files.write(take, frame, reply.value);
    await this.db.run(
      "UPDATE take_frames SET state = 'done', seconds = ? + IF(state = 'developing', seconds, 0), error = NULL WHERE take_id = ? AND frame = ?",
      [seconds, take, frame],
    );
    if (task === 'develop') await this.clearRaw(take, frame);
    await this.db.run(
      "UPDATE takes SET state = 'done' WHERE id = ? AND state = 'rendering' AND NOT EXISTS (SELECT 1 FROM take_frames WHERE take_id = takes.id AND state <> 'done')",
      [claim.take],
    );
  }

  /** Traced passes that no frame needs any more. */
  private async clearRaw(take: string, frame: number): Promise<void> {
    const rows = await this.db.rows<{ frame: number; state: string }>(
      'SELECT frame, state FROM take_frames WHERE take_id = ? AND frame BETWEEN ? AND ?',
      [take, frame - 2 * AROUND, frame + 2 * AROUND],
    );
    const done = new Map(rows.map((r) => [r.frame, r.state === 'done']));
    const near = Array.from({ length: 2 * AROUND + 1 }, (_, i) => i - AROUND);
    for (const f of near.map((d) => frame + d)) {
      if (done.has(f) && near.every((d) => done.get(f + d) ?? true)) await this.files.removeRaw(take, f);
    }
  }

  /** A worker died: its frame goes back, unless it has broken workers before. */
  private async retry(claim: Claim, message: string): Promise<void> {
    const key = `${claim.take} ${claim.frame}`;
    const tries = (this.tries.get(key) ?? 0) + 1;
    this.tries.set(key, tries);
    if (tries < TRIES) await this.setState(claim, BACK[claim.task]);
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
    await this.db.run(
      "UPDATE take_frames SET state = ? WHERE take_id = ? AND frame = ? AND state IN ('working', 'developing')",
      [state, claim.take, claim.frame],
    );
  }

  private async snapshotOf(take: string): Promise<{ snapshot: TakeSnapshot; paths: Record<string, string> }> {
    const known = this.snapshots.get(take);
    if (known) return known;
    const row = await this.db.one<{ snapshot: string }>('SELECT snapshot FROM takes WHERE id = ?', [take]);
    const snapshot = migrateTake(JSON.parse(row!.snapshot) as TakeSnapshot);
    const work = { snapshot, paths: filePaths(this.assets, snapshot) };
    this.snapshots.set(take, work);
    return work;
  }
}

/** Paths of the files that a set needs, models, art and panorama, by hash. */
export function filePaths(
  assets: AssetStore,
  { set, products }: Pick<TakeSnapshot, 'set' | 'products'>,
): Record<string, string> {
  const hashes = Object.values(products).flatMap((p) => [
    p.model,
    ...p.sheets.flatMap((s) => [s.picture.asset, ...(s.film ?? [])]),
    ...p.finishes.flatMap((f) => Object.values(f.textures).map((use) => use?.picture?.asset ?? '')),
  ]);
  const worn = set.surfaces.flatMap((s) =>
    Object.values(s.finish?.textures ?? {}).map((use) => use?.picture?.asset ?? ''),
  );
  return Object.fromEntries(
    [...hashes, ...worn, set.environment.room.asset].filter(Boolean).map((hash) => [hash, assets.path(hash)]),
  );
}
