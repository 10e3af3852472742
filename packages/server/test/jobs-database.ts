import { Database, migrateDatabase } from '../src/database/index.ts';
import { testConfig } from './harness.ts';

export const CAMPAIGN = 'campaign';

/** A database with one campaign and no jobs. */
export async function emptyDatabase(): Promise<Database> {
  const db = await Database.open(testConfig().database);
  await migrateDatabase(db);
  await db.run("INSERT INTO people (id, email, name, password_hash) VALUES ('p', 'p@vellowmere.example', 'P', 'x')");
  await db.run(`INSERT INTO campaigns (id, owner_id, document) VALUES ('${CAMPAIGN}', 'p', '{}')`);
  return db;
}
