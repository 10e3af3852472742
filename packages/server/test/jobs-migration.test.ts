import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { Database, migrateDatabase } from '../src/database/index.ts';
import { testConfig } from './harness.ts';

describe('server: jobs of an earlier version', () => {
  it('takes, frames and deliveries become jobs as far as they were', async () => {
    const db = await Database.open(testConfig().database);
    try {
      await db.pool.query(
        'CREATE TABLE migrations (name VARCHAR(120) PRIMARY KEY, ran_at TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP)',
      );
      const first = readFileSync(new URL('../src/database/migrations/001-first.sql', import.meta.url), 'utf8');
      for (const statement of first.split(/;\s*$/m)) if (statement.trim()) await db.pool.query(statement);
      await db.run("INSERT INTO migrations (name) VALUES ('001-first.sql')");
      await db.run(
        "INSERT INTO people (id, email, name, password_hash) VALUES ('p', 'p@vellowmere.example', 'P', 'x')",
      );
      await db.run("INSERT INTO campaigns (id, owner_id, document) VALUES ('c', 'p', '{}')");
      const take = async (id: string, quality: string, state: string, frames: string[]): Promise<void> => {
        await db.run(
          "INSERT INTO takes (id, campaign_id, shot_id, name, quality, width, height, length, state, snapshot) VALUES (?, 'c', 's', ?, ?, 16, 16, ?, ?, '{}')",
          [id, id, quality, frames.length, state],
        );
        for (const [frame, s] of frames.entries())
          await db.run('INSERT INTO take_frames (take_id, frame, state, seconds) VALUES (?, ?, ?, 2)', [id, frame, s]);
      };
      await take('done', 'draft', 'done', ['done', 'done']);
      await take('held', 'clay', 'stopped', ['done', 'waiting']);
      await take('half', 'final', 'rendering', ['done', 'traced', 'traced', 'traced', 'traced', 'working', 'waiting']);
      await take('ready', 'final', 'done', ['done', 'done', 'done']);
      for (const [id, state] of [
        ['e', 'working'],
        ['f', 'done'],
      ])
        await db.run(
          "INSERT INTO deliveries (id, campaign_id, promo_id, name, format, state, snapshot) VALUES (?, 'c', 'p', 'P', 'mp4', ?, '{}')",
          [id, state],
        );
      await migrateDatabase(db);

      const progress = await db.rows<{ take_id: string; state: string }>(
        'SELECT * FROM take_progress ORDER BY take_id',
      );
      expect(progress.map((p) => [p.take_id, p.state])).deep.equal([
        ['done', 'done'],
        ['half', 'rendering'],
        ['held', 'stopped'],
        ['ready', 'done'],
      ]);
      const jobs = await db.rows<{ kind: string; part: number; state: string; waits: number }>(
        "SELECT kind, part, state, waits FROM jobs WHERE subject_id = 'half' ORDER BY kind DESC, part",
      );
      const of = (kind: string) => jobs.filter((j) => j.kind === kind);
      expect(of('take-trace').map((j) => j.state)).deep.equal([
        'done',
        'done',
        'done',
        'done',
        'done',
        'waiting',
        'waiting',
      ]);
      // A frame waits for those within three of it that are not traced yet.
      expect(of('take-develop').map((j) => [j.state, j.waits])).deep.equal([
        ['done', 0],
        ['waiting', 0],
        ['waiting', 1],
        ['waiting', 2],
        ['waiting', 2],
        ['waiting', 2],
        ['waiting', 2],
      ]);
      expect(
        await db.rows("SELECT subject_id, state FROM jobs WHERE kind = 'delivery' ORDER BY subject_id"),
      ).deep.equal([
        { subject_id: 'e', state: 'waiting' },
        { subject_id: 'f', state: 'done' },
      ]);
    } finally {
      await db.close();
    }
  });
});
