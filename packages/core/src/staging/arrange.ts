import { hypot } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';
import { copyOf, type Point, type SetCommand } from '../document/index.ts';
import type { Bounds } from '../geometry/index.ts';

/** A thing's box in the world. */
export interface Boxed {
  id: string;
  box: Bounds;
}
export type Axis = 0 | 1 | 2;
export type AlignTo = 'low' | 'middle' | 'high';

/** How far each thing must go; what is not in it stays. */
export type Steps = Map<string, Point>;

const at = ({ box }: Boxed, axis: Axis, to: AlignTo): number =>
  to === 'low' ? box.min[axis] : to === 'high' ? box.max[axis] : (box.min[axis] + box.max[axis]) / 2;
function step(axis: Axis, by: number): Point {
  const out: Point = [0, 0, 0];
  out[axis] = by;
  return out;
}

/** Brings faces or middles of all things onto those of the first, which stays. */
export function align(things: readonly Boxed[], axis: Axis, to: AlignTo): Steps {
  const [anchor, ...others] = things;
  return new Map(others.map((t) => [t.id, step(axis, at(anchor, axis, to) - at(t, axis, to))]));
}

/** Sets each thing against the one before along an axis, in the order they stand, `gap` metres apart. */
export function setTogether(things: readonly Boxed[], axis: Axis, gap: number): Steps {
  const [anchor, ...others] = things;
  const steps: Steps = new Map();
  for (const side of [1, -1] as const) {
    let edge = side > 0 ? anchor.box.max[axis] : anchor.box.min[axis];
    const row = others
      .filter((t) => (at(t, axis, 'middle') >= at(anchor, axis, 'middle') ? 1 : -1) === side)
      .sort((a, b) => side * (at(a, axis, 'middle') - at(b, axis, 'middle')));
    for (const t of row) {
      const by = edge + side * gap - (side > 0 ? t.box.min[axis] : t.box.max[axis]);
      steps.set(t.id, step(axis, by));
      edge = (side > 0 ? t.box.max[axis] : t.box.min[axis]) + by;
    }
  }
  return steps;
}

/**
 * Spreads things between the two outermost along an axis: the same distance between middles, or the same gap between faces.
 * @throws Problem `staging/too-few` for fewer than three.
 */
export function distribute(things: readonly Boxed[], axis: Axis, by: 'middles' | 'gaps'): Steps {
  if (things.length < 3)
    throw new Problem('staging/too-few', 'Distributing needs at least three things: choose more with Ctrl or Shift.');
  const row = [...things].sort((a, b) => at(a, axis, 'middle') - at(b, axis, 'middle'));
  const [first, last] = [row[0], row[row.length - 1]];
  const steps: Steps = new Map();
  if (by === 'middles') {
    const span = at(last, axis, 'middle') - at(first, axis, 'middle');
    row.slice(1, -1).forEach((t, i) => {
      const wanted = at(first, axis, 'middle') + (span * (i + 1)) / (row.length - 1);
      steps.set(t.id, step(axis, wanted - at(t, axis, 'middle')));
    });
    return steps;
  }
  const inner = row.slice(1, -1);
  const filled = inner.reduce((n, t) => n + t.box.max[axis] - t.box.min[axis], 0);
  const gap = (last.box.min[axis] - first.box.max[axis] - filled) / (row.length - 1);
  let edge = first.box.max[axis];
  for (const t of inner) {
    steps.set(t.id, step(axis, edge + gap - t.box.min[axis]));
    edge += gap + t.box.max[axis] - t.box.min[axis];
  }
  return steps;
}

/** A place on the nearest crossing of a grid; height stays. @param grid metres; 0 leaves it. */
export function snapToGrid([x, y, z]: Point, grid: number): Point {
  if (!(grid > 0)) return [x, y, z];
  const near = (v: number): number => Number((Math.round(v / grid) * grid).toFixed(9));
  return [near(x), y, near(z)];
}

/**
 * How far a thing must go so that the nearest of its faces lies on the nearest face of another along each axis, where
 * they are closer than `reach`.
 */
export function snapToFaces(thing: Boxed, others: readonly Boxed[], reach: number): Point {
  const out: Point = [0, 0, 0];
  for (const axis of [0, 1, 2] as const) {
    let best = reach;
    for (const other of others)
      for (const own of ['low', 'high'] as const)
        for (const its of ['low', 'high'] as const) {
          const by = at(other, axis, its) - at(thing, axis, own);
          if (Math.abs(by) < best) [best, out[axis]] = [Math.abs(by), by];
        }
  }
  return out;
}

/**
 * How far a thing must go so that one of its vertices lies on the nearest vertex of another, where two are closer than
 * `reach`; the nearest pair counts. Found by a grid of cells as wide as the reach.
 * @param own and @param others x, y, z of vertices in the world, one after the other.
 */
export function snapToVertices(own: ArrayLike<number>, others: readonly ArrayLike<number>[], reach: number): Point {
  const cell = (v: number): number => Math.floor(v / reach);
  const cells = new Map<string, number[]>();
  const [low, high]: [Point, Point] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i < own.length; i += 3) {
    for (let a = 0; a < 3; a++) {
      low[a] = Math.min(low[a], own[i + a] - reach);
      high[a] = Math.max(high[a], own[i + a] + reach);
    }
    const key = `${cell(own[i])} ${cell(own[i + 1])} ${cell(own[i + 2])}`;
    const known = cells.get(key);
    if (known) known.push(i);
    else cells.set(key, [i]);
  }
  let best = reach;
  let out: Point = [0, 0, 0];
  const look = (x: number, y: number, z: number, key: string): void => {
    for (const i of cells.get(key) ?? []) {
      const by: Point = [x - own[i], y - own[i + 1], z - own[i + 2]];
      const far = hypot(...by);
      if (far < best) [best, out] = [far, by];
    }
  };
  for (const other of others)
    for (let i = 0; i < other.length; i += 3) {
      const [x, y, z] = [other[i], other[i + 1], other[i + 2]];
      // Most of a set is far from what is dragged.
      if (x < low[0] || x > high[0] || y < low[1] || y > high[1] || z < low[2] || z > high[2]) continue;
      for (let a = -1; a <= 1; a++)
        for (let b = -1; b <= 1; b++)
          for (let c = -1; c <= 1; c++) look(x, y, z, `${cell(x) + a} ${cell(y) + b} ${cell(z) + c}`);
    }
  return out;
}

/** A place and direction seen in a mirror that stands upright through `x` = `at`. */
export function mirrored(position: Point, turn: number, plane = 0): { position: Point; turn: number } {
  return { position: [2 * plane - position[0], position[1], position[2]], turn: -turn };
}

/**
 * Mirror images of products and lights across the upright middle plane of the set, beside the originals.
 * @param ids gives each copy its id, by the kind of thing it is.
 */
export function mirrorCopies(things: readonly string[], ids: (kind: 'product' | 'light') => string): SetCommand {
  return {
    label: 'Mirror copies',
    run: (set) => {
      for (const item of set.products.filter((p) => things.includes(p.id))) {
        const copy = copyOf(item, ids('product'), set.products);
        set.products.push({ ...copy, ...mirrored(item.position, item.turn) });
      }
      const flip = ([x, y, z]: Point): Point => [-x, y, z];
      for (const light of set.lights.filter((l) => things.includes(l.id))) {
        const copy = copyOf(light, ids('light'), set.lights);
        set.lights.push({ ...copy, position: flip(light.position), aim: flip(light.aim) });
      }
    },
  };
}
