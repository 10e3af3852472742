import type { Framed, Layer, LayerOf, ViewTransform } from '../document/index.ts';
import { hexToLinear } from '../finish/index.ts';
import { exp2 } from '../maths/index.ts';
import { encodeSrgb, type Overlay, type Picture } from '../picture/index.ts';
import { blend } from './blend.ts';
import { blurPlate, Pyramid } from './blur.ts';
import { applyCube, type Cube } from './cube.ts';
import { applyFilter } from './filter.ts';
import { applyGrade } from './grade.ts';
import { applyLens } from './lens.ts';
import type { LightFrame } from './light-frame.ts';
import { maskOf } from './mask.ts';
import { drawSpecks, drawVapour } from './noise.ts';
import { paint, placeOf, type Paint, type Placed } from './place.ts';
import type { Floats, Plate, Plates } from './plate.ts';
import { paintGradient, repeaterPaint, shapePaint, type Colour } from './shapes.ts';
import { overlayPlate, stillPlate } from './stills.ts';
import { tableOf } from './tones.ts';
import { atRest, pin, warp } from './warp.ts';

/** Draws a text layer: premultiplied sRGB over a picture of the given size. */
export type TextDrawer = (layer: LayerOf<'text'>, width: number, height: number) => Overlay | null;

/** What a frame of a composite is made from besides its layers. */
export interface ComposeInput {
  width: number;
  height: number;
  frame: number;
  /** Of the shot's first frame on. */
  seconds: number;
  view: ViewTransform;
  /** The light of a take's frame, by the take's id; empty: the one that the composite is of. */
  take: (take: string) => LightFrame | null;
  /** Pictures of stills by their hash: sRGB bytes, alpha not premultiplied. */
  still?: (asset: string) => Picture | null;
  /** A table of colours by its file's hash. */
  cube?: (asset: string) => Cube | null;
  /** The picture that footage shows. */
  footage?: (layer: LayerOf<'footage'>) => Picture | null;
  text?: TextDrawer;
}

/** View transforms as the kernel numbers them. */
const VIEWS: readonly ViewTransform[] = ['plain', 'neutral', 'filmic'];

/**
 * A composite's picture. Layers of the scene are laid over each other as light, from the lowest up; then the view transform makes
 * display colour of it, and layers on the glass are laid over that as the W3C has it, in sRGB. Grades and lenses act on all below
 * them. The same input gives the same bytes everywhere.
 */
export function compose(plates: Plates, layers: readonly Layer[], input: ComposeInput): Picture {
  const { width, height } = input;
  return plates.within(() => {
    const plate = plates.make(width, height);
    const matte = layers.some((l) => l.behind) ? matteOf(plates, layers, input) : null;
    const layAll = (space: Layer['space']): void => {
      for (const layer of layers)
        if (layer.space === space) plates.within(() => lay(plates, plate, layer, input, matte));
    };
    layAll('scene');
    plates.kernel.seen(plate.at, plate.at, width * height, VIEWS.indexOf(input.view));
    layAll('glass');
    const bytes = plates.floats(width * height);
    plates.kernel.toBytes(plate.at, width * height, bytes.at);
    return { width, height, data: plates.bytes(bytes.at, width * height * 4).slice() };
  });
}

/** Lays one layer over what is there, or changes what is there by it. */
function lay(plates: Plates, below: Plate, layer: Layer, input: ComposeInput, matte: Floats | null): void {
  const { kernel } = plates;
  const { width, height } = below;
  const count = width * height;
  const mask = maskOf(plates, layer, width, height);
  if (layer.kind === 'lut' || layer.kind === 'tones' || layer.kind === 'qualifier') {
    const table = layer.kind !== 'lut' ? tableOf(layer) : layer.asset ? input.cube?.(layer.asset) : null;
    if (!table) return;
    const before = mask || layer.opacity < 1 ? plates.copy(below) : null;
    // What stands in the scene is light, what stands on the glass is coded.
    const [coded, wanted] = [layer.space === 'glass', layer.kind !== 'lut' || layer.coded === 'display'];
    if (coded !== wanted) kernel.recode(below.at, count, coded ? 1 : 0);
    applyCube(plates, below, table);
    if (coded !== wanted) kernel.recode(below.at, count, coded ? 0 : 1);
    if (before) kernel.restore(below.at, before.at, count, layer.opacity, mask?.at ?? 0);
    return;
  }
  if (layer.kind === 'grade' || layer.kind === 'lens' || layer.kind === 'filter') {
    // Light is what both work on: on the glass it is that of display colours.
    if (layer.space === 'glass') kernel.recode(below.at, count, 1);
    if (layer.kind === 'grade') applyGrade(plates, below, layer, layer.opacity, mask);
    else {
      const before = mask || layer.opacity < 1 ? plates.copy(below) : null;
      if (layer.kind === 'lens') applyLens(plates, below, layer, input.frame);
      else applyFilter(plates, below, layer, input.seconds);
      if (before) kernel.restore(below.at, before.at, count, layer.opacity, mask?.at ?? 0);
    }
    if (layer.space === 'glass') kernel.recode(below.at, count, 0);
    return;
  }
  const plate = plateOf(plates, layer, input);
  if (!plate) return;
  if (layer.blur > 0) blurPlate(plates, plate, layer.blur * height);
  if (mask) kernel.cover(plate.at, mask.at, count);
  if (layer.behind && matte) kernel.cover(plate.at, matte.at, count);
  blend(plates, below, plate, layer.blend, layer.opacity);
}

