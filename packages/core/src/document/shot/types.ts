import type { PropertyValue } from '../../properties/index.ts';
import type { Ease, LinkedEase } from './eases.ts';
import type { Layer } from './layers/index.ts';
import type { MovePath } from './paths.ts';
import type { AppliedRecipe } from './recipes.ts';
import type { Rule } from './rules.ts';

/** `ease` rules the span from this key to the next. */
export interface Key<V extends PropertyValue = PropertyValue> {
  frame: number;
  value: V;
  ease: Ease;
}

/**
 * All keys of one property: `thing` is an id in the set, of a rule or of a layer, `path` a property path in it, e.g. `position.1`. All values are of
 * the property's type; of a track that is read as numbers they are numbers.
 */
export interface Track<V extends PropertyValue = PropertyValue> {
  thing: string;
  path: string;
  keys: Array<Key<V>>;
}

/** A document with keys. */
export interface Keyed {
  tracks: Track[];
  eases: LinkedEase[];
}

/** A document whose layers are composited: a shot, or a promo. */
export interface LayerStack extends Keyed {
  /** The lowest first. */
  layers: Layer[];
}

/** What of a shot moves its set. */
export interface ShotMoves {
  tracks: Track[];
  /** Drawn paths that things can go along. */
  paths: MovePath[];
  /** What acts on top of keys, in this order. */
  rules: Rule[];
  recipes: AppliedRecipe[];
}

export const MOVES_NAMES = ['A', 'B'] as const;
export type MovesName = (typeof MOVES_NAMES)[number];

/** The version of a shot's moves that is not played. */
export interface OtherMoves extends ShotMoves {
  name: MovesName;
}

export interface ShotDocument extends ShotMoves {
  version: 9;
  name: string;
  /** Ids of the set and, in it, the camera. */
  set: string;
  camera: string;
  /** Frames. */
  length: number;
  seed: number;
  /** Eases that keys of this shot share, in both versions of its moves. */
  eases: LinkedEase[];
  /** A second version of its moves, to choose between; null: there is one. */
  other: OtherMoves | null;
  /** What the composite is made of, the lowest first; empty: the take alone. */
  layers: Layer[];
  /** Seconds into the music at the shot's first frame; null: as its first clip in the promo has it. */
  musicFrom: number | null;
}
