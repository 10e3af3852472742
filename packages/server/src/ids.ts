import { randomBytes } from 'node:crypto';

/** A short random id that is safe in URLs and file names. */
export function newId(): string {
  return randomBytes(9).toString('base64url');
}
