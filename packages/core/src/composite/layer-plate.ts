import type { Framed, Layer, LayerBase, LayerOf } from '../document/index.ts';
import { hexToLinear } from '../finish/index.ts';
import { exp2, hypot } from '../maths/index.ts';
import { encodeSrgb, type Picture } from '../picture/index.ts';
import { Pyramid } from './blur.ts';
import type { ComposeInput } from './input.ts';
import { crop, isPinned, pinnedPlace } from './corner-pin.ts';
import { takePlate } from './faders.ts';
import type { LightFrame } from './light-frame.ts';
import type { FrameSpace } from '../scene/index.ts';
import { drawFlare, seenLight } from './flare.ts';
import { fogOver } from './fog.ts';
import { gradientPlate } from './gradient.ts';
import { cardInSet, seenPast, spotOf, standsAt } from './in-set.ts';
import type { SeenLayer } from './layers-at.ts';
import { drawLooping, drawSpecks } from './noise.ts';
import { after, homographyOf, paint, placeBy, placeOf, type Homography, type Paint, type Place } from './place.ts';
import type { Plate, Plates } from './plate.ts';
import { repeaterPaint, shapePaint, shapeReach, type Colour } from './shapes.ts';
import { drawSpecksInSet } from './specks-in-set.ts';
import { overlayPlate, stillPlate } from './stills.ts';
import { drawStreaks, stripPaint } from './streaks.ts';
import { VIEWS } from './views.ts';
import { atRest, pin, warp } from './warp.ts';

/** The set that layers stand in: of the lowest take, and where its picture lies. */
export interface InSet {
  space: FrameSpace;
  take: Homography;
}

/** The take whose set layers stand in, and where its picture lies. */
export interface SeenTake {
  frame: LightFrame;
  lies: Homography;
}

/** What a layer is drawn in. */
export interface Drawing {
  input: ComposeInput;
  inSet: InSet | null;
  /** The take whose set layers stand in. */
  seen: SeenTake | null;
  /** Lights of takes that are set otherwise, by the id of the take's layer. */
  faders: ReadonlyMap<string, ReadonlyArray<LayerOf<'fader'>>>;
}

/** A frame that shows all of a picture. */
const WHOLE = { corner: 0, view: 1, scroll: 0 };

/** Whether a layer stands in the set, by itself or with what carries it. */
export const isInSet = ({ inSet, carriers = [] }: SeenLayer): boolean => inSet || carriers.some((c) => c.inSet);

/** Where a layer lies by its homography, those that carry it among it; null when it stands in a set that is not known. */
export function lies(layer: SeenLayer, inSet: InSet | null, share = 0): Homography | null {
  if (!isInSet(layer)) return chained([...(layer.carriers ?? []), layer], homographyOf);
  return inSet && after(inSet.take, cardAt(layer, inSet.space, share));
}

/**
 * A card in the picture of the take whose set it stands in, with what carries it, so far through the time that the shutter is open. What
 * stands in the set by itself goes with nothing else.
 * @param layer as it is then: see atShare().
 */
export function cardAt(layer: SeenLayer, space: FrameSpace, share: number): Homography {
  const all: Layer[] = [...(layer.carriers ?? []), layer];
  const from = all.findLastIndex((one) => one.inSet);
  return chained(all.slice(from), (one) => (one.inSet ? cardInSet(one, space, share) : homographyOf(one)));
}

const chained = (all: readonly Layer[], of: (one: Layer) => Homography): Homography =>
  all.map(of).reduce((outer, own) => after(outer, own));

/** Where a layer lies in the picture; null when it stands in a set that is not known. */
export function placeIn(layer: SeenLayer, { input, inSet }: Drawing, share: number): Place | null {
  const { width, height } = input;
  if (!layer.inSet && !layer.carriers?.length) return placeOf(layer, width, height);
  const card = lies(layer, inSet, share);
  return card && placeBy(card, width, height);
}

/** How much of a flare's light is seen: where it stands in the set, past what is nearer there. */
function lightSeen(layer: SeenLayer, { inSet, seen }: Drawing): number {
  if (!layer.inSet || !inSet || !seen) return 1;
  const at = standsAt(layer, inSet.space);
  const spot = spotOf(at, inSet.space);
  const { eye } = inSet.space.camera;
  const away = hypot(hypot(at[0] - eye[0], at[1] - eye[1]), at[2] - eye[2]);
  return spot ? seenLight(seen.frame, spot, away) : 0;
}

