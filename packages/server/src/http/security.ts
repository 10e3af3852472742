import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { csrfSync } from 'csrf-sync';
import session from 'express-session';
import type { RequestHandler } from 'express';
import mysqlSession from 'express-mysql-session';
import helmet from 'helmet';
import type { Database } from '../database/index.ts';
import type { ServerConfig } from '../config.ts';

const DAY = 24 * 60 * 60 * 1000;

export const csrf = csrfSync({ getTokenFromRequest: (req) => req.headers['x-csrf-token'] as string });

/**
 * What a visitor without a session sends as the token when signing in. Other sites cannot send the header at all without
 * being asked about it first, which they are not; so a visit alone makes no session.
 */
export const VISITOR_TOKEN = 'visitor';

/** Guards signing in: by the session's token where there is a session, else by the header itself. */
export const visitorCsrf: RequestHandler = (req, _res, next) => {
  const good = req.session.personId ? csrf.isRequestValid(req) : req.headers['x-csrf-token'] === VISITOR_TOKEN;
  next(good ? undefined : csrf.invalidCsrfTokenError);
};

/** Strict headers; cross-origin isolation, so that shared memory works in the browser. */
export function securityHeaders(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        // The text and ray kernels are WebAssembly.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // The component library writes its theme as a style element.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        mediaSrc: ["'self'", 'blob:'],
        connectSrc: ["'self'", 'blob:'],
        workerSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'", 'data:'],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        upgradeInsecureRequests: null,
      },
    },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    // Served on loopback without TLS.
    strictTransportSecurity: false,
  });
}

/** Sessions in MariaDB behind an http-only, same-site cookie. */
export function sessions(db: Database, config: ServerConfig): RequestHandler {
  const Store = mysqlSession(session);
  const store = new Store({ createDatabaseTable: false, clearExpired: false, expiration: 30 * DAY }, db.pool);
  return session({
    name: 'tender-orbit',
    secret: sessionSecret(config),
    store,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'lax', maxAge: 30 * DAY, secure: false },
  });
}

/** From the configuration, or made once and kept beside the files with owner-only rights. */
function sessionSecret(config: ServerConfig): string {
  if (config.sessionSecret) return createHash('sha256').update(config.sessionSecret).digest('hex');
  mkdirSync(config.files, { recursive: true });
  const path = join(config.files, 'session-secret');
  if (!existsSync(path)) writeFileSync(path, randomBytes(32).toString('hex'), { mode: 0o600 });
  return readFileSync(path, 'utf8');
}
