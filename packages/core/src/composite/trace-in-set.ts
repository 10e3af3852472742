import {
  newCard,
  type CardSurface,
  type Key,
  type Layer,
  type Point,
  type ShotDocument,
  type Track,
} from '../document/index.ts';
import { hexToLinear, makeFinish, type Finish } from '../finish/index.ts';
import { aimMatrix, DEGREES, type Vec3 } from '../geometry/index.ts';
import { atan2 } from '../maths/index.ts';
import type { FrameSpace } from '../scene/index.ts';
import { axesOf, standsAt } from './in-set.ts';
import { compileLayers } from './layers-at.ts';
import { sidesOf } from './place.ts';

/** Metres that a way may be off between two keys. */
const NEAR = 2e-4;
/** Degrees that a roll may be off between two keys. */
const LEVEL = 0.05;
const AWAY = 1;

/** A layer's card in the set, and how it moves in the shot. */
export interface TracedCard {
  surface: CardSurface;
  tracks: Track[];
}

/** Whether a layer is a flat picture or colour that a card of the set can be. */
export const canTrace = (layer: Layer): boolean =>
  layer.inSet &&
  (layer.kind === 'still' || layer.kind === 'solid' || (layer.kind === 'shape' && layer.form === 'rectangle'));

/**
 * A layer that stands in the set as a card of the set, so that glass bends it, floors mirror it and lights light it, which no picture
 * laid over a take can have. It stands, turns and goes as the layer does.
 * @param aspect of its picture, width over height; 1 where it has none.
 * @param spaceAt where camera and things are in a frame of the shot.
 */
export function tracedCard(
  shot: ShotDocument,
  layer: Layer,
  aspect: number,
  id: string,
  spaceAt: (frame: number) => FrameSpace,
): TracedCard {
  const program = compileLayers({ ...shot, layers: [{ ...layer, visible: true, opacity: 1, group: '', clip: false }] });
  const end = layer.length > 0 ? Math.min(shot.length, layer.start + layer.length) : shot.length;
  const frames = Array.from({ length: Math.max(1, end - layer.start) }, (_, n) => layer.start + n);
  const places = frames.map((frame) => placeOf(program.at(frame)[0] ?? layer, spaceAt(frame)));
  const rolls = onward(places.map(({ roll }) => roll));
  const first = program.at(frames[0])[0] ?? layer;
  const [wide, high] = sizeOf(first, aspect);
  const surface = newCard(id, layer.name, 'colour' in layer ? layer.colour : '#FFFFFF', {
    ...{ width: wide, height: high, position: places[0].position, aim: places[0].aim, roll: rolls[0] },
    finish: finishOf(layer),
    rayVisibility: { camera: true, reflections: true, shadows: true, lighting: true },
  });
  const tracks: Track[] = [];
  for (const name of ['position', 'aim'] as const)
    for (const axis of [0, 1, 2]) {
      const keys = keysOf(
        frames,
        places.map((p) => p[name][axis]),
      );
      if (keys.length > 1) tracks.push({ thing: id, path: `${name}.${axis}`, keys });
    }
  const rolled = keysOf(frames, rolls, LEVEL);
  if (rolled.length > 1) tracks.push({ thing: id, path: 'roll', keys: rolled });
  const seen = [
    ...(layer.start > 0 ? [{ frame: 0, value: false, ease: 'hold' as const }] : []),
    { frame: layer.start, value: true, ease: 'hold' as const },
    ...(end < shot.length ? [{ frame: end, value: false, ease: 'hold' as const }] : []),
  ];
  if (seen.length > 1) tracks.push({ thing: id, path: 'visible', keys: seen });
  return { surface, tracks };
}

