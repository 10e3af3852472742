import type { LayerOf } from '../document/index.ts';
import { shown, type Drawing } from './layer-plate.ts';
import type { SeenLayer } from './layers-at.ts';
import { finishCover, maskOf, thingCover } from './mask.ts';
import type { Floats, Plates } from './plate.ts';

export type FurtherMask = SeenLayer & LayerOf<'mask'>;

/** What masks are made in. */
export interface Masked extends Pick<Drawing, 'input' | 'inSet' | 'seen'> {
  /** Further masks of layers, by the layer's id, in their order. */
  masks: ReadonlyMap<string, readonly FurtherMask[]>;
}

/** How a coverage meets those before it: as that of shapes whose edges do not know of each other. */
const MEETS: Record<FurtherMask['combine'], (a: number, b: number) => number> = {
  add: (a, b) => a + b - a * b,
  subtract: (a, b) => a * (1 - b),
  intersect: (a, b) => a * b,
  difference: (a, b) => a + b - 2 * a * b,
};

/** What a layer's own mask and its further ones let be seen of it together, a pixel; null without any. */
export function maskedBy(plates: Plates, layer: SeenLayer, work: Masked): Floats | null {
  const own = oneMask(plates, layer, work);
  const further = work.masks.get(layer.id) ?? [];
  if (further.length === 0) return own;
  const sum = own ?? plates.floats(work.input.width * work.input.height);
  // Without a mask of its own the first one adds to nothing, or takes from the whole.
  if (!own) sum.data.fill(further[0].combine === 'add' || further[0].combine === 'difference' ? 0 : 1);
  for (const mask of further)
    plates.within(() => {
      const floats = oneMask(plates, mask, work);
      if (!floats) return;
      const [into, from] = [sum.data, floats.data];
      const meet = MEETS[mask.combine];
      const { opacity } = mask;
      // What is only half there takes or gives half.
      const rest = mask.combine === 'intersect' ? 1 - opacity : 0;
      for (let i = 0; i < into.length; i++) into[i] = meet(into[i], from[i] * opacity + rest);
    });
  return sum;
}

/** A layer's mask, drawn or seen by the take; null without one. */
function oneMask(plates: Plates, layer: SeenLayer, work: Masked): Floats | null {
  const { width, height, frame } = work.input;
  return maskOf(plates, layer, width, height, frame, work.inSet?.space ?? null) ?? thingMask(plates, layer, work);
}

/** A mask that is what the take saw of a thing or a finish; null for other masks. */
function thingMask(plates: Plates, layer: SeenLayer, { input, seen }: Masked): Floats | null {
  const { mask, maskThing, maskFinish = '' } = layer;
  if (mask !== 'thing' && mask !== 'finish') return null;
  const floats = plates.floats(input.width * input.height);
  if (seen)
    plates.within(() => {
      const cover = mask === 'thing' ? thingCover(seen.frame, maskThing) : finishCover(seen.frame, maskFinish);
      const plate = shown(plates, seen.frame, cover, seen.lies, input);
      const [from, into] = [plate.data, floats.data];
      for (let i = 0; i < into.length; i++) into[i] = from[i * 4 + 3];
    });
  else floats.data.fill(0);
  if (layer.maskInverted) floats.data.forEach((v, i, all) => (all[i] = 1 - v));
  return floats;
}

/** What of masks and mattes is left together; null without any. */
export function allOf(masks: ReadonlyArray<Floats | null>): Floats | null {
  const [first, ...rest] = masks.filter((m) => m !== null);
  if (!first) return null;
  if (rest.length === 0) return first;
  const { data } = first;
  for (const { data: other } of rest) for (let i = 0; i < data.length; i++) data[i] *= other[i];
  return first;
}
