/** Packages that ship without types of their own. */
declare module 'draco3dgltf' {
  const draco3d: { createDecoderModule(): Promise<unknown>; createEncoderModule(): Promise<unknown> };
  export default draco3d;
}

declare module 'express-mysql-session' {
  import type { Store } from 'express-session';
  interface Options {
    createDatabaseTable: boolean;
    clearExpired: boolean;
    /** Milliseconds. */
    expiration: number;
  }
  export default function mysqlSession(session: unknown): new (options: Options, pool: unknown) => Store;
}
