import { Problem } from '@tender-orbit/core/problem';

/** A problem answer of the server; `body` carries what came with it, e.g. the newer document of a stale save. */
export class ApiProblem extends Problem {
  constructor(
    readonly status: number,
    code: string,
    message: string,
    readonly body: Record<string, unknown> = {},
  ) {
    super(code, message, typeof body.thing === 'string' ? body.thing : undefined);
  }
}

/** The server could not be reached at all; what was being sent is still here. */
export const UNREACHABLE = 'network/unreachable';

let csrfToken = '';

export function setCsrfToken(token: string): void {
  csrfToken = token;
}

export function csrfHeaders(): Record<string, string> {
  return { 'x-csrf-token': csrfToken };
}

async function ask(path: string, init?: RequestInit): Promise<Response> {
  try {
    return await fetch(`/api${path}`, init);
  } catch {
    throw new ApiProblem(
      0,
      UNREACHABLE,
      'The server cannot be reached. Your work is kept here and sent when it answers again.',
    );
  }
}

/** Fetches a file that the server makes, with the name it gives it. @throws ApiProblem as api() does. */
export async function download(path: string): Promise<{ blob: Blob; name: string }> {
  const response = await ask(path);
  if (!response.ok)
    throw problemFrom(response.status, (await response.json().catch(() => ({}))) as Record<string, unknown>);
  const name = /filename="?([^";]+)/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'file';
  return { blob: await response.blob(), name };
}

/** Calls the API. @throws ApiProblem for every answer that is not a success, and when there is no answer. */
export async function api<T>(method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<T> {
  const response = await ask(path, {
    method,
    headers: { ...csrfHeaders(), ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  if (response.status === 204) return undefined as T;
  const data = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  if (!response.ok) throw problemFrom(response.status, data);
  return data as T;
}

export function problemFrom(status: number, data: Record<string, unknown>): ApiProblem {
  return new ApiProblem(
    status,
    String(data.code ?? 'server/failed'),
    String(data.title ?? `The server answered ${status}: try again.`),
    data,
  );
}

/** What to show a person for anything that was thrown. What is not for them is reported as the fault it is. */
export function sentenceOf(error: unknown): string {
  if (error instanceof Problem) return error.message;
  globalThis.reportError?.(error);
  return 'Something went wrong here: try it again, or reload the page. What was saved is safe.';
}
