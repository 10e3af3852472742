import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import { pinoHttp } from 'pino-http';
import type { Logger } from 'pino';
import { accountRoutes } from './accounts/index.ts';
import { assetRoutes } from './assets/index.ts';
import { campaignRoutes } from './campaigns/index.ts';
import type { AppContext } from './context.ts';
import { documentRoutes, requireCampaign } from './documents/index.ts';
import {
  csrf,
  HttpProblem,
  personOf,
  problemHandler,
  securityHeaders,
  sessions,
  soundBody,
  unknownRoute,
} from './http/index.ts';
import { filmRoutes } from './films/index.ts';
import { workRoutes } from './jobs/index.ts';
import { lookRoutes, titleStyleRoutes } from './looks/index.ts';
import { fontRoutes } from './fonts/index.ts';
import { pictureRoutes } from './pictures/index.ts';
import { productRoutes } from './products/index.ts';
import { listDeliveries, promoRoutes } from './promos/index.ts';
import { simulationRunRoutes } from './runs/index.ts';
import { simulationRoutes } from './simulations/index.ts';
import { stagedRoutes } from './staged/index.ts';
import { listTakes, takeRoutes } from './takes/index.ts';

/** JSON documents larger than this are refused; files go through the upload route instead. */
const JSON_LIMIT = '8mb';

export function createApp(ctx: AppContext, log: Logger): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger: log,
      quietReqLogger: true,
      customLogLevel: (_req, res) => (res.statusCode >= 500 ? 'error' : 'debug'),
      // Headers carry the session cookie and the CSRF token: a log is no place for them.
      serializers: {
        req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({ id, method, url }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      },
    }),
  );
  app.use(securityHeaders());
  app.get('/api/health', async (_req, res) => {
    await ctx.db.one('SELECT 1 AS ok');
    res.json({ ok: true });
  });
  const api = express.Router();
  api.use(sessions(ctx.db, ctx.config));
  api.use(express.json({ limit: JSON_LIMIT, type: 'application/json' }));
  api.use(soundBody);
  api.use(accountRoutes(ctx));
  api.use((req, _res, next) => {
    personOf(req);
    next();
  });
  api.use(csrf.csrfSynchronisedProtection);
  for (const routes of [
    assetRoutes,
    campaignRoutes,
    documentRoutes,
    productRoutes,
    pictureRoutes,
    fontRoutes,
    filmRoutes,
    takeRoutes,
    stagedRoutes,
    simulationRoutes,
    simulationRunRoutes,
    promoRoutes,
    lookRoutes,
    titleStyleRoutes,
  ])
    api.use(routes(ctx));
  api.use(
    workRoutes({
      ...ctx,
      requireCampaign: (req, campaign) => requireCampaign(ctx.db, req, campaign),
      workOf: async (campaign) => ({
        takes: await listTakes(ctx, campaign),
        deliveries: await listDeliveries(ctx, campaign),
        simulations: await ctx.runs.list(campaign),
      }),
    }),
  );
  api.use(unknownRoute);
  app.use('/api', api);
  if (ctx.config.web && existsSync(join(ctx.config.web, 'index.html'))) serveWeb(app, ctx.config.web);
  app.use(unknownRoute);
  app.use(problemHandler);
  return app;
}

function serveWeb(app: Express, folder: string): void {
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (res, path) =>
        res.set('Cache-Control', path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache'),
    }),
  );
  app.get('/{*path}', (req, res) => {
    if (req.path.startsWith('/assets/')) throw new HttpProblem(404, 'not-found', `There is nothing at ${req.path}.`);
    res.set('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html'), { dotfiles: 'allow' });
  });
}
