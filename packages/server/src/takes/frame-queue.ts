import { migrateTake, shotTime, takeLength, type TakeSnapshot } from '@tender-orbit/core/document';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import type { JobQueue, NewJob } from '../jobs/index.ts';
import { newId } from '../ids.ts';
import { chunkCount, chunksFor } from '../simulations/index.ts';
import { neighboursOf, sourcesOf } from './snapshot.ts';

/** Takes and their frames in the database: what is to be rendered, and what is known of it. Knows no files or threads. */
export class FrameQueue {
  constructor(
    private readonly db: Database,
    private readonly jobs: JobQueue,
    private readonly assets: AssetStore,
  ) {}

  /**
   * Adds a take with a job for every frame.
   * @param contents what each frame shows, see contentsOf(); none: every frame is rendered.
   * @returns its id and name.
   */
  async add(
    campaign: string,
    shot: string,
    snapshot: TakeSnapshot,
    person: string,
    { id = newId(), name, contents = [] }: { id?: string; name?: string; contents?: readonly string[] } = {},
  ): Promise<{ id: string; name: string }> {
    const { quality, width, height } = snapshot;
    const length = takeLength(snapshot);
    return this.db.transaction(async (statements) => {
      const { count } = (await statements.one<{ count: number }>(
        'SELECT COUNT(*) AS count FROM takes WHERE shot_id = ?',
        [shot],
      ))!;
      const named = name ?? `${snapshot.shot.name} take ${Number(count) + 1}`;
      await statements.run(
        'INSERT INTO takes (id, campaign_id, shot_id, name, quality, width, height, length, snapshot) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
        [id, campaign, shot, named, quality, width, height, length, JSON.stringify(snapshot)],
      );
      await statements.insertAll(
        'INSERT INTO take_contents (take_id, frame, content) VALUES ?',
        contents.map((content, frame) => [id, frame, content]),
      );
      await this.jobs.add(statements, jobsOf(id, campaign, snapshot, contents));
      await this.assets.setUses(statements, 'take', id, snapshot, person);
      return { id, name: named };
    });
  }

  /** Frames of the campaign's other takes that are done and show what frames of this take show. */
  async rendered(take: string): Promise<Array<{ frame: number; fromTake: string; fromFrame: number }>> {
    const rows = await this.db.rows<{ frame: number; fromTake: string; fromFrame: number }>(
      `SELECT own.frame, other.take_id AS fromTake, other.frame AS fromFrame
       FROM take_contents own JOIN takes t ON t.id = own.take_id
         JOIN take_contents other ON other.content = own.content AND other.take_id <> own.take_id
         JOIN takes o ON o.id = other.take_id AND o.campaign_id = t.campaign_id
         JOIN jobs d ON d.subject_id = other.take_id AND d.part = other.frame AND d.kind = 'take-develop' AND d.state = 'done'
       WHERE own.take_id = ? ORDER BY own.frame, o.created_at, other.take_id, other.frame`,
      [take],
    );
    return [...new Map(rows.reverse().map((row) => [row.frame, row])).values()];
  }

  /** Takes note of frames that came with a take, already rendered. What only they would have needed is not traced. */
  async markRendered(take: string, frames: readonly number[]): Promise<void> {
    await this.db.transaction(async (statements) => {
      for (const frame of frames)
        await statements.run(
          "UPDATE jobs SET state = 'done', waits = 0 WHERE subject_id = ? AND kind NOT IN ('take-trace', 'take-simulate') AND part = ?",
          [take, frame],
        );
      await statements.run(
        `UPDATE jobs t SET state = 'done' WHERE subject_id = ? AND kind = 'take-trace' AND NOT EXISTS (
           SELECT 1 FROM job_waits w JOIN jobs d ON d.id = w.job_id WHERE w.waits_for = t.id AND d.state <> 'done')`,
        [take],
      );
      await statements.run(
        `UPDATE jobs t SET state = 'done' WHERE subject_id = ? AND kind = 'take-simulate' AND NOT EXISTS (
           SELECT 1 FROM jobs o WHERE o.subject_id = ? AND o.kind = 'take-trace' AND o.state <> 'done')`,
        [take, take],
      );
      await statements.run(
        `UPDATE jobs d SET waits = (
           SELECT COUNT(*) FROM job_waits w JOIN jobs n ON n.id = w.waits_for WHERE w.job_id = d.id AND n.state <> 'done')
         WHERE subject_id = ? AND state = 'waiting'`,
        [take],
      );
    });
  }

