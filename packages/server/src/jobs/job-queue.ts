import { shortened } from '@tender-orbit/core/text';
import { Problem } from '@tender-orbit/core/problem';
import type { Database, Statements } from '../database/index.ts';
import { LEASE_SECONDS, MOST_ATTEMPTS, type Job, type NewJob, type Queue } from './job.ts';

interface Row extends Omit<Job, 'payload'> {
  payload: string | null;
}

const BROKE_DOWN = 'The server broke down at this: try it again.';

/**
 * The job table and its states: waiting -> working -> done or failed, with paused beside waiting. Every step is one short
 * transaction that says which state it leads out of, so that it happens once whoever else tries. Knows nothing of files
 * or of how work is done.
 */
export class JobQueue {
  constructor(
    private readonly db: Database,
    private readonly leaseSeconds = LEASE_SECONDS,
  ) {}

  /** Adds jobs, in the order they should be taken. Runs in the caller's transaction. */
  async add(statements: Statements, jobs: readonly NewJob[]): Promise<void> {
    const ids = new Map<string, number>();
    const turns = new Map<string, number>();
    const waits: Array<[number, number]> = [];
    for (const job of jobs) {
      const { queue, kind, campaign, subject, part = 0, priority = 5, payload = null, after = [] } = job;
      const before = after.map((other) => ids.get(`${subject} ${other.kind} ${other.part}`)!);
      const id = await statements.insert(
        'INSERT INTO jobs (queue, kind, campaign_id, subject_id, part, priority, payload, waits, turn) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
        [
          queue,
          kind,
          campaign,
          subject,
          part,
          priority,
          payload === null ? null : JSON.stringify(payload),
          before.length,
          turns.get(subject) ?? 0,
        ],
      );
      if (!turns.has(subject)) {
        turns.set(subject, id);
        await statements.run('UPDATE jobs SET turn = id WHERE id = ?', [id]);
      }
      ids.set(`${subject} ${kind} ${part}`, id);
      waits.push(...before.map((other): [number, number] => [id, other]));
    }
    await statements.insertAll('INSERT INTO job_waits (job_id, waits_for) VALUES ?', waits);
  }

  /**
   * Takes the next job of a queue, or null when none is ready. One row is locked, and rows that others are taking are passed
   * over, so that any number of claimants share one take.
   */
  claim(queue: Queue, owner: string): Promise<Job | null> {
    return this.db.transaction(async (statements) => {
      const row = await statements.one<Row>(
        `SELECT id, queue, kind, campaign_id AS campaign, subject_id AS subject, part, attempts + 1 AS attempts, payload
         FROM jobs FORCE INDEX (claimable) WHERE queue = ? AND state = 'waiting' AND waits = 0
         ORDER BY priority, turn, id LIMIT 1 FOR UPDATE SKIP LOCKED`,
        [queue],
      );
      if (!row) return null;
      await statements.run(
        `UPDATE jobs SET state = 'working', owner = ?, attempts = attempts + 1, progress = 0, error = NULL,
           lease_until = NOW(3) + INTERVAL ? SECOND WHERE id = ?`,
        [owner, this.leaseSeconds, row.id],
      );
      return { ...row, payload: row.payload === null ? null : (JSON.parse(row.payload) as unknown) };
    });
  }

  /** Says that an owner is alive and still at these jobs. @returns those that are no longer its own. */
  async heartbeat(owner: string, ids: readonly number[]): Promise<number[]> {
    const lost: number[] = [];
    for (const id of ids) {
      const kept = await this.db.run(
        `UPDATE jobs SET lease_until = NOW(3) + INTERVAL ? SECOND, updated_at = updated_at
         WHERE id = ? AND owner = ? AND state = 'working'`,
        [this.leaseSeconds, id, owner],
      );
      if (kept === 0) lost.push(id);
    }
    return lost;
  }

  async report(id: number, owner: string, progress: number): Promise<void> {
    await this.db.run("UPDATE jobs SET progress = ? WHERE id = ? AND owner = ? AND state = 'working'", [
      progress,
      id,
      owner,
    ]);
  }

  /**
   * Ends a job well, and lets those go that waited for it. @param also is written in the same transaction.
   * @returns false when it was no longer the owner's: then nothing was changed.
   */
  finish(
    id: number,
    owner: string,
    { seconds, result = null, also }: { seconds: number; result?: unknown; also?: (s: Statements) => Promise<void> },
  ): Promise<boolean> {
    return this.db.transaction(async (statements) => {
      const mine = await statements.run(
        `UPDATE jobs SET state = 'done', owner = NULL, lease_until = NULL, progress = 1, seconds = ?, error = NULL, result = ?
         WHERE id = ? AND owner = ? AND state = 'working'`,
        [seconds, result === null ? null : JSON.stringify(result), id, owner],
      );
      if (mine === 0) return false;
      await statements.run(
        'UPDATE jobs j JOIN job_waits w ON w.job_id = j.id SET j.waits = j.waits - 1 WHERE w.waits_for = ? AND j.waits > 0',
        [id],
      );
      await also?.(statements);
      return true;
    });
  }

