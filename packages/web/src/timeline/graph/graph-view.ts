import type { ComputedRef, Ref } from 'vue';
import type { GraphHost } from './graph-host.ts';
import type { GraphLine } from './graph-lines.ts';
import type { Handle } from './handles.ts';

/** Values that the height of a graph shows, in the unit that a person sees. */
export interface ValueRange {
  low: number;
  high: number;
}

/** A graph as it lies on the screen: pixels of it, frames of its tracks, values as a person sees them. */
export interface GraphView {
  host: GraphHost;
  lines: ComputedRef<GraphLine[]>;
  /** Handles of the one chosen key. */
  handles: ComputedRef<Array<{ line: GraphLine; handle: Handle }>>;
  /** The range that stays while something is held. */
  held: Ref<ValueRange | null>;
  range: ComputedRef<ValueRange>;
  x: (frame: number) => number;
  y: (value: number) => number;
  valueAt: (py: number) => number;
  frameAt: (px: number) => number;
  /** Where an event is in the graph. */
  place: (event: PointerEvent) => { px: number; py: number };
}
