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

/** Loads the stations one after another while the browser has nothing else to do, so that each opens at once. */
export function loadStations(): void {
  const left = [...STATIONS];
  // Not every browser says when it is idle.
  const idle = window.requestIdleCallback ?? ((work: () => void) => window.setTimeout(work, 500));
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
