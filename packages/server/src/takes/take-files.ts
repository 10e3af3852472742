import { existsSync } from 'node:fs';
import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** Where take frames lie: lossless WebP, one file a frame, written once and whole. Ids come from the database only. */
export class TakeFiles {
  constructor(private readonly folder: string) {}

  path(take: string, frame: number): string {
    return join(this.folder, 'takes', take, `${String(frame).padStart(5, '0')}.webp`);
  }

  async write(take: string, frame: number, bytes: Uint8Array): Promise<void> {
    const path = this.path(take, frame);
    await mkdir(join(path, '..'), { recursive: true });
    await writeFile(`${path}.part`, bytes);
    await rename(`${path}.part`, path);
  }

  has(take: string, frame: number): boolean {
    return existsSync(this.path(take, frame));
  }

  async removeTake(take: string): Promise<void> {
    await rm(join(this.folder, 'takes', take), { recursive: true, force: true });
  }
}
