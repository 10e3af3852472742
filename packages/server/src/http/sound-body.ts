import type { RequestHandler } from 'express';
import { unsoundData } from '@tender-orbit/core/text';
import { HttpProblem } from './problems.ts';

/** Refuses JSON that no honest client sends, before any route looks at it. */
export const soundBody: RequestHandler = (req, _res, next) => {
  const wrong = unsoundData(req.body);
  if (wrong) throw new HttpProblem(400, 'request/unsound', `The request was refused: ${wrong}.`);
  next();
};
