import { NO_PREFERENCES, preferencesBody, type Person, type Preferences } from '@tender-orbit/core/contract';
import argon2 from 'argon2';
import type { Database } from '../database/index.ts';
import { newId } from '../ids.ts';

/** A hash of nothing, so that an unknown address takes as long to refuse as a wrong password. */
let decoy: Promise<string> | null = null;

export async function addPerson(db: Database, email: string, name: string, password: string): Promise<Person> {
  const person = { id: newId(), email: email.trim().toLowerCase(), name };
  await db.run('INSERT INTO people (id, email, name, password_hash) VALUES (?, ?, ?, ?)', [
    person.id,
    person.email,
    name,
    await argon2.hash(password),
  ]);
  return person;
}

export async function findPerson(db: Database, id: string): Promise<Person | null> {
  return db.one<Person>('SELECT id, email, name FROM people WHERE id = ?', [id]);
}

/** The person whose address and password these are, or null. */
export async function checkPassword(db: Database, email: string, password: string): Promise<Person | null> {
  const row = await db.one<Person & { password_hash: string }>(
    'SELECT id, email, name, password_hash FROM people WHERE email = ?',
    [email.trim().toLowerCase()],
  );
  decoy ??= argon2.hash('nobody');
  const good = await argon2.verify(row?.password_hash ?? (await decoy), password);
  return row && good ? { id: row.id, email: row.email, name: row.name } : null;
}

/** What a person has chosen; the usual where nothing is kept, or what is kept is no longer understood. */
export async function readPreferences(db: Database, id: string): Promise<Preferences> {
  const row = await db.one<{ preferences: unknown }>('SELECT preferences FROM people WHERE id = ?', [id]);
  const kept: unknown = typeof row?.preferences === 'string' ? JSON.parse(row.preferences) : row?.preferences;
  return preferencesBody.isValidSync(kept) ? kept : NO_PREFERENCES;
}

export async function keepPreferences(db: Database, id: string, preferences: Preferences): Promise<void> {
  await db.run('UPDATE people SET preferences = ? WHERE id = ?', [JSON.stringify(preferences), id]);
}
