import type { DocumentKind, DocumentKinds } from '@tender-orbit/core/document';
import { migrate, validateDocument } from '@tender-orbit/core/document';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { HttpProblem, notFound } from '../http/problems.ts';
import { newId } from '../ids.ts';

/** Table of each kind; the only table names that ever reach a statement. */
export const TABLES: Record<DocumentKind, string> = {
  campaign: 'campaigns',
  product: 'products',
  set: 'sets',
  shot: 'shots',
  promo: 'promos',
};

export interface Stored<K extends DocumentKind> {
  id: string;
  revision: number;
  document: DocumentKinds[K];
}

export interface RevisionEntry {
  revision: number;
  label: string;
  person: string | null;
  at: string;
}

interface RawRow {
  id: string;
  revision: number;
  document: string;
}

/** Scene-like documents: read, created, saved against an expected revision, with every save kept. */
export class DocumentRepository {
  constructor(
    private readonly db: Database,
    private readonly assets: AssetStore,
  ) {}

  /** @throws HttpProblem 404 unless the document is in a campaign of `person`. */
  async get<K extends DocumentKind>(kind: K, id: string, person: string): Promise<Stored<K> & { campaign: string }> {
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

  async list<K extends Exclude<DocumentKind, 'campaign'>>(kind: K, campaign: string): Promise<Array<Stored<K>>> {
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
  ): Promise<Stored<K>> {
    const document = validateDocument(kind, input);
    const column = kind === 'campaign' ? 'owner_id' : 'campaign_id';
    await this.db.run(`INSERT INTO ${TABLES[kind]} (id, ${column}, document) VALUES (?, ?, ?)`, [
      id,
      owner,
      JSON.stringify(document),
    ]);
    await this.keepRevision(kind, id, 1, document, label, person);
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
  ): Promise<Stored<K>> {
    const current = await this.get(kind, id, person);
    const document = validateDocument(kind, input);
    const changed = await this.db.run(
      `UPDATE ${TABLES[kind]} SET document = ?, revision = revision + 1 WHERE id = ? AND revision = ?`,
      [JSON.stringify(document), id, expected],
    );
    if (changed === 0) {
      const latest = current.revision === expected ? await this.get(kind, id, person) : current;
      throw new HttpProblem(
        409,
        'document/stale',
        `This ${kind} was changed elsewhere since you opened it. Keep yours or take the other; both stay in the history.`,
        kind,
        { revision: latest.revision, document: latest.document },
      );
    }
    await this.keepRevision(kind, id, expected + 1, document, label, person);
    return { id, revision: expected + 1, document };
  }

  async revisions(kind: DocumentKind, id: string): Promise<RevisionEntry[]> {
    return this.db.rows<{ revision: number; label: string; person: string | null; at: string }>(
      `SELECT r.revision, r.label, p.name AS person, DATE_FORMAT(r.created_at, '%Y-%m-%dT%H:%i:%sZ') AS at
       FROM revisions r LEFT JOIN people p ON p.id = r.person_id
       WHERE r.kind = ? AND r.document_id = ? ORDER BY r.revision DESC LIMIT 200`,
      [kind, id],
    );
  }

  /** Saves an earlier revision as the newest one. */
  async restore<K extends DocumentKind>(kind: K, id: string, revision: number, person: string): Promise<Stored<K>> {
    const current = await this.get(kind, id, person);
    const row = await this.db.one<{ document: string }>(
      'SELECT document FROM revisions WHERE kind = ? AND document_id = ? AND revision = ?',
      [kind, id, revision],
    );
    if (!row) throw notFound('revision');
    return this.save(kind, id, current.revision, JSON.parse(row.document), `Bring back revision ${revision}`, person);
  }

  async remove(kind: DocumentKind, id: string, person: string): Promise<void> {
    await this.get(kind, id, person);
    await this.db.run(`DELETE FROM ${TABLES[kind]} WHERE id = ?`, [id]);
    await this.assets.setUses(kind, id, {});
  }

  private async keepRevision(
    kind: DocumentKind,
    id: string,
    revision: number,
    document: unknown,
    label: string,
    person: string,
  ): Promise<void> {
    await this.db.run(
      'INSERT INTO revisions (kind, document_id, revision, document, label, person_id) VALUES (?, ?, ?, ?, ?, ?)',
      [kind, id, revision, JSON.stringify(document), label.slice(0, 200), person],
    );
    await this.assets.setUses(kind, id, document);
  }
}

function parse<K extends DocumentKind>(kind: K, row: RawRow): Stored<K> {
  return {
    id: row.id,
    revision: row.revision,
    document: migrate(kind, JSON.parse(row.document)) as unknown as DocumentKinds[K],
  };
}