  /** What a take is rendered from, as documents of today. @throws when it is gone. */
  async snapshotOf(take: string): Promise<TakeSnapshot> {
    const row = await this.db.one<{ snapshot: string }>('SELECT snapshot FROM takes WHERE id = ?', [take]);
    if (!row) throw new Error(`The take ${take} is gone.`);
    return migrateTake(JSON.parse(row.snapshot) as TakeSnapshot);
  }

  /** Takes a take away with all that is known of it. */
  async remove(take: string): Promise<void> {
    await this.db.transaction(async (statements) => {
      await statements.run('DELETE FROM jobs WHERE subject_id = ?', [take]);
      await statements.run('DELETE FROM takes WHERE id = ?', [take]);
      await this.assets.clearUses(statements, 'take', take);
    });
  }
}

/**
 * The jobs of a take. Frames are traced first and developed once their neighbours are traced too; developing goes before
 * tracing, so that pictures come as early as they can. A frame that shows what an earlier one does, or that another is rendered for,
 * waits for that and takes its picture; what only such frames would have needed is neither traced nor simulated.
 */
function jobsOf(take: string, campaign: string, snapshot: TakeSnapshot, contents: readonly string[]): NewJob[] {
  const sources = sourcesOf(snapshot);
  const common = { queue: 'render' as const, campaign, subject: take };
  const rendered = sources.flatMap((source, frame) => (source === frame ? [frame] : []));
  const first = new Map<string, number>();
  for (const frame of rendered) if (!first.has(contents[frame])) first.set(contents[frame], frame);
  /** The frame whose picture a frame takes; null: it is rendered. */
  const sameAs = (frame: number): number | null => {
    if (sources[frame] !== frame) return sources[frame];
    const shown = contents.length > 0 ? first.get(contents[frame])! : frame;
    return shown < frame ? shown : null;
  };
  const drawn = snapshot.quality === 'sketch';
  const traced = new Set(
    drawn ? [] : rendered.filter((f) => sameAs(f) === null).flatMap((f) => neighboursOf(f, snapshot)),
  );
  // Those that take another's picture come after it.
  const held = sources.flatMap((source, frame) => (source === frame ? [] : [frame]));
  return [
    ...(drawn ? [] : simulations(take, campaign, snapshot, traced)),
    ...[...traced]
      .sort((a, b) => a - b)
      .map((part) => ({
        ...{ ...common, kind: 'take-trace', part },
        after: chunksFor(snapshot, shotTime(snapshot, part)).map(([effect, chunk]) => ({
          kind: 'take-simulate',
          part: partOf(effect, chunk),
        })),
      })),
    ...[...rendered, ...held].map((part) => {
      const earlier = sameAs(part);
      const near = drawn ? [] : neighboursOf(part, snapshot);
      return {
        ...{ ...common, kind: 'take-develop', part, priority: 4 },
        payload: earlier === null ? null : { same: earlier },
        after:
          earlier === null
            ? near.map((frame) => ({ kind: 'take-trace', part: frame }))
            : [{ kind: 'take-develop', part: earlier }],
      };
    }),
  ];
}

/** Chunks of an effect that a take has at most; a job's part says effect and chunk. */
const MOST_CHUNKS = 100_000;
const partOf = (effect: number, chunk: number): number => effect * MOST_CHUNKS + chunk;

/** What has to be simulated before these frames can be traced: each chunk goes on from where the one before ended. */
function simulations(take: string, campaign: string, snapshot: TakeSnapshot, traced: ReadonlySet<number>): NewJob[] {
  const all = !snapshot.times && traced.size === snapshot.shot.length;
  const needed = all ? [] : [...traced].flatMap((frame) => chunksFor(snapshot, shotTime(snapshot, frame)));
  return snapshot.set.effects.flatMap((_, n) => {
    const last = needed.reduce((most, [effect, chunk]) => (effect === n ? Math.max(most, chunk) : most), -1);
    const chunks = all ? chunkCount(snapshot, n) : last + 1;
    return Array.from({ length: chunks }, (_, chunk) => ({
      ...{
        queue: 'render' as const,
        campaign,
        subject: take,
        kind: 'take-simulate',
        part: partOf(n, chunk),
        priority: 3,
      },
      payload: { effect: n, chunk },
      after: chunk > 0 ? [{ kind: 'take-simulate', part: partOf(n, chunk - 1) }] : [],
    }));
  });
}
