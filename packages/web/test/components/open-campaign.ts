import 'fake-indexeddb/auto';
import { clear } from 'idb-keyval';
import {
  newBlock,
  newCampaign,
  newPromo,
  newSet,
  newShot,
  nextProduct,
  replaceTracks,
  type Command,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { builtDocument, newBuilder, TURNED_PRESETS } from '@tender-orbit/core/product';
import type { Pinia } from 'pinia';
import type { CampaignBundle, TakeSummary } from '../../src/api/index.ts';
import { useCampaign } from '../../src/stores/index.ts';
import { freshStores, show } from './mounted.ts';
import { createMemoryHistory, createRouter } from 'vue-router';

function studio(): SetDocument {
  const set = newSet('Studio');
  set.products = [nextProduct(set, 'item', { id: 'jar', name: 'Jar' }, [0, 0], '')];
  set.surfaces.push(newBlock('plinth', 'plinth', { name: 'Plinth' }));
  return set;
}

function bundle(): CampaignBundle {
  return {
    campaign: { id: 'c', revision: 1, document: newCampaign('Launch', { client: 'Vellowmere' }) },
    products: [
      { id: 'jar', revision: 1, document: builtDocument('Jar', TURNED_PRESETS.jar) },
      { id: 'box', revision: 1, document: builtDocument('Box', newBuilder('carton')) },
    ],
    sets: [{ id: 'set', revision: 1, document: studio() }],
    shots: [
      { id: 'shot', revision: 1, document: newShot('Jar turns', 'set', 'hero', 48) },
      { id: 'shot2', revision: 1, document: newShot('Lid', 'set', 'hero', 24) },
    ],
    promos: [{ id: 'promo', revision: 1, document: newPromo('Launch', 960, 540) }],
    takes: [],
    deliveries: [],
    simulations: [],
  };
}

/** A draft of the first shot that is wholly there. */
export const wholeTake = (values: Partial<TakeSummary> = {}): TakeSummary => ({
  ...{ id: 't1', shot: 'shot', name: 'Take 1', quality: 'draft', width: 64, height: 36, length: 48, state: 'done' },
  ...{ error: null, done: Array.from({ length: 48 }, (_, i) => i), secondsPerFrame: 1, secondsLeft: null, bytes: 0 },
  ...{ frames: null, times: null, passes: false, lights: false, failed: [], createdAt: '2026-01-01T00:00:00Z' },
  ...values,
});

/** What was asked of the server since the campaign was opened: method, path and body. */
export const asked: Array<[method: string, path: string, body: unknown]> = [];

/** Opens a campaign with a jar on its set, on a server that takes everything; new documents are called `made`. */
export async function openCampaign(
  answers: Record<string, unknown> = {},
  more: Partial<CampaignBundle> = {},
): Promise<void> {
  pinia = freshStores();
  await clear();
  asked.length = 0;
  globalThis.fetch = (async (path: string, init: { method: string; body?: string }) => {
    const body: unknown = typeof init.body === 'string' ? JSON.parse(init.body) : undefined;
    asked.push([init.method, path, body]);
    const key = `${init.method} ${path}`;
    if (key in answers) return Response.json(answers[key]);
    if (path === '/api/campaigns/c') return Response.json({ ...bundle(), ...more });
    if (init.method === 'POST') return Response.json({ id: 'made', revision: 1, document: body });
    return Response.json({ id: 'x', revision: 2 });
  }) as unknown as typeof fetch;
  await useCampaign().open('c');
}

let pinia: Pinia;
/** Addresses as the application has them, with nothing at any. */
export const router = createRouter({
  history: createMemoryHistory(),
  routes: [
    { path: '/campaign/:campaign/:station', component: { template: '<i />' } },
    { path: '/:rest(.*)*', component: { template: '<i />' } },
  ],
});

/** Mounts a panel in the campaign that was opened. */
export const panel = (component: unknown, props: object = {}): ReturnType<typeof show> =>
  show(component as never, { props, global: { plugins: [pinia, router] } } as never);

/** Two keys that turn a thing once over 48 frames. */
export const turning = (thing: string, degrees = 360): Command<ShotDocument> =>
  replaceTracks('Turn', [
    {
      ...{ thing, path: 'turn' },
      keys: [
        { frame: 0, value: 0, ease: 'linear' },
        { frame: 48, value: degrees, ease: 'linear' },
      ],
    },
  ]);
