import type { Component } from 'vue';

export interface Station {
  path: string;
  name: string;
  view: () => Promise<Component>;
}

/** The seven stations in working order. */
export const STATIONS: readonly Station[] = [
  { path: 'brief', name: 'Brief', view: () => import('./BriefStation.vue') },
  { path: 'products', name: 'Products', view: () => import('./ProductsStation.vue') },
  { path: 'set', name: 'Set', view: () => import('./SetStation.vue') },
  { path: 'moves', name: 'Moves', view: () => import('./MovesStation.vue') },
  { path: 'composite', name: 'Composite', view: () => import('./CompositeStation.vue') },
  { path: 'promo', name: 'Promo', view: () => import('./PromoStation.vue') },
  { path: 'release', name: 'Release', view: () => import('./ReleaseStation.vue') },
];
