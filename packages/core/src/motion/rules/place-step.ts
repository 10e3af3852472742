import type { PathMover } from '../path-mover.ts';
import type { Placed } from '../pose.ts';

/** What rules look up in the rest of the shot. */
export interface RuleContext {
  /** Frames of the shot. */
  length: number;
  paths: ReadonlyMap<string, PathMover>;
  /** Another thing at a frame, moved; null when it is gone or has no place. */
  placed: (id: string, frame: number) => Placed | null;
  /** The same as it rests in the set. */
  resting: (id: string) => Placed | null;
  /** Frames at which the thing's turn, tilt or roll are keyed. */
  turnKeys: readonly number[];
}

/** Changes where a thing is at a frame. `before` gives it at any frame as it comes to this rule. */
export type PlaceStep = (thing: Placed, frame: number, before: (frame: number) => Placed) => void;
