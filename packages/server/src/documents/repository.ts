import { shortened } from '@tender-orbit/core/text';
import type { RevisionEntry, StoredDocument } from '@tender-orbit/core/contract';
import { migrate, validateDocument, type DocumentKind } from '@tender-orbit/core/document';
import type { AssetStore } from '../assets/index.ts';
import type { Database, Statements } from '../database/index.ts';
import { HttpProblem, notFound } from '../http/index.ts';
import { newId } from '../ids.ts';

/** Table of each kind; the only table names that ever reach a statement. */
export const TABLES: Record<DocumentKind, string> = {
  campaign: 'campaigns',
  product: 'products',
  set: 'sets',
  shot: 'shots',
  promo: 'promos',
};

interface RawRow {
  id: string;
  revision: number;
  document: string;
}

/** What uses a file on behalf of a kept revision. */
const revisionUser = (kind: DocumentKind, id: string, revision: number): string => `${kind} ${id} ${revision}`;

/**
 * Documents: read, created, saved against an expected revision, with every save kept. A save, its revision and the files
 * that it uses are one transaction.
 */
export class DocumentRepository {
  constructor(
    private readonly db: Database,
    private readonly assets: AssetStore,
  ) {}

  /** @throws HttpProblem 404 unless the document is in a campaign of `person`. */
  async get<K extends DocumentKind>(
    kind: K,
    id: string,
    person: string,
  ): Promise<StoredDocument<K> & { campaign: string }> {
    const row = await this.db.one<RawRow & { campaign: string }>(
      kind === 'campaign'
        ? 'SELECT id, id AS campaign, revision, document FROM campaigns WHERE id = ? AND owner_id = ?'
        : `SELECT d.id, d.campaign_id AS campaign, d.revision, d.document FROM ${TABLES[kind]} d
           JOIN campaigns c ON c.id = d.campaign_id WHERE d.id = ? AND c.owner_id = ?`,
      [id, person],
    );
    if (!row) throw notFound(kind);
    return { ...parse(kind, row), campaign: row.campaign };
  }

  async list<K extends Exclude<DocumentKind, 'campaign'>>(
    kind: K,
    campaign: string,
  ): Promise<Array<StoredDocument<K>>> {
    const rows = await this.db.rows<RawRow>(
      `SELECT id, revision, document FROM ${TABLES[kind]} WHERE campaign_id = ? ORDER BY created_at, id`,
      [campaign],
    );
    return rows.map((row) => parse(kind, row));
  }

  async create<K extends DocumentKind>(
    kind: K,
    owner: string,
    input: unknown,
    label: string,
    person: string,
    id = newId(),
  ): Promise<StoredDocument<K>> {
    return this.db.transaction((statements) => this.createIn(statements, kind, owner, input, label, person, id));
  }

  /** As create(), in the caller's transaction. */
  async createIn<K extends DocumentKind>(
    statements: Statements,
    kind: K,
    owner: string,
    input: unknown,
    label: string,
    person: string,
    id = newId(),
  ): Promise<StoredDocument<K>> {
    const document = validateDocument(kind, input);
    const column = kind === 'campaign' ? 'owner_id' : 'campaign_id';
    await statements.run(`INSERT INTO ${TABLES[kind]} (id, ${column}, document) VALUES (?, ?, ?)`, [
      id,
      owner,
      JSON.stringify(document),
    ]);
    await this.keepRevision(statements, kind, id, 1, document, label, person);
    return { id, revision: 1, document };
  }

  /**
   * Saves when the stored revision is still `expected`.
   * @throws HttpProblem 409 with the newer document otherwise; nothing is changed then.
   */
  async save<K extends DocumentKind>(
    kind: K,
    id: string,
    expected: number,
    input: unknown,
    label: string,
    person: string,
  ): Promise<StoredDocument<K>> {
    await this.get(kind, id, person);
    const document = validateDocument(kind, input);
    const saved = await this.db.transaction(async (statements) => {
      const changed = await statements.run(
        `UPDATE ${TABLES[kind]} SET document = ?, revision = revision + 1 WHERE id = ? AND revision = ?`,
        [JSON.stringify(document), id, expected],
      );
      if (changed === 0) return false;
      await this.keepRevision(statements, kind, id, expected + 1, document, label, person);
      return true;
    });
    if (saved) return { id, revision: expected + 1, document };
    const latest = await this.get(kind, id, person);
    throw new HttpProblem(
      409,
      'document/stale',
      `This ${kind} was changed elsewhere since you opened it. Keep yours or take the other; both stay in the history.`,
      kind,
      { revision: latest.revision, document: latest.document },
    );
  }

