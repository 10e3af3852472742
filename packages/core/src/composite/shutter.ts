import type { Framed, LayerBase } from '../document/index.ts';
import type { StandsInSet } from './in-set.ts';
import { lies, type InSet } from './layer-plate.ts';
import type { Carrier, LayerProgram, SeenLayer } from './layers-at.ts';
import type { Pinned } from './corner-pin.ts';
import type { Homography } from './place.ts';

/** Values of a layer that say where its picture lies, and of a picture in a frame what is seen of it. */
type Moving = StandsInSet & Pinned & Pick<LayerBase, 'scale'> & Partial<Pick<Framed, 'scroll' | 'view'>>;
const NUMBERS = [
  ...(['x', 'y', 'scale', 'stretch', 'rotation', 'tilt', 'turn', 'anchorX', 'anchorY', 'skew'] as const),
  ...(['azimuth', 'distance', 'lift', 'metres', 'scroll', 'view'] as const),
  ...(['pinAX', 'pinAY', 'pinBX', 'pinBY', 'pinCX', 'pinCY', 'pinDX', 'pinDY'] as const),
] satisfies ReadonlyArray<keyof Moving>;

/** Layers of a frame, each that stands in the set or goes along with what does with what it is as the take's shutter closes. */
export function withLater(program: LayerProgram, frame: number, shutter: number): SeenLayer[] {
  const layers = program.at(frame);
  const moves = ({ inSet, carriers = [] }: SeenLayer): boolean => inSet || carriers.some((c) => c.inSet);
  if (shutter <= 0 || !layers.some(moves)) return layers;
  const closing = new Map(program.at(frame + shutter).map((l) => [l.id, l]));
  return layers.map((layer): SeenLayer => {
    const later = closing.get(layer.id);
    if (!later || !moves(layer)) return layer;
    const carriers = layer.carriers?.map((c): Carrier => ({ ...c, later: later.carriers?.find((l) => l.id === c.id) }));
    return { ...layer, later, carriers };
  });
}

/** A layer and what carries it so far through the time that the shutter is open: 0 as it opens, 1 as it closes. */
export function atShare(layer: SeenLayer, share: number): SeenLayer {
  const carriers = layer.carriers?.map((c) => between(c, share));
  return { ...between(layer, share), ...(carriers ? { carriers } : {}) };
}

function between<T extends Carrier>(layer: T, share: number): T {
  if (!layer.later || share <= 0) return layer;
  const now = { ...layer };
  const [from, to] = [layer as Moving, layer.later as Moving];
  for (const name of NUMBERS) {
    const [a, b] = [from[name], to[name]];
    if (a !== undefined && b !== undefined && a !== b) (now as Moving)[name] = a + (b - a) * share;
  }
  return now;
}

/** Most pictures that a card's motion is made of, and pixels that a place of it may go from one to the next. */
const MOST_STEPS = 16;
const STEP_PIXELS = 1.5;

/** How many pictures the motion blur of a card in the set takes. @param height of the picture in pixels. */
export function stepsOf(layer: SeenLayer, inSet: InSet, height: number): number {
  if (!(inSet.space.shutter > 0)) return 1;
  const high = 'height' in layer ? layer.height : 1;
  const [opens, closes] = [0, 1].map((share) => {
    const then = atShare(layer, share);
    const card = lies(then, inSet, share);
    const [view, scroll] = 'scroll' in then ? [then.view, then.scroll] : [1, 0];
    // What scrolls goes up by what of it is above the frame.
    const up = scroll * high * (1 / view - 1);
    const { pinAX, pinAY, pinBX, pinBY, pinCX, pinCY, pinDX, pinDY } = then;
    const half = high / 2;
    // Its middle, and about its corners.
    const places: Array<[number, number]> = [
      [0, 0],
      [-half + pinAX, half + pinAY],
      [half + pinBX, half + pinBY],
      [half + pinCX, -half + pinCY],
      [-half + pinDX, -half + pinDY],
    ];
    return places.map(([u, v]) => seenAt(card, u, v + up));
  });
  let most = 0;
  for (const [n, from] of opens.entries()) {
    const to = closes[n];
    if (!from || !to) continue;
    const [dx, dy] = [(to[0] - from[0]) * height, (to[1] - from[1]) * height];
    most = Math.max(most, Math.sqrt(dx * dx + dy * dy));
  }
  return Math.min(MOST_STEPS, Math.max(1, Math.ceil(most / STEP_PIXELS)));
}

/** Where a place of a card is seen, shares of the picture's height; null behind the camera. */
function seenAt(card: Homography | null, u: number, v: number): [number, number] | null {
  if (!card) return null;
  const w = card[6] * u + card[7] * v + card[8];
  if (!(w > 0)) return null;
  return [(card[0] * u + card[1] * v + card[2]) / w, (card[3] * u + card[4] * v + card[5]) / w];
}
