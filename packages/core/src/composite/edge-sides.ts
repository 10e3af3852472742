import type { DepthFrame } from './light-frame.ts';

/** Pixels round one that is partly covered within which depths of what covers it, and of what is behind, are looked for. */
const AROUND = 2;
/** A product covers a pixel wholly from here on. */
const WHOLE = 0.98;

/** At a pixel that is partly covered: depths of what covers most near by, and of what is not covered at all (0: nothing near by). */
export interface EdgeSides {
  /** Whether a product covers only a part of a pixel. */
  isEdge: (at: number) => boolean;
  front: (at: number) => number;
  back: (at: number) => number;
}

/** What was looked for in a frame, by its depths: every card and blur of it asks for the same. */
const known = new WeakMap<Float32Array, EdgeSides>();

/** The two sides of a frame's edges; each is looked for once. */
export function edgeSides({ width, height, matte, depths }: DepthFrame): EdgeSides {
  const depth = depths!.depth;
  const found = known.get(depth);
  if (found) return found;
  const [fronts, backs] = [new Float32Array(width * height).fill(NaN), new Float32Array(width * height)];
  const look = (at: number): void => {
    if (!Number.isNaN(fronts[at])) return;
    const x = at % width;
    const y = (at - x) / width;
    let [front, most, back, nearest] = [depth[at], -1, 0, Infinity];
    for (let py = Math.max(0, y - AROUND); py <= Math.min(height - 1, y + AROUND); py++)
      for (let px = Math.max(0, x - AROUND); px <= Math.min(width - 1, x + AROUND); px++) {
        const near = py * width + px;
        const cover = matte[near];
        if (cover > most || (cover === most && depth[near] < front)) {
          most = cover;
          front = depth[near];
        }
        const away = (px - x) * (px - x) + (py - y) * (py - y);
        if (cover <= 0 && away < nearest) {
          nearest = away;
          back = depth[near];
        }
      }
    fronts[at] = front;
    backs[at] = back;
  };
  const sides: EdgeSides = {
    isEdge: (at) => matte[at] > 0 && matte[at] < WHOLE,
    front: (at) => {
      look(at);
      return fronts[at];
    },
    back: (at) => {
      look(at);
      return backs[at];
    },
  };
  known.set(depth, sides);
  return sides;
}
