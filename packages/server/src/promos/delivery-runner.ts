import { mkdir, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import type { AssetStore } from '../assets/index.ts';
import type { ServerConfig } from '../config.ts';
import type { Database } from '../database/index.ts';
import type { TakeFiles } from '../takes/index.ts';
import { startWorker, stopListening, type WorkerReply } from '../workers/index.ts';
import type { DeliveryJob } from './delivery-worker.ts';
import { migrateDelivery, type DeliverySnapshot } from '@tender-orbit/core/document';
import type { DeliveryFormat } from './snapshot.ts';

const WORKER = new URL('./delivery-worker.ts', import.meta.url);
/** Progress reaches the database at most this often, in ms. */
const REPORT_EVERY = 250;

interface DeliveryRow {
  id: string;
  format: DeliveryFormat;
  snapshot: string;
}

/** Encodes deliveries one after the other in a worker thread; those a stopped server left are begun again. */
export class DeliveryRunner {
  private current: { id: string; worker: Worker } | null = null;
  private stopping = false;

  constructor(
    private readonly db: Database,
    private readonly assets: AssetStore,
    private readonly takes: TakeFiles,
    private readonly config: ServerConfig,
    private readonly log: Logger,
  ) {}

  path(id: string, format: DeliveryFormat): string {
    return join(this.config.files, 'deliveries', `${id}.${format}`);
  }

  async start(): Promise<void> {
    await this.db.run("UPDATE deliveries SET state = 'waiting', progress = 0 WHERE state = 'working'");
    this.wake();
  }

  wake(): void {
    if (this.current || this.stopping) return;
    void this.next().catch((error: unknown) => this.log.error({ err: error }, 'delivery queue'));
  }

  /** Gives up a delivery that is being encoded. */
  cancel(id: string): void {
    if (this.current?.id !== id) return;
    const { worker } = this.current;
    stopListening(worker);
    this.current = null;
    void worker.terminate().then(() => this.wake());
  }

  async remove(id: string, format: DeliveryFormat): Promise<void> {
    this.cancel(id);
    await rm(this.path(id, format), { force: true });
  }

  async stop(): Promise<void> {
    this.stopping = true;
    if (this.current) stopListening(this.current.worker);
    await this.current?.worker.terminate();
  }

  private async next(): Promise<void> {
    const row = await this.db.one<DeliveryRow>(
      "SELECT id, format, snapshot FROM deliveries WHERE state = 'waiting' ORDER BY created_at, id LIMIT 1",
    );
    if (!row || this.current || this.stopping) return;
    const snapshot = migrateDelivery(JSON.parse(row.snapshot) as DeliverySnapshot);
    const job: DeliveryJob = {
      snapshot,
      format: row.format,
      ffmpeg: this.config.ffmpeg,
      takeFolders: Object.fromEntries(
        Object.keys(snapshot.takeLengths).map((take) => [take, dirname(this.takes.path(take, 0))]),
      ),
      music: snapshot.promo.music ? this.assets.path(snapshot.promo.music.asset) : null,
      output: this.path(row.id, row.format),
    };
    const worker = startWorker(WORKER, { workerData: job });
    this.current = { id: row.id, worker };
    await mkdir(dirname(job.output), { recursive: true });
    await this.db.run("UPDATE deliveries SET state = 'working' WHERE id = ?", [row.id]);
    let reported = 0;
    worker.on('message', (message: { progress: number } | WorkerReply<{ size: number }>) => {
      if ('progress' in message) {
        if (performance.now() - reported < REPORT_EVERY) return;
        reported = performance.now();
        void this.db.run("UPDATE deliveries SET progress = ? WHERE id = ? AND state = 'working'", [
          message.progress,
          row.id,
        ]);
        return;
      }
      void this.finish(row.id, worker, message);
    });
    worker.on(
      'error',
      (error) =>
        void this.finish(row.id, worker, { ok: false, problem: { code: 'delivery/failed', message: error.message } }),
    );
  }

  private async finish(id: string, worker: Worker, reply: WorkerReply<{ size: number }>): Promise<void> {
    stopListening(worker);
    if (reply.ok)
      await this.db.run("UPDATE deliveries SET state = 'done', progress = 1, size = ? WHERE id = ?", [
        reply.value.size,
        id,
      ]);
    else
      await this.db.run("UPDATE deliveries SET state = 'failed', error = ? WHERE id = ?", [
        reply.problem.message.slice(0, 500),
        id,
      ]);
    if (this.current?.id === id) this.current = null;
    await worker.terminate();
    this.wake();
  }
}
