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

/** What libraries between the socket and our routes throw. */
interface RequestError extends Error {
  type?: string;
  status?: number;
  code?: string;
}

/** Sentences for what they refuse, by the type or code they give it. */
const REFUSALS: Record<string, [status: number, code: string, sentence: string]> = {
  'entity.too.large': [413, 'request/too-large', 'This is too large to save: shorten it.'],
  'entity.parse.failed': [400, 'request/not-json', 'The request is not JSON.'],
  'encoding.unsupported': [
    415,
    'request/encoding',
    'The request is packed in a way that is not read here: send it as it is.',
  ],
  'charset.unsupported': [
    415,
    'request/charset',
    'The request is written in other letters than UTF-8: send it as UTF-8.',
  ],
  'request.aborted': [400, 'request/broken-off', 'The request broke off: send it again.'],
  'request.size.invalid': [400, 'request/length', 'The request is not as long as it says: send it again.'],
  'parameters.too.many': [413, 'request/too-large', 'The request has too many fields: send fewer.'],
  Z_DATA_ERROR: [400, 'request/encoding', 'What is packed in the request is damaged: send it again.'],
  Z_BUF_ERROR: [400, 'request/encoding', 'What is packed in the request is cut off: send it again.'],
  EBADCSRFTOKEN: [403, 'session/csrf', 'Your session has changed: reload the page.'],
};

/** Every error leaves as application/problem+json (RFC 9457); what is not ours to explain says so and is logged. */
export const problemHandler: ErrorRequestHandler = (error: RequestError, req, res, next) => {
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

function asProblem(error: RequestError): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (error instanceof Problem) return new HttpProblem(422, error.code, error.message, error.thing);
  if (error instanceof ValidationError) return new HttpProblem(422, 'request/invalid', error.errors[0], error.path);
  const refusal = REFUSALS[error.type ?? ''] ?? REFUSALS[error.code ?? ''];
  if (refusal) return new HttpProblem(...refusal);
  if (error instanceof URIError) return new HttpProblem(400, 'request/address', 'This address cannot be read.');
  const { status = 500 } = error;
  if (status >= 400 && status < 500)
    return new HttpProblem(status, 'request/refused', 'The request cannot be read: send it again.');
  return new HttpProblem(500, 'server/failed', 'Something went wrong on the server; nothing was changed. Try again.');
}
