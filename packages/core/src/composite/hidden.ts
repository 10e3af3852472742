import type { ComposeInput } from './input.ts';
import { hiddenInSet } from './in-set.ts';
import { cardAt, lies, shown, type InSet, type SeenTake } from './layer-plate.ts';
import type { SeenLayer } from './layers-at.ts';
import { homographyOf, placeBy } from './place.ts';
import { contentOf, type Floats, type Plate, type Plates } from './plate.ts';
import { atRest } from './warp.ts';

const AT_REST = homographyOf({ x: 0, y: 0, scale: 1, stretch: 1, rotation: 0 });

/** The lowest take of a composite that says where things were in it; the one that the composite is of when no layer shows any. */
export function takeOf(layers: readonly SeenLayer[], input: ComposeInput): SeenTake | null {
  for (const layer of layers) {
    const frame = layer.kind === 'take' ? input.take(layer.take) : null;
    if (frame?.depths) return { frame, lies: lies(layer, null) ?? AT_REST };
  }
  const frame = input.take('');
  return frame?.depths ? { frame, lies: AT_REST } : null;
}

export const setOf = (seen: SeenTake | null): InSet | null =>
  seen?.frame.depths ? { space: seen.frame.depths.space, take: seen.lies } : null;

/** Takes away from a card in the set what is nearer in the take. @param share of the time that the shutter is open. */
export function hide(
  plates: Plates,
  plate: Plate,
  layer: SeenLayer,
  seen: SeenTake,
  inSet: InSet,
  share: number,
): void {
  const content = contentOf(plate, 0);
  if (!content) return;
  const { width, height } = plate;
  const card = cardAt(layer, inSet.space, share);
  const same = seen.frame.width === width && seen.frame.height === height;
  if (same && atRest(placeBy(seen.lies, width, height), width, height, 1)) {
    // Pixel by pixel, and only where something of the card is.
    const hidden = hiddenInSet(seen.frame, card, content);
    const { data } = plate;
    for (let y = content.top; y < content.bottom; y++)
      for (let x = content.left, i = y * width + x; x < content.right; x++, i++) {
        const open = 1 - hidden[i];
        for (let o = i * 4; o < i * 4 + 4; o++) data[o] *= open;
      }
    return;
  }
  plates.within(() => {
    const hidden = hiddenInSet(seen.frame, card);
    const there = shown(plates, seen.frame, hidden, seen.lies, plate);
    const open = plates.floats(width * height);
    // Asked for once nothing more is made: memory may have moved.
    const [from, into] = [there.data, open.data];
    for (let i = 0; i < into.length; i++) into[i] = 1 - from[i * 4 + 3];
    plates.kernel.cover(plate.at, open.at, width * height);
  });
}

/** How much of what is behind the products of the takes is to be seen, a pixel; null without any. */
export function openOf(
  plates: Plates,
  layers: readonly SeenLayer[],
  input: ComposeInput,
  inSet: InSet | null,
): Floats | null {
  const { width, height } = input;
  let open: Floats | null = null;
  for (const layer of layers) {
    const frame = layer.kind === 'take' ? input.take(layer.take) : null;
    const where = frame && lies(layer, inSet);
    if (!frame || !where) continue;
    if (!open) (open = plates.floats(width * height)).data.fill(1);
    const floats = open;
    plates.within(() => {
      const plate = shown(plates, frame, frame.matte, where, input);
      const [seen, free] = [plate.data, floats.data];
      for (let i = 0; i < free.length; i++) free[i] *= 1 - seen[i * 4 + 3];
    });
  }
  return open;
}
