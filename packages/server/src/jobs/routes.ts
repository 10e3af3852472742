import { createSession } from 'better-sse';
import { Router } from 'express';
import type { WorkEvent } from '@tender-orbit/core/contract';
import type { Database } from '../database/index.ts';
import type { JobEvents } from './job-events.ts';

export interface WorkContext {
  db: Database;
  events: JobEvents;
  /** @throws unless the campaign is the signed-in person's. */
  requireCampaign: (req: Parameters<Parameters<Router['get']>[1]>[0], campaign: string) => Promise<void>;
  /** What an open campaign is told of its work. */
  workOf: (campaign: string) => Promise<WorkEvent>;
}

/** News go out at most this often, in ms; what another process did is looked for at the longer pace. */
const TELL_EVERY = 250;
const LOOK_EVERY = 2000;

/** Progress of a campaign's work as server-sent events (WHATWG HTML, 9.2), in place of being asked for it. */
export function workRoutes({ db, events, requireCampaign, workOf }: WorkContext): Router {
  const router = Router();

  router.get('/campaigns/:id/events', async (req, res) => {
    const campaign = req.params.id;
    await requireCampaign(req, campaign);
    const session = await createSession(req, res);
    let told = '';
    let timer: ReturnType<typeof setTimeout> | null = null;
    let telling = false;
    const tell = async (): Promise<void> => {
      timer = null;
      telling = true;
      try {
        const work = await workOf(campaign);
        const text = JSON.stringify(work);
        if (text !== told && session.isConnected) session.push(work, 'work');
        told = text;
      } catch (error) {
        req.log?.error({ err: error }, 'telling of work');
      } finally {
        telling = false;
      }
    };
    const soon = (): void => {
      if (telling) timer ??= setTimeout(soonAgain, TELL_EVERY);
      else timer ??= setTimeout(() => void tell(), TELL_EVERY);
    };
    const soonAgain = (): void => {
      timer = null;
      soon();
    };
    let last = '';
    const look = setInterval(() => {
      db.one<{ now: string }>(
        "SELECT CONCAT(COUNT(*), ' ', COALESCE(MAX(updated_at), '')) AS now FROM jobs WHERE campaign_id = ?",
        [campaign],
      ).then(
        (row) => {
          if (row?.now !== last) soon();
          last = row?.now ?? '';
        },
        (error: unknown) => req.log?.error({ err: error }, 'looking for work'),
      );
    }, LOOK_EVERY);
    const end = events.listen(campaign, soon);
    session.once('disconnected', () => {
      end();
      clearInterval(look);
      if (timer) clearTimeout(timer);
    });
    await tell();
  });
  return router;
}
