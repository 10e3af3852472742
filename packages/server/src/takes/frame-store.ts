import { existsSync } from 'node:fs';
import { copyFile, link, mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { LightFrame } from '@tender-orbit/core/composite';
import { packLight, writePacked } from './light-file.ts';

/** Where take frames lie: lossless WebP, one file a frame, written once and whole. Ids come from the database only. */
export class FrameStore {
  private readonly sizes = new Map<string, { done: number; bytes: number }>();

  constructor(readonly folder: string) {}

  path(take: string, frame: number): string {
    return join(this.folder, 'takes', take, `${String(frame).padStart(5, '0')}.webp`);
  }

  /** Layers of a frame, for compositing elsewhere. */
  exrPath(take: string, frame: number): string {
    return this.path(take, frame).replace(/webp$/, 'exr');
  }

  /** Light of a frame, for the compositor; takes of before there was one have none. */
  lightPath(take: string, frame: number): string {
    return this.path(take, frame).replace(/webp$/, 'light');
  }

  /** The same light by light, of takes that keep it. */
  partsPath(take: string, frame: number): string {
    return this.path(take, frame).replace(/webp$/, 'lights');
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

  /** Writes the light of a frame, compressed. */
  async writeLight(take: string, frame: number, light: LightFrame): Promise<void> {
    await this.makeFolder(take);
    await writePacked(this.lightPath(take, frame), packLight(light));
  }

  /** Gives a frame the picture and the layers of another that shows the same. @throws when that one is gone. */
  async copy(fromTake: string, fromFrame: number, take: string, frame: number): Promise<void> {
    await this.makeFolder(take);
    // The picture goes last: a frame that has it has its layers and its light too.
    for (const path of [this.exrPath, this.partsPath, this.lightPath, this.path]) {
      const [from, to] = [path.call(this, fromTake, fromFrame), path.call(this, take, frame)];
      if (path !== this.path && !existsSync(from)) continue;
      // Frames never change: where the disk can, both names stand for one file.
      await rm(`${to}.part`, { force: true });
      await link(from, `${to}.part`).catch(() => copyFile(from, `${to}.part`));
      await rename(`${to}.part`, to);
      // Of two names for one file a rename changes nothing.
      await rm(`${to}.part`, { force: true });
    }
  }

  /** Takes away what work that was given up left of a frame. */
  async removeParts(take: string, frame: number): Promise<void> {
    const all = [this.path, this.exrPath, this.lightPath, this.partsPath, this.rawPath];
    for (const path of all.map((of) => of.call(this, take, frame))) await rm(`${path}.part`, { force: true });
  }

  /** What a take's frames take on disk; asked again only when more are done, since frames never change. */
  async bytesOf(take: string, done: number): Promise<number> {
    const known = this.sizes.get(take);
    if (known?.done === done) return known.bytes;
    const folder = folderOf(this, take);
    const names = await readdir(folder).catch(() => []);
    // What is on its way may be gone by now. A file with several names is there once.
    const files = await Promise.all(names.map((name) => stat(join(folder, name)).catch(() => null)));
    const sizes = new Map(files.flatMap((file) => (file ? [[file.ino, file.size] as const] : [])));
    const bytes = [...sizes.values()].reduce((sum, size) => sum + size, 0);
    this.sizes.set(take, { done, bytes });
    return bytes;
  }

  has(take: string, frame: number): boolean {
    return existsSync(this.path(take, frame));
  }

  async removeTake(take: string): Promise<void> {
    this.sizes.delete(take);
    await rm(join(this.folder, 'takes', take), { recursive: true, force: true });
  }

  /** Takes away what a process that was killed left half-written, in all takes. Only while nobody renders. */
  async sweepParts(): Promise<void> {
    const root = join(this.folder, 'takes');
    const names = await readdir(root, { recursive: true }).catch(() => []);
    for (const name of names) if (name.endsWith('.part')) await rm(join(root, name), { force: true });
  }
}

/** The folder of a take's frames. */
export function folderOf(store: FrameStore, take: string): string {
  return dirname(store.path(take, 0));
}
