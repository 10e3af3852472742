import { availableParallelism } from 'node:os';
import { resolve } from 'node:path';

/** Whether only this machine reaches a server on that address. */
export const isLoopback = (host: string): boolean => ['127.0.0.1', '::1', 'localhost'].includes(host);

/** Where the server finds and puts things; every field can be set by an environment variable. */
export interface ServerConfig {
  host: string;
  port: number;
  database: { host: string; port: number; user: string; password: string; database: string };
  /** Folder of asset files, take frames and deliveries. */
  files: string;
  /** Folder of the built web application; empty serves the API alone. */
  web: string;
  ffmpeg: string;
  /** Bytes a single upload may have. */
  uploadLimit: number;
  renderWorkers: number;
  /** E-mail addresses of accounts that nobody can sign in to. */
  locked: readonly string[];
  sessionSecret: string;
  logLevel: string;
}

export function configFromEnvironment(env: NodeJS.ProcessEnv = process.env): ServerConfig {
  const data = resolve(env.TENDER_ORBIT_DATA ?? '.data');
  return {
    host: env.TENDER_ORBIT_HOST ?? '127.0.0.1',
    port: Number(env.TENDER_ORBIT_PORT ?? 4310),
    database: {
      host: '127.0.0.1',
      port: Number(env.TENDER_ORBIT_DB_PORT ?? 4311),
      user: env.TENDER_ORBIT_DB_USER ?? 'root',
      password: env.TENDER_ORBIT_DB_PASSWORD ?? '',
      database: env.TENDER_ORBIT_DB_NAME ?? 'tender_orbit',
    },
    files: resolve(data, 'files'),
    web: env.TENDER_ORBIT_WEB ?? resolve('packages/web/dist'),
    ffmpeg: env.TENDER_ORBIT_FFMPEG ?? 'ffmpeg',
    uploadLimit: Number(env.TENDER_ORBIT_UPLOAD_LIMIT ?? 256 * 1024 * 1024),
    renderWorkers: Number(env.TENDER_ORBIT_RENDER_WORKERS ?? availableParallelism()),
    locked: [],
    sessionSecret: env.TENDER_ORBIT_SESSION_SECRET ?? '',
    logLevel: env.TENDER_ORBIT_LOG ?? 'info',
  };
}
