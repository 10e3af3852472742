import { existsSync } from 'node:fs';
import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** Where take frames lie: lossless WebP, one file a frame, written once and whole. Ids come from the database only. */
export class TakeFiles {
  constructor(private readonly folder: string) {}

  path(take: string, frame: number): string {
    return join(this.folder, 'takes', take, `${String(frame).padStart(5, '0')}.webp`);
  }

  /** Layers of a frame, for compositing elsewhere. */
  exrPath(take: string, frame: number): string {
    return this.path(take, frame).replace(/webp$/, 'exr');
  }

  /** Traced passes on their way to being developed. */
  rawPath(take: string, frame: number): string {
    return this.path(take, frame).replace(/webp$/, 'raw');
  }

  async makeFolder(take: string): Promise<void> {
    await mkdir(join(this.folder, 'takes', take), { recursive: true });
  }

  async removeRaw(take: string, frame: number): Promise<void> {
    await rm(this.rawPath(take, frame), { force: true });
  }

  async write(take: string, frame: number, bytes: Uint8Array): Promise<void> {
    const path = this.path(take, frame);
    await this.makeFolder(take);
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
