import type { Request } from 'express';
import { HttpProblem } from './problems.ts';

declare module 'express-session' {
  interface SessionData {
    personId: string;
  }
}

/** @throws HttpProblem 401 unless somebody is signed in. */
export function personOf(req: Request): string {
  const id = req.session.personId;
  if (!id) throw new HttpProblem(401, 'session/none', 'Sign in to go on.');
  return id;
}