/**
 * A layer by itself; null when there is nothing to see.
 * @param layer as it is at `share` of the time that the shutter is open: see atShare().
 */
export function plateOf(plates: Plates, layer: SeenLayer, drawing: Drawing, share = 0): Plate | null {
  const { input } = drawing;
  const { width, height } = input;
  // What is held stands still by itself too.
  const seconds = layer.held && input.frame > 0 ? input.seconds * (1 - layer.held / input.frame) : input.seconds;
  const place = placeIn(layer, drawing, share);
  if (!place) return null;
  const tint = (hex: string): Colour => colourOf(hex, layer.space);
  const painted = (of: Paint, reach?: readonly [number, number]): Plate => {
    const plate = plates.make(width, height);
    paint(plate, place, of, reach);
    return plate;
  };
  switch (layer.kind) {
    case 'take': {
      const light = input.take(layer.take);
      if (!light) return null;
      const faders = drawing.faders.get(layer.id) ?? [];
      const parts = faders.length > 0 ? (input.parts?.(layer.take) ?? null) : null;
      const plate = placed(
        plates,
        takePlate(plates, light, parts, faders, exp2(layer.exposure)),
        place,
        input,
        1,
        WHOLE,
        layer,
      );
      if (layer.space === 'glass') plates.kernel.seen(plate.at, plate.at, width * height, VIEWS.indexOf(input.view), 0);
      return plate;
    }
    case 'solid': {
      const colour = tint(layer.colour);
      return painted((_u, _v, out) => {
        [out[0], out[1], out[2]] = colour;
        return 1;
      });
    }
    case 'gradient':
      return gradientPlate(plates, width, height, place, layer, tint);
    case 'repeater':
      return painted(repeaterPaint(layer, tint(layer.colour), tint(layer.otherColour), input.seconds, place.pixel));
    case 'shape':
      return painted(shapePaint(layer, tint(layer.colour), place.pixel), shapeReach(layer, place.pixel));
    case 'vapour': {
      const plate = plates.raw(width, height);
      drawLooping(plates, plate, place, layer, tint(layer.colour), seconds);
      return plate;
    }
    case 'specks': {
      const plate = plates.make(width, height);
      if (layer.inSet) {
        const { inSet, seen } = drawing;
        if (!inSet || !seen) return null;
        drawSpecksInSet(plate, layer, inSet, tint(layer.colour), seconds, (spot, away) =>
          seenPast(seen.frame, spot, away),
        );
      } else drawSpecks(plate, place, layer, tint(layer.colour), seconds);
      return plate;
    }
    case 'fog': {
      const seen = drawing.seen;
      if (!seen) return null;
      const plate = shown(plates, seen.frame, fogOver(seen.frame, layer), seen.lies, input);
      const [r, g, b] = tint(layer.colour);
      const { data } = plate;
      for (let o = 0; o < data.length; o += 4) {
        const much = data[o + 3];
        [data[o], data[o + 1], data[o + 2]] = [r * much, g * much, b * much];
      }
      return plate;
    }
    case 'streaks': {
      const plate = plates.make(width, height);
      drawStreaks(plate, place, layer, [tint(layer.colour), tint(layer.otherColour)], seconds);
      return plate;
    }
    case 'strip':
      return painted(stripPaint(layer, [tint(layer.colour), tint(layer.otherColour)], seconds, place.pixel));
    case 'flare': {
      const plate = plates.make(width, height);
      const own = lies(layer, drawing.inSet, share);
      if (!own || own[8] <= 0) return plate;
      const spot = [own[2] / own[8], own[5] / own[8]] as const;
      drawFlare(plate, layer, tint(layer.colour), spot, lightSeen(layer, drawing), layer.inSet ? 1 : layer.scale);
      return plate;
    }
    case 'text':
    case 'stroke':
    case 'logo': {
      // At rest lines are drawn where they are; turned or stretched they are drawn upright, as large as they are seen, and then turned.
      const plain = isPlain(layer);
      const alone = !layer.inSet && !layer.carriers?.length;
      const upright = plain ? layer : { ...layer, x: 0, y: 0, scale: alone ? layer.scale : 1 };
      const vector = layer.kind === 'logo' && layer.asset ? input.vector?.(layer.asset) : null;
      const drawn = input.text?.(upright, width, height, vector);
      if (!drawn) return null;
      const own = overlayPlate(plates, drawn, width, height, layer.space === 'scene');
      if (plain) return own;
      const { scale, anchorX, anchorY } = layer;
      const unscaled = { ...layer, scale: 1, anchorX: anchorX * scale, anchorY: anchorY * scale };
      return placed(plates, own, alone ? placeOf(unscaled, width, height) : place, input, 1, WHOLE, layer);
    }
    case 'still':
    case 'footage':
    case 'composite': {
      const picture = pictureOf(layer, input);
      if (!picture) return null;
      return placed(
        plates,
        stillPlate(plates, picture, layer.space === 'scene'),
        place,
        input,
        layer.height,
        layer,
        layer,
      );
    }
    default:
      return null;
  }
}

