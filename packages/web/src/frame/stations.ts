import type { Component } from 'vue';

export interface Station {
  path: string;
  name: string;
  view: () => Promise<Component>;
}

/** The seven stations in working order. */
export const STATIONS: readonly Station[] = [
  { path: 'brief', name: 'Brief', view: () => import('../brief/BriefStation.vue') },
  { path: 'products', name: 'Products', view: () => import('../products/ProductsStation.vue') },
  { path: 'set', name: 'Set', view: () => import('../set/SetStation.vue') },
  { path: 'moves', name: 'Moves', view: () => import('../moves/MovesStation.vue') },
  { path: 'composite', name: 'Composite', view: () => import('../composite/CompositeStation.vue') },
  { path: 'promo', name: 'Promo', view: () => import('../promo/PromoStation.vue') },
  { path: 'release', name: 'Release', view: () => import('../release/ReleaseStation.vue') },
];

// Not every browser says when it is idle.
const idle = (work: () => void): void =>
  void (window.requestIdleCallback ? window.requestIdleCallback(work) : window.setTimeout(work, 500));

const pause = (): Promise<void> => new Promise((done) => idle(done));

/** Loads what the viewer will show of the campaign that was opened, once the browser has nothing else to do. */
export function loadShot(): void {
  // What cannot be loaded now is asked for again when it is drawn.
  idle(() => void import('../viewer/preload.ts').then(({ preloadShot }) => preloadShot(pause)).catch(() => undefined));
}

/** Loads the stations one after another while the browser has nothing else to do, so that each opens at once. */
export function loadStations(): void {
  const left = [...STATIONS];
  const next = (): void => {
    // What cannot be loaded now is loaded, or said, when it is opened.
    void left
      .shift()
      ?.view()
      .catch(() => undefined)
      .then(() => idle(next));
  };
  idle(next);
}
