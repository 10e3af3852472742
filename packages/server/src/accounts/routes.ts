import { Router, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import {
  NO_PREFERENCES,
  preferencesBody,
  signInBody,
  type Person,
  type SessionAnswer,
} from '@tender-orbit/core/contract';
import type { ServerConfig } from '../config.ts';
import type { Database } from '../database/index.ts';
import { csrf, HttpProblem, personOf, VISITOR_TOKEN, visitorCsrf } from '../http/index.ts';
import { checkPassword, findPerson, keepPreferences, readPreferences } from './people.ts';
import type { Presence } from './presence.ts';

export interface AccountContext {
  db: Database;
  presence: Presence;
  config: Pick<ServerConfig, 'uploadLimit' | 'locked'>;
}

/** Whoever is not signed in is told so, rather than that their token is old. */
const signedIn: RequestHandler = (req, _res, next) => {
  personOf(req);
  next();
};

export function accountRoutes(ctx: AccountContext): Router {
  const router = Router();
  const limiter = rateLimit({
    windowMs: 60_000,
    limit: 30,
    handler: () => {
      throw new HttpProblem(429, 'session/too-many', 'Too many tries: wait a minute and try again.');
    },
  });

  // With what a client must know of this server: it refuses hopeless uploads itself.
  const answer = async (person: Person | null, csrfToken: string): Promise<SessionAnswer> => ({
    ...{ person, csrfToken, uploadLimit: ctx.config.uploadLimit },
    preferences: person ? await readPreferences(ctx.db, person.id) : NO_PREFERENCES,
  });

  router.get('/session', async (req, res) => {
    const person = req.session.personId ? await findPerson(ctx.db, req.session.personId) : null;
    // Somebody who is no more has no session either.
    if (req.session.personId && !person)
      await new Promise<void>((done, fail) => req.session.destroy((error) => (error ? fail(error) : done())));
    // A visit alone leaves no row behind.
    res.json(await answer(person, person ? csrf.generateToken(req) : VISITOR_TOKEN));
  });

  router.post('/session', limiter, visitorCsrf, async (req, res) => {
    const { email, password } = await signInBody.validate(req.body ?? {});
    const locked = ctx.config.locked.includes(email.trim().toLowerCase());
    const person = locked ? null : await checkPassword(ctx.db, email, password);
    if (!person) throw new HttpProblem(401, 'session/wrong', 'E-mail address and password do not match.', 'Password');
    // A fresh session id, so that one planted before signing in is worth nothing.
    await new Promise<void>((done, fail) => req.session.regenerate((error) => (error ? fail(error) : done())));
    req.session.personId = person.id;
    res.json(await answer(person, csrf.generateToken(req, true)));
  });

  router.put('/session/preferences', signedIn, csrf.csrfSynchronisedProtection, async (req, res) => {
    await keepPreferences(ctx.db, personOf(req), await preferencesBody.validate(req.body ?? {}));
    res.status(204).end();
  });

  // Sent now and then by those who want a core left free while they work.
  router.post('/session/presence', signedIn, csrf.csrfSynchronisedProtection, (_req, res) => {
    ctx.presence.note();
    res.status(204).end();
  });

  router.delete('/session', csrf.csrfSynchronisedProtection, async (req, res) => {
    await new Promise<void>((done, fail) => req.session.destroy((error) => (error ? fail(error) : done())));
    res.status(204).end();
  });
  return router;
}
