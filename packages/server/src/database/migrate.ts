import { readdirSync, readFileSync } from 'node:fs';
import type { Database } from './connect.ts';

const FOLDER = new URL('./migrations/', import.meta.url);

/** Runs the SQL files that this database has not seen, in name order; returns their names. */
export async function migrateDatabase(db: Database): Promise<string[]> {
  await db.run(
    'CREATE TABLE IF NOT EXISTS migrations (name VARCHAR(120) PRIMARY KEY, ran_at TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP)',
  );
  const done = new Set((await db.rows<{ name: string }>('SELECT name FROM migrations')).map((r) => r.name));
  const ran: string[] = [];
  for (const name of readdirSync(FOLDER)
    .filter((f) => f.endsWith('.sql'))
    .sort()) {
    if (done.has(name)) continue;
    // Statements end with a semicolon at a line's end; MariaDB commits each DDL statement by itself.
    for (const statement of readFileSync(new URL(name, FOLDER), 'utf8').split(/;\s*$/m)) {
      if (statement.trim()) await db.pool.query(statement);
    }
    await db.run('INSERT INTO migrations (name) VALUES (?)', [name]);
    ran.push(name);
  }
  return ran;
}
