import {
  isNumeric,
  layerProperties,
  type Layer,
  type LayerKind,
  type MaskShape,
  type PromoDocument,
  type Track,
} from '../document/index.ts';
import { clamp } from '../maths/index.ts';

/** Kinds that lie somewhere in the picture; all others are as wide as it is. */
const PLACED: ReadonlySet<LayerKind> = new Set([
  ...(['still', 'footage', 'composite', 'shape', 'repeater', 'text', 'stroke', 'logo'] as const),
  ...(['strip', 'flare', 'group', 'null'] as const),
]);

/** By how much numbers of a layer change from a frame to one of another proportion. */
type Factors = Readonly<Partial<Record<Moved, number>>>;
type Moved = 'x' | 'scale' | 'maskX' | 'maskWidth' | 'maskHeight';

/**
 * Layers over a promo in a frame of another proportion: each lies at the same share of the width, what is placed keeps its size to the
 * eye, and what fills the frame fills it again. What goes along with another layer goes along with it here too.
 * @param aspects of the frame, width over height: as it was, and as it is to be. @param size of what is placed, in heights of the frame.
 */
export function reframedLayers(
  { layers, tracks }: Pick<PromoDocument, 'layers' | 'tracks'>,
  [old, aspect]: readonly [number, number],
  size: number,
): { layers: Layer[]; tracks: Track[] } {
  const across = aspect / old;
  const byId = new Map(layers.map((layer) => [layer.id, layer]));
  // A further mask is measured as what it masks is.
  const masked = (layer: Layer): Layer => (layer.kind === 'mask' && byId.get(layer.group)) || layer;
  const isPlaced = (layer: Layer): boolean => PLACED.has(layer.kind) && !fills(layer, old);
  const changes = new Map(layers.map((layer) => [layer.id, factorsOf(layer, isPlaced(masked(layer)), across, size)]));
  /** A number in the range that its field has. */
  const times = ({ kind }: Layer, path: string, value: number, by: number): number => {
    const property = layerProperties(kind)[path];
    return property?.type === 'number' ? clamp(value * by, property.min, property.max) : value * by;
  };
  return {
    layers: layers.map((layer) => {
      const factors = changes.get(layer.id)!;
      const numbers = Object.entries(factors).map(
        ([path, by]) => [path, times(layer, path, layer[path as Moved], by)] as const,
      );
      return { ...layer, ...Object.fromEntries(numbers), maskPath: drawnMask(layer.maskPath, factors) };
    }),
    tracks: tracks.map((track): Track => {
      const by = changes.get(track.thing)?.[track.path as Moved];
      if (by === undefined || !isNumeric(track)) return track;
      const layer = byId.get(track.thing)!;
      return { ...track, keys: track.keys.map((key) => ({ ...key, value: times(layer, track.path, key.value, by) })) };
    }),
  };
}

/** A mask drawn by points is as much narrower and lower as one by numbers is. */
function drawnMask(shapes: readonly MaskShape[], { maskWidth = 1, maskHeight = 1 }: Factors): MaskShape[] {
  const scaled = ([x, y]: readonly [number, number]): [number, number] => [x * maskWidth, y * maskHeight];
  return shapes.map((shape) => ({
    ...shape,
    points: shape.points.map((point) => ({
      ...point,
      ...{ at: scaled(point.at), in: scaled(point.in), out: scaled(point.out) },
    })),
  }));
}

/** @param own whether it, or what it masks, keeps its own size. */
function factorsOf(layer: Layer, own: boolean, across: number, size: number): Factors {
  const masked = { maskX: across, maskWidth: own ? size : across, ...(own ? { maskHeight: size } : {}) };
  // Where a layer lies in another is a matter of that one.
  if (layer.parent || (layer.group && layer.kind !== 'mask')) return masked;
  return { ...masked, x: across, ...(PLACED.has(layer.kind) ? { scale: own ? size : Math.max(1, across) } : {}) };
}

/** Whether a picture or a shape covers all of a frame. */
function fills(layer: Layer, aspect: number): boolean {
  if (!('height' in layer)) return false;
  const wide = 'width' in layer ? layer.width >= aspect / layer.scale - 1e-6 : true;
  return wide && layer.height * layer.scale >= 1 - 1e-6;
}
