import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { DeliveryFormat } from '@tender-orbit/core/contract';

/** Where delivered files lie. */
export class DeliveryFiles {
  private readonly folder: string;

  constructor(files: string) {
    this.folder = join(files, 'deliveries');
  }

  path(id: string, format: DeliveryFormat): string {
    return join(this.folder, `${id}.${format}`);
  }

  async makeFolder(): Promise<void> {
    await mkdir(this.folder, { recursive: true });
  }

  async remove(id: string, format: DeliveryFormat): Promise<void> {
    await rm(this.path(id, format), { force: true });
    await this.removeParts(id, format);
  }

  /** Takes away what an encoding that was given up left. */
  async removeParts(id: string, format: DeliveryFormat): Promise<void> {
    for (const end of ['part', 'f32']) await rm(`${this.path(id, format)}.${end}`, { force: true });
  }

  /** The same for what a process that was killed left. Only while nothing is encoded. */
  async sweepParts(): Promise<void> {
    const names = await readdir(this.folder).catch(() => []);
    for (const name of names) if (/\.(part|f32)$/.test(name)) await rm(join(this.folder, name), { force: true });
  }
}
