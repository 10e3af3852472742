import type { WorkEvent } from './types.ts';

/** Something that is listened to until it is closed. */
export interface WorkStream {
  close(): void;
}

/**
 * Follows the work on a campaign as the server tells of it. A connection that breaks off is made again by the browser.
 * Where there are no server-sent events (a test without a browser) nothing is followed.
 */
export function followWork(campaign: string, heard: (work: WorkEvent) => void): WorkStream {
  if (typeof EventSource === 'undefined') return { close: () => undefined };
  const source = new EventSource(`/api/campaigns/${campaign}/events`);
  source.addEventListener('work', (event) => heard(JSON.parse((event as MessageEvent<string>).data) as WorkEvent));
  return source;
}