/** A frame that shows all of a picture. */
const WHOLE = { corner: 0, view: 1, scroll: 0 };

/** A layer by itself; null when there is nothing to see. */
function plateOf(plates: Plates, layer: Layer, input: ComposeInput): Plate | null {
  const { width, height, seconds } = input;
  const place = placeOf(layer, width, height);
  const tint = (hex: string): Colour => colourOf(hex, layer.space);
  const painted = (of: Paint): Plate => {
    const plate = plates.make(width, height);
    paint(plate, place, of);
    return plate;
  };
  switch (layer.kind) {
    case 'take': {
      const light = input.take(layer.take);
      if (!light) return null;
      const plate = placed(plates, takePlate(plates, light, exp2(layer.exposure)), layer, input, 1);
      if (layer.space === 'glass') plates.kernel.seen(plate.at, plate.at, width * height, VIEWS.indexOf(input.view));
      return plate;
    }
    case 'solid': {
      const colour = tint(layer.colour);
      return painted((_u, _v, out) => {
        [out[0], out[1], out[2]] = colour;
        return 1;
      });
    }
    case 'gradient': {
      const plate = plates.make(width, height);
      paintGradient(plate, place, layer, tint(layer.colour), tint(layer.otherColour));
      return plate;
    }
    case 'repeater':
      return painted(repeaterPaint(layer, tint(layer.colour), tint(layer.otherColour), place.pixel));
    case 'shape':
      return painted(shapePaint(layer, tint(layer.colour), place.pixel));
    case 'vapour': {
      const plate = plates.raw(width, height);
      drawVapour(plates, plate, place, layer, tint(layer.colour), seconds);
      return plate;
    }
    case 'specks': {
      const plate = plates.make(width, height);
      drawSpecks(plate, place, layer, tint(layer.colour), seconds);
      return plate;
    }
    case 'text': {
      // At rest letters are drawn where they are; turned or stretched they are drawn upright and then turned.
      const plain = layer.rotation === 0 && layer.stretch === 1 && layer.tilt === 0 && layer.turn === 0;
      const drawn = input.text?.(plain ? layer : { ...layer, x: 0, y: 0 }, width, height);
      if (!drawn) return null;
      const upright = overlayPlate(plates, drawn, width, height, layer.space === 'scene');
      // Its size holds the scale already.
      return plain ? upright : placed(plates, upright, { ...layer, scale: 1 }, input, 1);
    }
    case 'still': {
      const picture = layer.asset ? input.still?.(layer.asset) : null;
      if (!picture) return null;
      return placed(plates, stillPlate(plates, picture, layer.space === 'scene'), layer, input, layer.height, layer);
    }
    case 'footage': {
      const picture = input.footage?.(layer);
      if (!picture) return null;
      return placed(plates, stillPlate(plates, picture, layer.space === 'scene'), layer, input, layer.height, layer);
    }
    default:
      return null;
  }
}

/** A colour as layers of a space have it: linear in the scene, sRGB on the glass. */
function colourOf(hex: string, space: Layer['space']): Colour {
  const linear = hexToLinear(hex) ?? [0, 0, 0];
  return space === 'scene' ? linear : (linear.map((v) => encodeSrgb(v) / 255) as unknown as Colour);
}

/** A plate in its place, so many of the layer's lengths high; itself when that is where it lies. */
function placed(
  plates: Plates,
  plate: Plate,
  layer: Placed,
  { width, height }: ComposeInput,
  high: number,
  frame: Pick<Framed, 'corner' | 'view' | 'scroll'> = WHOLE,
): Plate {
  const place = placeOf(layer, width, height);
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

/** A take's light as a plate without holes. */
function takePlate(plates: Plates, { width, height, light }: LightFrame, gain: number): Plate {
  const plate = plates.raw(width, height);
  plates.within(() => plates.kernel.opaque(plates.store(light).at, plate.at, width * height, gain));
  return plate;
}

/** How much of what is behind the products of the takes is to be seen, a pixel; null without any. */
function matteOf(plates: Plates, layers: readonly Layer[], input: ComposeInput): Floats | null {
  const { width, height } = input;
  let open: Floats | null = null;
  for (const layer of layers) {
    if (layer.kind !== 'take') continue;
    const frame = input.take(layer.take);
    if (!frame) continue;
    if (!open) (open = plates.floats(width * height)).data.fill(1);
    const floats = open;
    plates.within(() => {
      const source = plates.make(frame.width, frame.height);
      const { data } = source;
      for (let i = 0; i < frame.matte.length; i++) data[i * 4 + 3] = frame.matte[i];
      const plate = placed(plates, source, layer, input, 1);
      const [seen, free] = [plate.data, floats.data];
      for (let i = 0; i < free.length; i++) free[i] *= 1 - seen[i * 4 + 3];
    });
  }
  return open;
}
