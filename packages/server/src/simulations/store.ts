import { existsSync, readFileSync } from 'node:fs';
import { mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { deflateSync, inflateSync } from 'node:zlib';
import { readFrame, writeFrame, type EffectFrame } from '@tender-orbit/core/simulate';

type Stored = 'frame' | 'state';

/** Simulated frames on disk, by what they follow from: the same settings give the same name. Written once and whole, compressed. */
export class SimulationStore {
  constructor(private readonly folder: string) {}

  /** Where a simulated frame lies when it is there: compressed by zlib. */
  path(key: string, kind: Stored = 'frame'): string {
    return join(this.folder, 'simulations', key.slice(0, 2), `${key}.${kind}`);
  }

  has(key: string, kind: Stored = 'frame'): boolean {
    return existsSync(this.path(key, kind));
  }

  /** @returns undefined when it is not there. @throws Problem `effect/stored` when it cannot be used. */
  frame(key: string): EffectFrame | undefined {
    if (!this.has(key)) return undefined;
    return readFrame(new Uint8Array(inflateSync(readFileSync(this.path(key, 'frame')))));
  }

  async writeFrame(key: string, frame: EffectFrame): Promise<void> {
    await this.writeStored(key, deflateSync(writeFrame(frame), { level: 3 }));
  }

  /** A frame as it lies in a store already. */
  async writeStored(key: string, bytes: Uint8Array): Promise<void> {
    await this.write(this.path(key, 'frame'), bytes);
  }

  /** What going on from a frame takes; undefined when it was not kept. */
  state(key: string): Uint8Array | undefined {
    return this.has(key, 'state') ? new Uint8Array(inflateSync(readFileSync(this.path(key, 'state')))) : undefined;
  }

  async writeState(key: string, state: Uint8Array): Promise<void> {
    await this.write(this.path(key, 'state'), deflateSync(state, { level: 1 }));
  }

  private async write(path: string, bytes: Uint8Array): Promise<void> {
    await mkdir(dirname(path), { recursive: true });
    // Two workers may come to the same frame: each writes a file of its own, and the last one to be whole stays.
    const part = `${path}.${process.pid}-${Math.random().toString(36).slice(2)}.part`;
    await writeFile(part, bytes);
    await rename(part, path);
  }

  /** Bytes that simulated frames take on disk. */
  async used(): Promise<number> {
    let bytes = 0;
    for (const file of await this.files()) bytes += (await stat(file).catch(() => ({ size: 0 }))).size;
    return bytes;
  }

  /** Takes all of it away: whatever needs some simulates it again. */
  async clear(): Promise<void> {
    await rm(join(this.folder, 'simulations'), { recursive: true, force: true });
  }

  private async files(): Promise<string[]> {
    const root = join(this.folder, 'simulations');
    const names = await readdir(root, { recursive: true }).catch(() => []);
    return names.filter((name) => name.includes('.')).map((name) => join(root, name));
  }
}
