import type {
  BlockSurface,
  CardSurface,
  EnvironmentLight,
  SetCamera,
  SetEffect,
  SetLight,
  SetNull,
  SetProduct,
  SweepSurface,
} from './kinds/index.ts';

export type SetSurface = SweepSurface | CardSurface | BlockSurface;

/** How scene light becomes display values. */
export const VIEW_TRANSFORMS = ['neutral', 'filmic', 'plain'] as const;
export type ViewTransform = (typeof VIEW_TRANSFORMS)[number];

/** The virtual studio. */
export interface SetDocument {
  version: 9;
  name: string;
  products: SetProduct[];
  surfaces: SetSurface[];
  lights: SetLight[];
  environment: EnvironmentLight;
  cameras: SetCamera[];
  effects: SetEffect[];
  nulls: SetNull[];
  view: ViewTransform;
}

/** Anything in a set that has an id, and so can be selected and keyed. */
export type SetThing = SetProduct | SetSurface | SetLight | EnvironmentLight | SetCamera | SetEffect | SetNull;
