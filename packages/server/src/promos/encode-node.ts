import { MessageChannel } from 'node:worker_threads';
import { asked } from '@tender-orbit/core/composite';
import type { DeliveryFormat } from '@tender-orbit/core/contract';
import { migrateDelivery, type DeliverySnapshot } from '@tender-orbit/core/document';
import { fontFiles, ownFontAsset, promoTexts, soundFilesOf } from '@tender-orbit/core/promo';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { framesOf } from '../films/index.ts';
import type { JobHandler } from '../jobs/index.ts';
import { folderOf, type FrameStore } from '../takes/index.ts';
import { WorkerPool } from '../workers/index.ts';
import type { DeliveryFiles } from './delivery-files.ts';
import type { DeliveryTask, EncodeNews } from './delivery-worker.ts';

const WORKER = new URL('./delivery-worker.ts', import.meta.url);

interface DeliveryRow {
  id: string;
  format: DeliveryFormat;
  snapshot: string;
}

/** Encodes deliveries in a thread of this machine. */
export class EncodeNode {
  private readonly pool = new WorkerPool<DeliveryTask, { size: number }>(WORKER, { threads: 1 });

  constructor(
    private readonly db: Database,
    private readonly assets: AssetStore,
    private readonly frames: FrameStore,
    private readonly files: DeliveryFiles,
    private readonly ffmpeg: string,
  ) {}

  get handlers(): Record<string, JobHandler> {
    return {
      delivery: async ({ subject }, { signal, progress }) => {
        const row = await this.db.one<DeliveryRow>('SELECT id, format, snapshot FROM deliveries WHERE id = ?', [
          subject,
        ]);
        if (!row) throw new Error(`The delivery ${subject} is gone.`);
        const { size } = await this.encode(row, signal, progress);
        return {
          also: async (statements) =>
            void (await statements.run('UPDATE deliveries SET size = ? WHERE id = ?', [size, subject])),
        };
      },
    };
  }

  async close(): Promise<void> {
    await this.pool.close();
  }

  private async encode(
    { id, format, snapshot: stored }: DeliveryRow,
    signal: AbortSignal,
    progress: (share: number) => void,
  ): Promise<{ size: number }> {
    const snapshot = migrateDelivery(JSON.parse(stored) as DeliverySnapshot);
    const cuts = [snapshot.promo, ...Object.values(snapshot.cuts ?? {})];
    const composites = [snapshot.composites ?? {}, snapshot.shown ?? {}]
      .flatMap((all) => Object.values(all))
      .flatMap((c) => [c, ...Object.values(c.others ?? {})]);
    const {
      takes: others,
      composites: nested,
      stills: wanted,
      films: lists,
      cubes,
      vectors,
    } = asked([...cuts.flatMap(({ layers }) => layers), ...composites.flatMap(({ shot }) => shot.layers)]);
    const takes = [...new Set([...Object.keys(snapshot.takeLengths), ...others, ...nested])].filter(
      (take) => take !== '',
    );
    const stills = [...wanted];
    const films: Record<string, string[]> = {};
    for (const list of [...lists, ...cuts.flatMap(({ footage }) => footage.map((f) => f.list))])
      films[list] = (await framesOf(this.assets, list)).map((frame) => this.assets.path(frame));
    await this.files.makeFolder();
    const { port1, port2 } = new MessageChannel();
    let encoder = 0;
    port1.on('message', (news: EncodeNews) => {
      if (news.encoder !== undefined) encoder = news.encoder;
      if (news.progress !== undefined) progress(news.progress);
    });
    port1.unref();
    try {
      return await this.pool.run(
        {
          id,
          snapshot,
          format,
          ffmpeg: this.ffmpeg,
          takeFolders: Object.fromEntries(takes.map((take) => [take, folderOf(this.frames, take)])),
          stills: Object.fromEntries(stills.map((asset) => [asset, this.assets.path(asset)])),
          films,
          cubes: Object.fromEntries([...cubes].map((asset) => [asset, this.assets.path(asset)])),
          vectors: Object.fromEntries([...vectors].map((asset) => [asset, this.assets.path(asset)])),
          fonts: Object.fromEntries(
            fontFiles(cuts.flatMap((cut) => promoTexts(cut, composites))).flatMap((file) => {
              const asset = ownFontAsset(file);
              return asset ? [[asset, this.assets.path(asset)]] : [];
            }),
          ),
          music: snapshot.promo.music ? this.assets.path(snapshot.promo.music.asset) : null,
          sounds: Object.fromEntries(
            [...soundFilesOf(snapshot.promo, snapshot.cuts ?? {}, snapshot.frameRate)].map(([asset, seconds]) => [
              asset,
              { path: this.assets.path(asset), seconds },
            ]),
          ),
          output: this.files.path(id, format),
          port: port2,
        },
        { signal, transfer: [port2 as unknown as ArrayBuffer] },
      );
    } catch (error) {
      await end(encoder);
      await this.files.removeParts(id, format);
      throw error;
    } finally {
      port1.close();
    }
  }
}

/** Ends an encoder whose thread was ended, and waits until it no longer writes. */
async function end(pid: number): Promise<void> {
  if (pid === 0) return;
  const alive = (): boolean => {
    try {
      return process.kill(pid, 0);
    } catch {
      return false;
    }
  };
  if (alive()) process.kill(pid, 'SIGKILL');
  for (let i = 0; i < 50 && alive(); i++) await new Promise((next) => setTimeout(next, 20));
}
