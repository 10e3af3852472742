import { existsSync, readFileSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { deflateSync, inflateSync } from 'node:zlib';
import { readSmoke, writeSmoke, type SmokeFrame, type SmokeState } from '@tender-orbit/core/simulate';

const STATE_PARTS = ['u', 'v', 'w', 'density', 'heat'] as const;

/** Simulated frames on disk, by what they follow from: the same settings give the same name. Written once and whole, compressed. */
export class SimulationStore {
  constructor(private readonly folder: string) {}

  private path(key: string, kind: 'smoke' | 'state'): string {
    return join(this.folder, 'simulations', key.slice(0, 2), `${key}.${kind}`);
  }

  has(key: string, kind: 'smoke' | 'state' = 'smoke'): boolean {
    return existsSync(this.path(key, kind));
  }

  /** @returns undefined when it is not there. @throws Problem `effect/stored` when it cannot be used. */
  smoke(key: string): SmokeFrame | undefined {
    if (!this.has(key)) return undefined;
    return readSmoke(new Uint8Array(inflateSync(readFileSync(this.path(key, 'smoke')))));
  }

  async writeSmoke(key: string, frame: SmokeFrame): Promise<void> {
    await this.write(this.path(key, 'smoke'), deflateSync(writeSmoke(frame), { level: 3 }));
  }

  async state(key: string): Promise<SmokeState | undefined> {
    if (!this.has(key, 'state')) return undefined;
    const bytes = inflateSync(await readFile(this.path(key, 'state')));
    const count = bytes.length / 4 / STATE_PARTS.length;
    const floats = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
    const part = (i: number): Float32Array => floats.subarray(i * count, (i + 1) * count);
    return Object.fromEntries(STATE_PARTS.map((name, i) => [name, part(i)])) as unknown as SmokeState;
  }

  async writeState(key: string, state: SmokeState): Promise<void> {
    const parts = STATE_PARTS.map((name) => {
      const { buffer, byteOffset, byteLength } = state[name];
      return new Uint8Array(buffer, byteOffset, byteLength);
    });
    await this.write(this.path(key, 'state'), deflateSync(Buffer.concat(parts), { level: 1 }));
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
