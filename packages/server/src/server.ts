import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { pino, type Logger } from 'pino';
import { Presence } from './accounts/index.ts';
import { createApp } from './app.ts';
import { AssetStore } from './assets/index.ts';
import type { ServerConfig } from './config.ts';
import type { AppContext } from './context.ts';
import { Database, migrateDatabase } from './database/index.ts';
import { DocumentRepository } from './documents/index.ts';
import { FilmNode } from './films/index.ts';
import { JobEvents, JobQueue, ThreadDispatcher } from './jobs/index.ts';
import { ImportNode } from './products/index.ts';
import { readerPool } from './readers/index.ts';
import { DeliveryFiles, EncodeNode, SoundNode } from './promos/index.ts';
import { RunNode, RunQueue } from './runs/index.ts';
import { stagedPool } from './staged/index.ts';
import { FrameQueue, FrameStore, RenderNode } from './takes/index.ts';

export interface RunningServer {
  address: string;
  context: AppContext;
  /** Finishes open requests, gives rendering work back to the queue and closes the database. */
  stop: () => Promise<void>;
}

const TIDY_EVERY = 6 * 60 * 60 * 1000;

/**
 * Brings the database up to date and serves.
 * @param prepare runs after migration and before the first request; loads demo data in an empty database.
 */
export async function startServer(
  config: ServerConfig,
  prepare?: (context: AppContext) => Promise<void>,
): Promise<RunningServer> {
  const log = pino({ level: config.logLevel });
  const db = await Database.open(config.database);
  await migrateDatabase(db);
  const { context, close } = compose(config, db, log);
  await prepare?.(context);
  // A process that was killed may have left files half-written.
  await context.frames.sweepParts();
  await context.deliveryFiles.sweepParts();
  const server = createServer(createApp(context, log));
  await listen(server, config);
  context.dispatcher.start();
  const tidyUp = (): void => void tidy(context).catch((error: unknown) => log.error({ err: error }, 'tidying up'));
  const timer = setInterval(tidyUp, TIDY_EVERY);
  timer.unref();
  tidyUp();
  return {
    address: `http://${config.host}:${(server.address() as AddressInfo).port}`,
    context,
    stop: async () => {
      clearInterval(timer);
      const closed = new Promise<void>((done) => server.close(() => done()));
      server.closeIdleConnections();
      await context.dispatcher.stop();
      await close();
      // Streams of events never end by themselves.
      setTimeout(() => server.closeAllConnections(), 500).unref();
      await closed;
      await db.close();
    },
  };
}

/** Everything the routes work with, joined. */
function compose(
  config: ServerConfig,
  db: Database,
  log: Logger,
): { context: AppContext; close: () => Promise<unknown> } {
  const assets = new AssetStore(db, config.files, config.uploadLimit);
  const documents = new DocumentRepository(db, assets);
  const jobs = new JobQueue(db);
  const events = new JobEvents();
  const frames = new FrameStore(config.files);
  const frameQueue = new FrameQueue(db, jobs, assets);
  const deliveryFiles = new DeliveryFiles(config.files);
  const renderNode = new RenderNode(frameQueue, frames, assets, config.renderWorkers);
  const runs = new RunQueue(db, jobs, assets);
  const runNode = new RunNode(runs, renderNode);
  const encodeNode = new EncodeNode(db, assets, frames, deliveryFiles, config.ffmpeg);
  const incoming = join(config.files, 'incoming');
  const readers = readerPool();
  const importNode = new ImportNode(assets, documents, readers, incoming);
  const soundNode = new SoundNode(assets, config.ffmpeg, incoming);
  const filmNode = new FilmNode(assets, config.ffmpeg, incoming);
  const staged = stagedPool();
  const presence = new Presence();
  const { renderWorkers } = config;
  const dispatcher = new ThreadDispatcher(jobs, events, log, {
    slots: {
      ...{ import: 2, sound: 1, encode: 1 },
      render: () => Math.max(1, presence.working ? renderWorkers - 1 : renderWorkers),
    },
    handlers: {
      ...{ ...renderNode.handlers, ...encodeNode.handlers, ...importNode.handlers },
      ...{ ...soundNode.handlers, ...filmNode.handlers, ...runNode.handlers },
    },
  });
  return {
    context: {
      ...{ config, db, presence, assets, documents, jobs, events, dispatcher },
      ...{ frameQueue, frames, renderNode, runs, deliveryFiles, staged, readers },
    },
    close: () => Promise.all([renderNode.close(), encodeNode.close(), readers.close(), staged.close()]),
  };
}

/** Lets go of what nobody needs any more: old history, files without use, answers nobody waits for, sessions that have run out. */
async function tidy({ db, assets, documents, jobs }: AppContext): Promise<void> {
  await documents.prune();
  await assets.sweep();
  await jobs.forgetUnfetched();
  await db.run('DELETE FROM sessions WHERE expires < UNIX_TIMESTAMP()');
}

function listen(server: Server, config: ServerConfig): Promise<void> {
  return new Promise((done, fail) => {
    server.once('error', fail);
    server.listen(config.port, config.host, () => done());
  });
}
