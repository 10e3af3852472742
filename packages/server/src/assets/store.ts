import { createHash, randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Database } from '../database/index.ts';
import { HttpProblem, notFound } from '../http/problems.ts';
import { contentType, SNIFF_BYTES } from './content-type.ts';

export interface Asset {
  hash: string;
  mime: string;
  size: number;
}

/** Files named by the SHA-256 of their content; the database describes them. The same content is stored once. */
export class AssetStore {
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

  async describe(hash: string): Promise<Asset> {
    this.path(hash);
    const row = await this.db.one<Asset>('SELECT hash, mime, size FROM assets WHERE hash = ?', [hash]);
    if (!row) throw notFound('file');
    return { ...row, size: Number(row.size) };
  }

  read(hash: string): Promise<Buffer> {
    return readFile(this.path(hash));
  }

  stream(hash: string): Readable {
    return createReadStream(this.path(hash));
  }

  /** Takes a stream in, counting and hashing as it goes; nothing stays behind when it is too large or breaks off. */
  async take(stream: Readable): Promise<Asset> {
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
      return await this.keep(temporary, hash.digest('hex'), size);
    } finally {
      await rm(temporary, { force: true });
    }
  }

  /** Stores bytes that were made here. */
  async put(bytes: Uint8Array): Promise<Asset> {
    const folder = join(this.folder, 'incoming');
    await mkdir(folder, { recursive: true });
    const temporary = join(folder, randomBytes(12).toString('hex'));
    await writeFile(temporary, bytes);
    return this.keep(temporary, createHash('sha256').update(bytes).digest('hex'), bytes.length);
  }

  private async keep(temporary: string, hash: string, size: number): Promise<Asset> {
    const head = Buffer.alloc(Math.min(SNIFF_BYTES, size));
    const handle = await open(temporary);
    await handle.read(head, 0, head.length, 0);
    await handle.close();
    const mime = await contentType(head);
    const path = this.path(hash);
    const there = await stat(path).catch(() => null);
    if (there) await rm(temporary, { force: true });
    else {
      await mkdir(join(path, '..'), { recursive: true });
      await rename(temporary, path);
    }
    await this.db.run('INSERT IGNORE INTO assets (hash, mime, size) VALUES (?, ?, ?)', [hash, mime, size]);
    return { hash, mime, size };
  }

  /** Records which files a document refers to, replacing what it referred to before. */
  async setUses(kind: string, id: string, document: unknown): Promise<void> {
    const hashes = new Set(
      JSON.stringify(document)
        .match(/"[0-9a-f]{64}"/g)
        ?.map((h) => h.slice(1, -1)) ?? [],
    );
    await this.db.run('DELETE FROM asset_uses WHERE user_kind = ? AND user_id = ?', [kind, id]);
    for (const hash of hashes) {
      await this.db.run(
        'INSERT IGNORE INTO asset_uses (hash, user_kind, user_id) SELECT hash, ?, ? FROM assets WHERE hash = ?',
        [kind, id, hash],
      );
    }
  }

  /**
   * Deletes files that nothing has referred to for a day: neither a document, nor a kept revision, nor a take.
   * @returns how many.
   */
  async sweep(): Promise<number> {
    const loose = await this.db.rows<{ hash: string }>(
      `SELECT a.hash FROM assets a LEFT JOIN asset_uses u ON u.hash = a.hash
       WHERE u.hash IS NULL AND a.created_at < NOW() - INTERVAL 1 DAY
         AND NOT EXISTS (SELECT 1 FROM revisions r WHERE r.document LIKE CONCAT('%', a.hash, '%'))
         AND NOT EXISTS (SELECT 1 FROM takes t WHERE t.snapshot LIKE CONCAT('%', a.hash, '%'))`,
    );
    for (const { hash } of loose) {
      await this.db.run('DELETE FROM assets WHERE hash = ?', [hash]);
      await rm(this.path(hash), { force: true });
    }
    return loose.length;
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
