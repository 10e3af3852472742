import type { Presence } from './accounts/index.ts';
import type { AssetStore } from './assets/index.ts';
import type { ServerConfig } from './config.ts';
import type { Database } from './database/index.ts';
import type { DocumentRepository } from './documents/index.ts';
import type { JobDispatcher, JobEvents, JobQueue } from './jobs/index.ts';
import type { DeliveryFiles } from './promos/index.ts';
import type { Readers } from './readers/index.ts';
import type { RunQueue } from './runs/index.ts';
import type { StagedPool } from './staged/index.ts';
import type { FrameQueue, FrameStore, RenderNode } from './takes/index.ts';

/** Everything that routes work with; each folder asks for what it needs of it. */
export interface AppContext {
  config: ServerConfig;
  db: Database;
  presence: Presence;
  assets: AssetStore;
  documents: DocumentRepository;
  jobs: JobQueue;
  events: JobEvents;
  dispatcher: JobDispatcher;
  frameQueue: FrameQueue;
  frames: FrameStore;
  renderNode: RenderNode;
  deliveryFiles: DeliveryFiles;
  runs: RunQueue;
  staged: StagedPool;
  readers: Readers;
}
