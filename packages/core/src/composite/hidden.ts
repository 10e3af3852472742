import type { ComposeInput } from './input.ts';
import { hiddenInSet } from './in-set.ts';
import { cardAt, lies, shown, type InSet, type SeenTake } from './layer-plate.ts';
import type { SeenLayer } from './layers-at.ts';
import type { LightFrame } from './light-frame.ts';
import { homographyOf, placeBy, type Homography } from './place.ts';
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
  const { tint } = seen.frame.depths!;
  const beyond = tint ? new Float32Array(seen.frame.width * seen.frame.height) : null;
  if (same && atRest(placeBy(seen.lies, width, height), width, height, 1)) {
    // Pixel by pixel, and only where something of the card is.
    const hidden = hiddenInSet(seen.frame, card, content, beyond);
    const { data } = plate;
    for (let y = content.top; y < content.bottom; y++)
      for (let x = content.left, i = y * width + x; x < content.right; x++, i++) {
        const open = 1 - hidden[i];
        for (let o = i * 4; o < i * 4 + 4; o++) data[o] *= open;
        if (beyond && beyond[i] > 0) for (let c = 0; c < 3; c++) data[i * 4 + c] *= coloured(tint!, beyond, i, c);
      }
    return;
  }
  plates.within(() => {
    const hidden = hiddenInSet(seen.frame, card, undefined, beyond);
    const open = newOpen(plates, width * height, beyond !== null);
    openBy(plates, open, seen.frame, hidden, beyond, seen.lies, plate);
    seeThrough(plates, plate, open);
  });
}

/** What is to be seen of what is behind products. */
export interface Open {
  /** How much of it, a pixel. */
  all: Floats;
  /** How much of its red, green, blue and of all of it, a pixel, where glass colours it. */
  each: Floats | null;
}

/** By how much glass that lies before so much of what is seen through it changes one of its colours. */
const coloured = (tint: Float32Array, beyond: Float32Array, i: number, c: number): number =>
  1 + (tint[i * 3 + c] - 1) * beyond[i];

function newOpen(plates: Plates, count: number, tinted: boolean): Open {
  const [all, each] = [plates.floats(count), tinted ? plates.floats(count * 4) : null];
  for (const floats of [all, each]) floats?.data.fill(1);
  return { all, each };
}

/** Takes away what a take's frame hides, and what its glass keeps of colours. @param beyond as hiddenInSet() gives it. */
function openBy(
  plates: Plates,
  open: Open,
  frame: LightFrame,
  hidden: Float32Array,
  beyond: Float32Array | null,
  where: Homography,
  size: { width: number; height: number },
): void {
  const tint = frame.depths?.tint;
  plates.within(() => {
    let numbers = hidden;
    if (open.each && tint && beyond) {
      numbers = new Float32Array(hidden.length * 4);
      for (let i = 0; i < hidden.length; i++) {
        for (let c = 0; c < 3; c++) numbers[i * 4 + c] = 1 - (1 - hidden[i]) * coloured(tint, beyond, i, c);
        numbers[i * 4 + 3] = hidden[i];
      }
    }
    const plate = shown(plates, frame, numbers, where, size);
    const isColoured = numbers !== hidden;
    const [taken, all, each] = [plate.data, open.all.data, open.each?.data];
    for (let i = 0; i < all.length; i++) {
      const left = 1 - taken[i * 4 + 3];
      all[i] *= left;
      if (each) for (let o = i * 4; o < i * 4 + 4; o++) each[o] *= isColoured ? 1 - taken[o] : left;
    }
  });
}

/** Takes away from a plate what is hidden of it. */
export function seeThrough(plates: Plates, plate: Plate, { all, each }: Open): void {
  if (!each) return void plates.kernel.cover(plate.at, all.at, plate.width * plate.height);
  const [into, seen] = [plate.data, each.data];
  for (let o = 0; o < into.length; o++) into[o] *= seen[o];
}

/** What of what is behind the products of the takes is to be seen; null without any. */
export function openOf(
  plates: Plates,
  layers: readonly SeenLayer[],
  input: ComposeInput,
  inSet: InSet | null,
): Open | null {
  const { width, height } = input;
  const frames = layers.flatMap((layer) => {
    const frame = layer.kind === 'take' ? input.take(layer.take) : null;
    const where = frame && lies(layer, inSet);
    return where ? [{ frame, where }] : [];
  });
  if (frames.length === 0) return null;
  const open = newOpen(
    plates,
    width * height,
    frames.some(({ frame }) => frame.depths?.tint),
  );
  for (const { frame, where } of frames) {
    const beyond = frame.depths?.tint ? new Float32Array(frame.matte.length).fill(1) : null;
    openBy(plates, open, frame, frame.matte, beyond, where, input);
  }
  return open;
}
