import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { AssetStore } from './assets/index.ts';
import type { ServerConfig } from './config.ts';
import { Database, migrateDatabase } from './database/index.ts';
import type { AppContext } from './http/index.ts';
import { DeliveryRunner } from './promos/index.ts';
import { TakeFiles, ThreadDispatcher } from './takes/index.ts';

export interface RunningServer {
  address: string;
  context: AppContext;
  /** Finishes open requests, gives rendering work back to the queue and closes the database. */
  stop: () => Promise<void>;
}

const SWEEP_EVERY = 6 * 60 * 60 * 1000;

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
  const assets = new AssetStore(db, config.files, config.uploadLimit);
  const takeFiles = new TakeFiles(config.files);
  const context: AppContext = {
    config,
    db,
    assets,
    takeFiles,
    dispatcher: new ThreadDispatcher(db, assets, takeFiles, config.renderWorkers, log),
    deliveries: new DeliveryRunner(db, assets, takeFiles, config, log),
  };
  await prepare?.(context);
  const server = createServer(createApp(context, log));
  await listen(server, config);
  await context.dispatcher.start();
  await context.deliveries.start();
  const sweep = (): void => void assets.sweep().catch((error: unknown) => log.error({ err: error }, 'sweeping files'));
  const timer = setInterval(sweep, SWEEP_EVERY);
  timer.unref();
  sweep();
  return {
    address: `http://${config.host}:${(server.address() as AddressInfo).port}`,
    context,
    stop: async () => {
      clearInterval(timer);
      const closed = new Promise<void>((done) => server.close(() => done()));
      server.closeIdleConnections();
      await context.dispatcher.stop();
      await context.deliveries.stop();
      setTimeout(() => server.closeAllConnections(), 2000).unref();
      await closed;
      await db.close();
    },
  };
}

function listen(server: Server, config: ServerConfig): Promise<void> {
  return new Promise((done, fail) => {
    server.once('error', fail);
    server.listen(config.port, config.host, () => done());
  });
}
