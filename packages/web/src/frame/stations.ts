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
