import type { Layer } from '../document/index.ts';
import { isBare } from './bands.ts';
import { isInSet, isPlain, isWhole } from './layer-plate.ts';
import type { SeenLayer } from './layers-at.ts';

/** Kinds that lie where their homography says, and look the same wherever they lie. */
const MOVABLE: ReadonlySet<Layer['kind']> = new Set([
  ...(['take', 'still', 'footage', 'composite', 'solid', 'gradient', 'repeater', 'shape', 'stroke'] as const),
  ...(['text', 'logo', 'vapour', 'specks', 'streaks', 'strip', 'group', 'null'] as const),
]);

/**
 * What a group holds, each moved as the group is: pictures are read once, from what they are, and what lies beyond the picture's edge is
 * there when the group brings it in. Null where the group must be laid first and moved as one picture: since it stands in the set, is cut,
 * or holds something that is made of what lies below it or measured by the picture.
 * @param masked whether layers are masks of the one with an id.
 */
export function movedByGroup(
  group: SeenLayer,
  held: readonly SeenLayer[],
  masked: (id: string) => boolean,
): SeenLayer[] | null {
  const movable = (layer: SeenLayer): boolean =>
    MOVABLE.has(layer.kind) && isBare(layer, masked(layer.id)) && !isInSet(layer);
  if (isInSet(group) || !isWhole(group) || !held.every(movable)) return null;
  return held.map((layer) => carriedBy(group, layer));
}

function carriedBy(group: SeenLayer, layer: SeenLayer): SeenLayer {
  if (!isPlain(group)) return { ...layer, carriers: [...(group.carriers ?? []), group, ...(layer.carriers ?? [])] };
  const { x, y, scale } = group;
  if (x === 0 && y === 0 && scale === 1) return layer;
  if (!isPlain(layer) || layer.earlier?.length) return { ...layer, carriers: [group, ...(layer.carriers ?? [])] };
  // What is only moved and scaled stays so: letters are drawn as large as they are seen.
  return { ...layer, x: x + scale * layer.x, y: y + scale * layer.y, scale: scale * layer.scale };
}
