import type { ErrorRequestHandler, RequestHandler } from 'express';
import { Problem } from '@tender-orbit/core/problem';
import { ValidationError } from 'yup';

/** A problem with the HTTP status it should have; plain Problems from core are 422. */
export class HttpProblem extends Problem {
  readonly status: number;
  readonly extra: Record<string, unknown>;

  constructor(status: number, code: string, message: string, thing?: string, extra: Record<string, unknown> = {}) {
    super(code, message, thing);
    this.status = status;
    this.extra = extra;
  }
}

export function notFound(what: string): HttpProblem {
  return new HttpProblem(
    404,
    'not-found',
    `This ${what} is not here: it may have been deleted. Go back and reload.`,
    what,
  );
}

export const unknownRoute: RequestHandler = (req) => {
  throw new HttpProblem(404, 'not-found', `There is nothing at ${req.path}.`);
};

interface BodyParserError extends Error {
  type?: string;
  status?: number;
  code?: string;
}

/** Every error leaves as application/problem+json (RFC 9457); what is not ours to explain says so and is logged. */
export const problemHandler: ErrorRequestHandler = (error: BodyParserError, req, res, next) => {
  if (res.headersSent) {
    next(error);
    return;
  }
  const problem = asProblem(error);
  if (problem.status >= 500) req.log?.error({ err: error }, 'request failed');
  res
    .status(problem.status)
    .type('application/problem+json')
    .send(
      JSON.stringify({
        type: `urn:tender-orbit:${problem.code}`,
        title: problem.message,
        status: problem.status,
        code: problem.code,
        thing: problem.thing,
        ...problem.extra,
      }),
    );
};

function asProblem(error: BodyParserError): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (error instanceof Problem) return new HttpProblem(422, error.code, error.message, error.thing);
  if (error instanceof ValidationError) return new HttpProblem(422, 'request/invalid', error.errors[0], error.path);
  if (error.type === 'entity.too.large')
    return new HttpProblem(413, 'request/too-large', 'This is too large to save: shorten it.');
  if (error.type === 'entity.parse.failed') return new HttpProblem(400, 'request/not-json', 'The request is not JSON.');
  if (error.code === 'EBADCSRFTOKEN')
    return new HttpProblem(403, 'session/csrf', 'Your session has changed: reload the page.');
  return new HttpProblem(500, 'server/failed', 'Something went wrong on the server; nothing was changed. Try again.');
}
