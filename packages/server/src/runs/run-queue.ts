import type { SimulationAsked, SimulationState, SimulationSummary } from '@tender-orbit/core/contract';
import { migrateTake, type TakeSnapshot } from '@tender-orbit/core/document';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { newId } from '../ids.ts';
import type { JobQueue, NewJob } from '../jobs/index.ts';
import { CHUNK, chunkCount, frameCount } from '../simulations/index.ts';

/** What its jobs are called; the part is the chunk. */
export const RUN_JOB = 'simulate';

interface Row extends SimulationAsked {
  id: string;
  frames: number;
  chunks: number;
  chunksDone: number;
  failed: number;
  paused: number;
  seconds: number | null;
  error: string | null;
}

/** Effects that are simulated apart from takes, in the database: what is to be simulated, and how far it is. */
export class RunQueue {
  constructor(
    private readonly db: Database,
    private readonly jobs: JobQueue,
    private readonly assets: AssetStore,
  ) {}

  /**
   * Adds a run with a job for every chunk, each after the one before.
   * @param snapshot with the level that is asked for as the effect's own.
   */
  async add(campaign: string, asked: SimulationAsked, snapshot: TakeSnapshot, person: string): Promise<string> {
    const id = newId();
    const { shot, effect, level } = asked;
    const number = snapshot.set.effects.findIndex((e) => e.id === effect);
    const frames = frameCount(snapshot, number);
    const jobs = Array.from({ length: chunkCount(snapshot, number) }, (_, part): NewJob => ({
      ...{ queue: 'render', kind: RUN_JOB, campaign, subject: id, part, priority: 3, payload: { effect: number } },
      after: part > 0 ? [{ kind: RUN_JOB, part: part - 1 }] : [],
    }));
    await this.db.transaction(async (statements) => {
      await statements.run(
        'INSERT INTO simulation_runs (id, campaign_id, shot_id, effect_id, level, frames, snapshot) VALUES (?, ?, ?, ?, ?, ?, ?)',
        [id, campaign, shot, effect, level, frames, JSON.stringify(snapshot)],
      );
      await this.jobs.add(statements, jobs);
      await this.assets.setUses(statements, 'simulation', id, snapshot, person);
    });
    return id;
  }

  /** Takes note that a run came with its frames. @param keys theirs, from frame 1 on. */
  async markDone(id: string, keys: readonly string[]): Promise<void> {
    await this.db.transaction(async (statements) => {
      for (let part = 0; part * CHUNK < keys.length; part++)
        await statements.run(
          "UPDATE jobs SET state = 'done', waits = 0, result = ? WHERE subject_id = ? AND kind = ? AND part = ?",
          [JSON.stringify(keys.slice(part * CHUNK, (part + 1) * CHUNK)), id, RUN_JOB, part],
        );
    });
  }

  /** Runs of the same effect of a shot at the same level. */
  async same({ shot, effect, level }: SimulationAsked): Promise<string[]> {
    const rows = await this.db.rows<{ id: string }>(
      'SELECT id FROM simulation_runs WHERE shot_id = ? AND effect_id = ? AND level = ?',
      [shot, effect, level],
    );
    return rows.map(({ id }) => id);
  }

  /** @returns null when it is gone. */
  async campaignOf(id: string): Promise<string | null> {
    const row = await this.db.one<{ campaign: string }>(
      'SELECT campaign_id AS campaign FROM simulation_runs WHERE id = ?',
      [id],
    );
    return row?.campaign ?? null;
  }

  /** What a run is simulated from, as documents of today. @throws when it is gone. */
  async snapshotOf(id: string): Promise<TakeSnapshot> {
    const row = await this.db.one<{ snapshot: string }>('SELECT snapshot FROM simulation_runs WHERE id = ?', [id]);
    if (!row) throw new Error(`The simulation ${id} is gone.`);
    return migrateTake(JSON.parse(row.snapshot) as TakeSnapshot);
  }

  /** Keys of the frames that are there, from frame 1 on. */
  async keys(id: string): Promise<string[]> {
    const rows = await this.db.rows<{ result: string | null }>(
      "SELECT result FROM jobs WHERE subject_id = ? AND kind = ? AND state = 'done' ORDER BY part",
      [id, RUN_JOB],
    );
    return rows.flatMap(({ result }) => (result === null ? [] : (JSON.parse(result) as string[])));
  }

  async list(campaign: string): Promise<SimulationSummary[]> {
    const rows = await this.db.rows<Row>(
      `SELECT r.id, r.shot_id AS shot, r.effect_id AS effect, r.level, r.frames, COUNT(*) AS chunks,
         SUM(j.state = 'done') AS chunksDone,
         SUM(j.state = 'failed') AS failed, SUM(j.state = 'paused') AS paused, SUM(j.seconds) AS seconds,
         MAX(IF(j.state = 'failed', j.error, NULL)) AS error
       FROM simulation_runs r JOIN jobs j ON j.subject_id = r.id
       WHERE r.campaign_id = ? GROUP BY r.id ORDER BY MIN(r.created_at), r.id`,
      [campaign],
    );
    return rows.map(({ id, shot, effect, level, frames, error, ...row }): SimulationSummary => {
      const [chunks, ready] = [Number(row.chunks), Number(row.chunksDone)];
      const left = chunks - ready;
      const pace = ready > 0 && row.seconds !== null ? Number(row.seconds) / ready : null;
      return {
        ...{ id, shot, effect, level, frames, error },
        done: Math.min(frames, ready * CHUNK),
        state: stateOf(left, Number(row.failed), Number(row.paused)),
        secondsLeft: pace === null || left === 0 ? null : pace * left,
      };
    });
  }

  /** Takes a run away; what it simulated stays, and is found by its keys. */
  async remove(id: string): Promise<void> {
    await this.db.transaction(async (statements) => {
      await statements.run('DELETE FROM jobs WHERE subject_id = ?', [id]);
      await statements.run('DELETE FROM simulation_runs WHERE id = ?', [id]);
      await this.assets.clearUses(statements, 'simulation', id);
    });
  }
}

/** Each chunk waits for the one before: where one failed or was stopped nothing goes on. */
function stateOf(left: number, failed: number, paused: number): SimulationState {
  if (left === 0) return 'done';
  if (failed > 0) return 'failed';
  return paused > 0 ? 'stopped' : 'running';
}