/** The picture that a layer shows in its frame, if it is there. */
function pictureOf(
  layer: LayerOf<'still'> | LayerOf<'footage'> | LayerOf<'composite'>,
  input: ComposeInput,
): Picture | null | undefined {
  if (layer.kind === 'footage') return input.footage?.(layer);
  if (layer.kind === 'composite') return input.nested?.(layer.id);
  return layer.asset ? input.still?.(layer.asset) : null;
}

/** Whether nothing of a layer's picture is cut off or drawn to other corners. */
export function isWhole(layer: SeenLayer): boolean {
  const { cropLeft, cropRight, cropTop, cropBottom } = layer;
  return !isPinned(layer) && [cropLeft, cropRight, cropTop, cropBottom].every((v) => v === 0);
}

/** Whether a layer is only moved and scaled. */
export function isPlain(layer: SeenLayer): boolean {
  const { rotation, stretch, tilt, turn, skew, anchorX, anchorY, inSet, carriers } = layer;
  const upright = [rotation, tilt, turn, skew, anchorX, anchorY].every((v) => v === 0) && stretch === 1;
  return isWhole(layer) && upright && !inSet && !carriers?.length;
}

/** A colour as layers of a space have it: linear in the scene, sRGB on the glass. */
export function colourOf(hex: string, space: Layer['space']): Colour {
  const linear = hexToLinear(hex) ?? [0, 0, 0];
  return space === 'scene' ? linear : (linear.map((v) => encodeSrgb(v) / 255) as unknown as Colour);
}

/**
 * A plate in its place, so many of the layer's lengths high; itself when that is where it lies.
 * @param pinned the layer, where its picture may be cropped and its corners pinned.
 */
export function placed(
  plates: Plates,
  plate: Plate,
  where: Place,
  { width, height }: Pick<ComposeInput, 'width' | 'height'>,
  high: number,
  frame: Pick<Framed, 'corner' | 'view' | 'scroll'> = WHOLE,
  pinned: LayerBase | null = null,
): Plate {
  if (pinned) crop(plate, pinned);
  const lain = pinnedPlace(where, pinned, plate.width / (plate.height * frame.view), high);
  return laid(plates, plate, lain, { width, height }, high, frame);
}

function laid(
  plates: Plates,
  plate: Plate,
  place: Place,
  { width, height }: Pick<ComposeInput, 'width' | 'height'>,
  high: number,
  frame: Pick<Framed, 'corner' | 'view' | 'scroll'>,
): Plate {
  const whole = frame.corner === 0 && frame.view === 1;
  if (whole && plate.width === width && plate.height === height && atRest(place, width, height, high)) return plate;
  const target = plates.make(width, height);
  // The halved versions go before the target is used.
  plates.within(() => {
    const source = new Pyramid(plates, plate);
    if (whole && place.g === 0 && place.h === 0) warp(plates, target, source, place, high);
    else pin(plates, target, source, place, high, frame);
  });
  return target;
}

/** Numbers of a take's frame as a plate, where the take lies: one a pixel is its alpha, four are all of it. */
export function shown(
  plates: Plates,
  { width, height }: LightFrame,
  numbers: Float32Array,
  where: Homography,
  size: { width: number; height: number },
): Plate {
  const source = plates.make(width, height);
  const { data } = source;
  if (numbers.length === data.length) data.set(numbers);
  else for (let i = 0; i < numbers.length; i++) data[i * 4 + 3] = numbers[i];
  return placed(plates, source, placeBy(where, size.width, size.height), size, 1);
}
