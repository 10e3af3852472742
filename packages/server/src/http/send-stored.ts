import type { Response } from 'express';
import { notFound } from './problems.ts';

/**
 * Sends a stored file: in parts where asked for, and let go of with its reader.
 *
 * @param what said when it is missing: `file`, `frame`
 * @throws HttpProblem 404 when it is not on disk, whatever the database says
 */
export function sendStored(res: Response, path: string, what: string, fileName?: string): Promise<void> {
  return new Promise((done, fail) => {
    const ended = (error?: NodeJS.ErrnoException & { status?: number }): void => {
      if (!error || res.headersSent || error.code === 'ECONNABORTED' || res.destroyed) {
        done();
        return;
      }
      for (const header of ['Cache-Control', 'Content-Disposition', 'Content-Length', 'Content-Type'])
        res.removeHeader(header);
      fail(error.code === 'ENOENT' || error.status === 404 ? notFound(what) : error);
    };
    if (fileName === undefined) res.sendFile(path, { dotfiles: 'allow' }, ended);
    else res.download(path, fileName, { dotfiles: 'allow' }, ended);
  });
}
