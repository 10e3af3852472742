import type { UploadedAsset } from '@tender-orbit/core/contract';
import { createHash, randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Database, Statements } from '../database/index.ts';
import { HttpProblem, notFound } from '../http/index.ts';
import { contentType, SNIFF_BYTES } from './content-type.ts';

/** Files named by the SHA-256 of their content; the database describes them. The same content is stored once. */
export class AssetStore {
  private readonly turns = new Map<string, Promise<void>>();

  constructor(
    private readonly db: Database,
    private readonly folder: string,
    private readonly limit: number,
  ) {}

  /** Path of a stored file. @throws unless `hash` is 64 hex digits, so that no path can be made up. */
  path(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw notFound('file');
    return join(this.folder, 'assets', hash.slice(0, 2), hash);
  }

  async describe(hash: string): Promise<UploadedAsset> {
    this.path(hash);
    const row = await this.db.one<UploadedAsset>('SELECT hash, mime, size FROM assets WHERE hash = ?', [hash]);
    if (!row) throw notFound('file');
    return { ...row, size: Number(row.size) };
  }

  /** As describe(), for a person. @throws HttpProblem 404 for files that are not theirs to read. */
  async readable(hash: string, person: string): Promise<UploadedAsset> {
    const asset = await this.describe(hash);
    if (!(await this.db.one('SELECT hash FROM asset_readers WHERE hash = ? AND person_id = ?', [hash, person])))
      throw notFound('file');
    return asset;
  }

  /** Lets a person read a file. */
  async allow(hash: string, person: string): Promise<void> {
    await this.db.run('INSERT IGNORE INTO asset_readers (hash, person_id) VALUES (?, ?)', [hash, person]);
  }

  /** Notes what a file was made of, so that it stays as long as the file does. */
  async madeOf(hash: string, original: string): Promise<void> {
    await this.db.run('INSERT IGNORE INTO asset_originals (hash, original) VALUES (?, ?)', [hash, original]);
  }

  read(hash: string): Promise<Buffer> {
    return readFile(this.path(hash));
  }

  /** Takes a stream in for a person, counting and hashing as it goes; nothing stays behind when it is too large or breaks off. */
  async receive(stream: Readable, person: string): Promise<UploadedAsset> {
    const folder = join(this.folder, 'incoming');
    await mkdir(folder, { recursive: true });
    const temporary = join(folder, randomBytes(12).toString('hex'));
    const hash = createHash('sha256');
    let size = 0;
    const limit = this.limit;
    const meter = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        size += chunk.length;
        if (size > limit) {
          done(tooLarge(limit));
          return;
        }
        hash.update(chunk);
        done(null, chunk);
      },
    });
    try {
      await pipeline(stream, meter, createWriteStream(temporary));
      if (size === 0) throw new HttpProblem(422, 'asset/empty', 'The file is empty: choose another.', 'File');
      return await this.keep(temporary, hash.digest('hex'), size, person);
    } finally {
      await rm(temporary, { force: true });
    }
  }

  /** Stores bytes that were made here for a person. */
  async put(bytes: Uint8Array, person: string): Promise<UploadedAsset> {
    const folder = join(this.folder, 'incoming');
    await mkdir(folder, { recursive: true });
    const temporary = join(folder, randomBytes(12).toString('hex'));
    await writeFile(temporary, bytes);
    return this.keep(temporary, createHash('sha256').update(bytes).digest('hex'), bytes.length, person);
  }

  /** Takes a file over that was made here for a person; it is gone from where it was. */
  async adopt(path: string, person: string): Promise<UploadedAsset> {
    const hash = createHash('sha256');
    let size = 0;
    for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) {
      hash.update(chunk);
      size += chunk.length;
    }
    return this.keep(path, hash.digest('hex'), size, person);
  }

  private async keep(temporary: string, hash: string, size: number, person: string): Promise<UploadedAsset> {
    const head = Buffer.alloc(Math.min(SNIFF_BYTES, size));
    const handle = await open(temporary);
    await handle.read(head, 0, head.length, 0);
    await handle.close();
    const mime = await contentType(head);
    await this.alone(hash, async () => {
      const path = this.path(hash);
      // The row comes first and says that the file was just asked for: a sweep then leaves it alone.
      await this.db.run(
        'INSERT INTO assets (hash, mime, size) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE created_at = CURRENT_TIMESTAMP',
        [hash, mime, size],
      );
      await this.allow(hash, person);
      const there = await stat(path).catch(() => null);
      if (there) await rm(temporary, { force: true });
      else {
        await mkdir(join(path, '..'), { recursive: true });
        await rename(temporary, path);
      }
    });
    return { hash, mime, size };
  }

  /**
   * Records which files something of a person's refers to, replacing what it referred to before. Files that are not theirs
   * to read do not count. Runs in the caller's transaction.
   */
  async setUses(statements: Statements, kind: string, id: string, content: unknown, person: string): Promise<void> {
    const hashes = new Set(
      JSON.stringify(content)
        .match(/"[0-9a-f]{64}"/g)
        ?.map((h) => h.slice(1, -1)) ?? [],
    );
    await this.clearUses(statements, kind, id);
    for (const hash of hashes) {
      await statements.run(
        `INSERT IGNORE INTO asset_uses (hash, user_kind, user_id)
           SELECT hash, ?, ? FROM asset_readers WHERE hash = ? AND person_id = ?`,
        [kind, id, hash, person],
      );
    }
  }

  /** Records that something refers to no file any more. */
  async clearUses(statements: Statements, kind: string, id: string): Promise<void> {
    await statements.run('DELETE FROM asset_uses WHERE user_kind = ? AND user_id = ?', [kind, id]);
  }

  /**
   * Deletes files that nothing refers to - no document, kept revision, take or delivery - and that nobody has brought for a
   * day. @returns how many.
   */
  async sweep(): Promise<number> {
    const loose = await this.db.rows<{ hash: string }>(
      `SELECT a.hash FROM assets a LEFT JOIN asset_uses u ON u.hash = a.hash
       WHERE u.hash IS NULL AND a.created_at < NOW() - INTERVAL 1 DAY
         AND NOT EXISTS (SELECT 1 FROM asset_originals o WHERE o.original = a.hash)`,
    );
    let swept = 0;
    for (const { hash } of loose) {
      await this.alone(hash, async () => {
        // It may have been brought again, or come into use, since it was found.
        const gone = await this.db.run(
          `DELETE FROM assets WHERE hash = ? AND created_at < NOW() - INTERVAL 1 DAY
             AND NOT EXISTS (SELECT 1 FROM asset_uses u WHERE u.hash = assets.hash)
             AND NOT EXISTS (SELECT 1 FROM asset_originals o WHERE o.original = assets.hash)`,
          [hash],
        );
        if (gone === 0) return;
        await rm(this.path(hash), { force: true });
        swept++;
      });
    }
    return swept;
  }

  /** Runs `work` on a file while nothing else of this store is at the same one. */
  private async alone(hash: string, work: () => Promise<void>): Promise<void> {
    const before = this.turns.get(hash) ?? Promise.resolve();
    const turn = before.catch(() => undefined).then(work);
    this.turns.set(hash, turn);
    try {
      await turn;
    } finally {
      if (this.turns.get(hash) === turn) this.turns.delete(hash);
    }
  }
}

export function tooLarge(limit: number): HttpProblem {
  return new HttpProblem(
    413,
    'asset/too-large',
    `The file is larger than ${Math.round(limit / 1024 / 1024)} MB, the most that is taken: make it smaller.`,
    'File',
  );
}
