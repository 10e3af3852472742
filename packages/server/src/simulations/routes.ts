import { Router } from 'express';
import type { SimulationsUsed } from '@tender-orbit/core/contract';
import { Problem } from '@tender-orbit/core/problem';
import type { Database } from '../database/index.ts';
import { SimulationStore } from './store.ts';

interface SimulationsContext {
  db: Database;
  config: { files: string };
}

/** How much room simulated frames take, and clearing them: whatever needs some simulates it again. */
export function simulationRoutes({ db, config }: SimulationsContext): Router {
  const router = Router();
  const store = new SimulationStore(config.files);
  router.get('/simulations', async (_req, res) => {
    res.json({ bytes: await store.used() } satisfies SimulationsUsed);
  });
  router.delete('/simulations', async (_req, res) => {
    // A take that is on its way has frames that were simulated for it and that it has not come to yet.
    const { count } = (await db.one<{ count: number }>(
      // What waits for something that failed does not go on by itself.
      `SELECT COUNT(*) AS count FROM jobs WHERE queue = 'render'
         AND (state IN ('working', 'paused') OR (state = 'waiting' AND waits = 0))`,
    ))!;
    if (Number(count) > 0)
      throw new Problem(
        'simulations/in-use',
        'Takes or simulations are on their way or stopped half-way, and may need what was simulated: let them finish, or delete them, first.',
      );
    await db.run("DELETE FROM jobs WHERE kind = 'simulate'");
    await db.run('DELETE FROM simulation_runs');
    await db.run("DELETE FROM asset_uses WHERE user_kind = 'simulation'");
    await store.clear();
    res.json({ bytes: 0 } satisfies SimulationsUsed);
  });
  return router;
}