/** Where a layer's middle is in the world, a place that its face looks at, and how it is turned in its own plane, degrees. */
function placeOf(layer: Layer, space: FrameSpace): { position: Point; aim: Point; roll: number } {
  const { metres, x, y, anchorX, anchorY } = layer;
  const axes = axesOf(layer.facing, space.camera);
  const world = (v: Vec3): Vec3 =>
    [0, 1, 2].map((i) => v[0] * axes[0][i] + v[1] * axes[1][i] + v[2] * axes[2][i]) as Vec3;
  const [u, v] = sidesOf(layer);
  const middle = standsAt(layer, space);
  const moved = world([
    x - u[0] * anchorX - v[0] * anchorY,
    y - u[1] * anchorX - v[1] * anchorY,
    -u[2] * anchorX - v[2] * anchorY,
  ]);
  const face = world([u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]);
  const long = Math.sqrt(face[0] * face[0] + face[1] * face[1] + face[2] * face[2]) || 1;
  const position = middle.map((m, i) => m + moved[i] * metres) as Point;
  const aim = position.map((p, i) => p + (face[i] / long) * AWAY) as Point;
  // Its own up among the axes that a card has when it is not rolled.
  const level = aimMatrix(position, aim);
  const up = world(v);
  const along = (axis: 0 | 4): number => up[0] * level[axis] + up[1] * level[axis + 1] + up[2] * level[axis + 2];
  return { position, aim, roll: atan2(-along(0), along(4)) / DEGREES };
}

/** Angles, degrees, each as near to the one before as a whole turn more or less can bring it. */
function onward(angles: readonly number[]): number[] {
  let last = angles[0];
  return angles.map((angle) => (last = angle - 360 * Math.round((angle - last) / 360)));
}

/** Width and height in metres. */
function sizeOf(layer: Layer, aspect: number): [number, number] {
  const { metres, scale, stretch } = layer;
  const [wide, high] =
    layer.kind === 'shape'
      ? [layer.width, layer.height]
      : layer.kind === 'still'
        ? [layer.height * aspect, layer.height]
        : [aspect, 1];
  const held = (v: number): number => Math.min(100, Math.max(0.001, v * metres * scale));
  return [held(wide * stretch), held(high)];
}

/** What it looks like: its picture, cut out by its alpha, or its colour; both sides are seen. */
function finishOf(layer: Layer): Finish {
  const look = { roughness: 0.8, doubleSided: true, alpha: layer.opacity };
  if (layer.kind === 'still' && layer.asset !== '')
    return makeFinish(layer.name, {
      ...look,
      alphaMode: 'blend',
      textures: {
        baseColor: {
          ...{ image: 0, offset: [0, 0], rotation: 0, scale: [1, 1], strength: 1, wrap: ['clamp', 'clamp'] },
          picture: { asset: layer.asset, pattern: null, look: null, emboss: false },
        },
      },
    });
  const colour = ('colour' in layer ? hexToLinear(layer.colour) : null) ?? [1, 1, 1];
  return makeFinish(layer.name, {
    ...look,
    baseColor: [...colour] as [number, number, number],
    alphaMode: layer.opacity < 1 ? 'blend' : 'opaque',
  });
}

/** The fewest keys between which even ways stay near the values (Ramer 1972, Douglas and Peucker 1973); one where nothing changes. */
function keysOf(frames: readonly number[], values: readonly number[], near = NEAR): Array<Key<number>> {
  const key = (i: number): Key<number> => ({
    frame: frames[i],
    value: Math.round(values[i] * 1e6) / 1e6,
    ease: 'linear',
  });
  if (values.every((v) => Math.abs(v - values[0]) <= near)) return [key(0)];
  const keep = new Set([0, values.length - 1]);
  const spans: Array<[number, number]> = [[0, values.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    let [furthest, at] = [near, -1];
    for (let i = from + 1; i < to; i++) {
      const even = values[from] + ((values[to] - values[from]) * (i - from)) / (to - from);
      const off = Math.abs(values[i] - even);
      if (off > furthest) [furthest, at] = [off, i];
    }
    if (at < 0) continue;
    keep.add(at);
    spans.push([from, at], [at, to]);
  }
  return [...keep].sort((a, b) => a - b).map(key);
}
