import type { PropertyValue } from '../../properties/index.ts';
import type { Ease, LinkedEase } from './eases.ts';

/** `ease` rules the span from this key to the next. */
export interface Key<V extends PropertyValue = PropertyValue> {
  frame: number;
  value: V;
  ease: Ease;
}

/**
 * All keys of one property: `thing` is an id in the set, `path` a property path in it, e.g. `position.1`. All values are of
 * the property's type; of a track that is read as numbers they are numbers.
 */
export interface Track<V extends PropertyValue = PropertyValue> {
  thing: string;
  path: string;
  keys: Array<Key<V>>;
}

export interface ShotDocument {
  version: 3;
  name: string;
  /** Ids of the set and, in it, the camera. */
  set: string;
  camera: string;
  /** Frames. */
  length: number;
  seed: number;
  tracks: Track[];
  /** Eases that keys of this shot share. */
  eases: LinkedEase[];
}
