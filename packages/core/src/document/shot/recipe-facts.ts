import type { Properties, PropertyValue } from '../../properties/index.ts';
import { USUAL_EASES, type Ease } from './eases.ts';

/** What the things are that a recipe moves. */
export type RecipeRole = 'camera' | 'product' | 'light' | 'card';

/** A recipe by what can be set of it; motion's recipes say what it makes of that. */
export interface RecipeFacts {
  title: string;
  /** One sentence of what it does. */
  says: string;
  role: RecipeRole;
  /** Whether it takes several things, one after the other. */
  many: boolean;
  /** Whether it swaps variants. */
  swaps?: boolean;
  /** Whether it moves parts of a product: its option `part` names them. */
  parts?: boolean;
  /** Whether it plays an animation of the model's own: its option `animation` numbers it. */
  clips?: boolean;
  /** Of a camera's move: whether it also needs products, to pass or to focus on. */
  others?: 'product';
  properties: Properties;
  options: Readonly<Record<string, PropertyValue>>;
  ease: Ease;
  /** Frames at 24 a second that it usually takes; 0: the whole shot. */
  usualLength: number;
  /** Of a move that ends one frame after its last, so that the shot loops. */
  loops?: boolean;
}

export const SOFT: Ease = USUAL_EASES.soft;
export const LANDING: Ease = { kind: 'soft', start: 0, landing: 1 };
export const RECIPE_ORDERS = ['as listed', 'left to right', 'near to far', 'random'] as const;
export type RecipeOrder = (typeof RECIPE_ORDERS)[number];
/** What a model does once its animation has been played. */
export const CLIP_ENDS = ['held', 'released'] as const;
export const SIDES = ['left', 'right', 'front', 'back', 'above', 'below'] as const;
export type Side = (typeof SIDES)[number];