  async revisions(kind: DocumentKind, id: string): Promise<RevisionEntry[]> {
    return this.db.rows<RevisionEntry & { [key: string]: unknown }>(
      `SELECT r.revision, r.label, r.name, p.name AS person, DATE_FORMAT(r.created_at, '%Y-%m-%dT%H:%i:%sZ') AS at
       FROM revisions r LEFT JOIN people p ON p.id = r.person_id
       WHERE r.kind = ? AND r.document_id = ? ORDER BY r.revision DESC LIMIT 400`,
      [kind, id],
    );
  }

  /** Gives a revision a name, so that it is kept for good; an empty one takes the name away. */
  async nameRevision(kind: DocumentKind, id: string, revision: number, name: string): Promise<void> {
    const found = await this.db.one(
      'SELECT revision FROM revisions WHERE kind = ? AND document_id = ? AND revision = ?',
      [kind, id, revision],
    );
    if (!found) throw notFound('revision');
    await this.db.run('UPDATE revisions SET name = ? WHERE kind = ? AND document_id = ? AND revision = ?', [
      name || null,
      kind,
      id,
      revision,
    ]);
  }

  /** Saves an earlier revision as the newest one. */
  async restore<K extends DocumentKind>(
    kind: K,
    id: string,
    revision: number,
    person: string,
  ): Promise<StoredDocument<K>> {
    const current = await this.get(kind, id, person);
    const row = await this.db.one<{ document: string }>(
      'SELECT document FROM revisions WHERE kind = ? AND document_id = ? AND revision = ?',
      [kind, id, revision],
    );
    if (!row) throw notFound('revision');
    return this.save(kind, id, current.revision, JSON.parse(row.document), `Bring back revision ${revision}`, person);
  }

  /** Deletes a document; its history stays, since it holds what a person may want back. */
  async remove(kind: DocumentKind, id: string, person: string): Promise<void> {
    await this.get(kind, id, person);
    await this.db.transaction(async (statements) => {
      await statements.run(`DELETE FROM ${TABLES[kind]} WHERE id = ?`, [id]);
      await this.assets.clearUses(statements, kind, id);
    });
  }

  /** Takes a document's history and its uses of files away. Runs in the caller's transaction. */
  async forget(statements: Statements, kind: DocumentKind, id: string): Promise<void> {
    await statements.run('DELETE FROM revisions WHERE kind = ? AND document_id = ?', [kind, id]);
    await statements.run("DELETE FROM asset_uses WHERE user_kind = 'revision' AND user_id LIKE ?", [`${kind} ${id} %`]);
    await this.assets.clearUses(statements, kind, id);
  }

  /**
   * Thins the history out: of the last day every revision is kept, of the last week one an hour, of the last three months
   * one a day. What is older goes, but for the newest of each document and those with a name. @returns how many went.
   */
  async prune(): Promise<number> {
    const old = await this.db.rows<{ kind: DocumentKind; id: string; revision: number }>(
      `SELECT kind, document_id AS id, revision FROM (
         SELECT kind, document_id, revision, name, created_at,
           ROW_NUMBER() OVER (PARTITION BY kind, document_id ORDER BY revision DESC) AS newest,
           ROW_NUMBER() OVER (PARTITION BY kind, document_id,
             CASE WHEN created_at > NOW(3) - INTERVAL 1 DAY THEN revision
                  WHEN created_at > NOW(3) - INTERVAL 7 DAY THEN DATE_FORMAT(created_at, '%Y-%m-%d %H')
                  ELSE DATE_FORMAT(created_at, '%Y-%m-%d') END
             ORDER BY revision DESC) AS last
         FROM revisions) r
       WHERE name IS NULL AND newest > 1 AND (last > 1 OR created_at < NOW(3) - INTERVAL 90 DAY)
       LIMIT 10000`,
    );
    for (const { kind, id, revision } of old)
      await this.db.transaction(async (statements) => {
        await statements.run(
          'DELETE FROM revisions WHERE kind = ? AND document_id = ? AND revision = ? AND name IS NULL',
          [kind, id, revision],
        );
        await this.assets.clearUses(statements, 'revision', revisionUser(kind, id, revision));
      });
    return old.length;
  }

  private async keepRevision(
    statements: Statements,
    kind: DocumentKind,
    id: string,
    revision: number,
    document: unknown,
    label: string,
    person: string,
  ): Promise<void> {
    await statements.run(
      'INSERT INTO revisions (kind, document_id, revision, document, label, person_id) VALUES (?, ?, ?, ?, ?, ?)',
      [kind, id, revision, JSON.stringify(document), shortened(label, 200), person],
    );
    await this.assets.setUses(statements, kind, id, document, person);
    await this.assets.setUses(statements, 'revision', revisionUser(kind, id, revision), document, person);
  }
}

function parse<K extends DocumentKind>(kind: K, row: RawRow): StoredDocument<K> {
  return { id: row.id, revision: row.revision, document: migrate(kind, JSON.parse(row.document) as object) };
}
