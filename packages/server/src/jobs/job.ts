/** Work of one sort, served by workers of its own. */
export type Queue = 'render' | 'encode' | 'import' | 'sound';

/** A job as the table holds it, for whoever works on it. */
export interface Job {
  id: number;
  queue: Queue;
  kind: string;
  campaign: string;
  /** What it is about: a take and one of its frames, a delivery, an import. */
  subject: string;
  part: number;
  attempts: number;
  payload: unknown;
}

export interface NewJob {
  queue: Queue;
  kind: string;
  campaign: string;
  subject: string;
  part?: number;
  /** Lower goes first; 5 is usual. */
  priority?: number;
  payload?: unknown;
  /** Jobs of the same subject, by kind and part, that must be done before. They are added before this one. */
  after?: ReadonlyArray<{ kind: string; part: number }>;
}

/** A job that breaks its worker, or whose owner is lost, this often has failed. */
export const MOST_ATTEMPTS = 2;

/** How long a job is its owner's without a sign of life, in seconds. */
export const LEASE_SECONDS = 30;