  /** Ends a job badly: tried again, unless it was tried often enough or trying again cannot help. */
  async fail(job: Job, owner: string, error: unknown): Promise<void> {
    // What is not for a person is in the log: it may name folders of the server.
    const message = error instanceof Problem ? shortened(error.message, 500) : BROKE_DOWN;
    // A problem is something that a person must mend; anything else may be the worker's own.
    const again = !(error instanceof Problem) && job.attempts < MOST_ATTEMPTS;
    // What a person must mend keeps its code, so that it can be told apart.
    const problem = error instanceof Problem ? JSON.stringify({ code: error.code, thing: error.thing }) : null;
    await this.db.run(
      `UPDATE jobs SET state = ?, owner = NULL, lease_until = NULL, error = ?, result = ?
       WHERE id = ? AND owner = ? AND state = 'working'`,
      [again ? 'waiting' : 'failed', message, problem, job.id, owner],
    );
  }

  /** Gives a job back unfinished, as a server does that is stopped: it does not count as a try. */
  async release(id: number, owner: string): Promise<void> {
    await this.db.run(
      `UPDATE jobs SET state = 'waiting', owner = NULL, lease_until = NULL, attempts = attempts - 1
       WHERE id = ? AND owner = ? AND state = 'working'`,
      [id, owner],
    );
  }

  /** Takes jobs back from owners that gave no sign of life. @returns how many. */
  async reclaim(): Promise<number> {
    const failed = await this.db.run(
      `UPDATE jobs SET state = 'failed', owner = NULL, lease_until = NULL,
         error = COALESCE(error, 'Whoever worked on this was lost, more than once: try it again, or make it smaller.')
       WHERE state = 'working' AND lease_until < NOW(3) AND attempts >= ?`,
      [MOST_ATTEMPTS],
    );
    const back = await this.db.run(
      `UPDATE jobs SET state = 'waiting', owner = NULL, lease_until = NULL WHERE state = 'working' AND lease_until < NOW(3)`,
    );
    return failed + back;
  }

  /** Holds a subject's jobs; those at work are given up by their owners at the next sign of life. */
  async pause(subject: string): Promise<void> {
    await this.db.run(
      `UPDATE jobs SET state = 'paused', attempts = IF(state = 'working', attempts - 1, attempts), owner = NULL,
         lease_until = NULL WHERE subject_id = ? AND state IN ('waiting', 'working')`,
      [subject],
    );
  }

  /** Lets a subject's jobs go on, and tries those again that failed. */
  async resume(subject: string): Promise<void> {
    await this.db.run(
      "UPDATE jobs SET state = 'waiting', attempts = 0, error = NULL WHERE subject_id = ? AND state IN ('paused', 'failed')",
      [subject],
    );
  }

  /**
   * Lets subjects change places in the queue, so that they come in this order; all others keep theirs. What is at work goes on. Runs in
   * the caller's transaction.
   */
  async reorder(statements: Statements, subjects: readonly string[]): Promise<void> {
    if (subjects.length === 0) return;
    const rows = await statements.rows<{ subject: string; turn: number }>(
      `SELECT subject_id AS subject, MIN(turn) AS turn FROM jobs
       WHERE subject_id IN (${subjects.map(() => '?').join(', ')}) AND state IN ('waiting', 'paused') GROUP BY subject_id ORDER BY turn`,
      [...subjects],
    );
    const held = new Set(rows.map(({ subject }) => subject));
    for (const [n, subject] of subjects.filter((s) => held.has(s)).entries())
      await statements.run("UPDATE jobs SET turn = ? WHERE subject_id = ? AND state IN ('waiting', 'paused')", [
        rows[n].turn,
        subject,
      ]);
  }

  /** Takes a subject's jobs away, whatever their state. */
  async cancel(subject: string): Promise<void> {
    await this.db.run('DELETE FROM jobs WHERE subject_id = ?', [subject]);
  }

  /** Takes away imports that ended a day ago: whoever asked for them was gone before they could answer. */
  async forgetUnfetched(): Promise<void> {
    await this.db.run(
      "DELETE FROM jobs WHERE queue = 'import' AND state IN ('done', 'failed') AND updated_at < NOW(3) - INTERVAL 1 DAY",
    );
  }

  /** How a subject's one job stands; null when there is none. */
  async stateOf(subject: string): Promise<{ state: string; error: string | null; result: unknown } | null> {
    const row = await this.db.one<{ state: string; error: string | null; result: string | null }>(
      'SELECT state, error, result FROM jobs WHERE subject_id = ? ORDER BY id LIMIT 1',
      [subject],
    );
    return row && { ...row, result: row.result === null ? null : (JSON.parse(row.result) as unknown) };
  }
}
