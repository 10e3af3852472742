import type { Layer, LayerOf, ViewTransform } from '../document/index.ts';
import { hexToLinear, srgbToLinear } from '../finish/index.ts';
import { exp2 } from '../maths/index.ts';
import { encodeSrgb, makePicture, viewTransform, type Overlay, type Picture } from '../picture/index.ts';
import { blend } from './blend.ts';
import { blurPlate } from './blur.ts';
import { applyGrade } from './grade.ts';
import { applyLens } from './lens.ts';
import type { LightFrame } from './light-frame.ts';
import { maskOf } from './mask.ts';
import { drawSpecks, vapourPaint } from './noise.ts';
import { paint, placeOf } from './place.ts';
import { cover, newPlate, type Plate } from './plate.ts';
import { gradientPaint, repeaterPaint, shapePaint, type Colour } from './shapes.ts';
import { overlayPlate, stillPlate } from './stills.ts';
import { Pyramid, warp } from './warp.ts';

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
  text?: TextDrawer;
}

/**
 * A composite's picture. Layers of the scene are laid over each other as light, from the lowest up; then the view transform makes
 * display colour of it, and layers on the glass are laid over that as the W3C has it, in sRGB. Grades and lenses act on all below
 * them. Pure: the same input gives the same bytes everywhere.
 */
export function compose(layers: readonly Layer[], input: ComposeInput): Picture {
  const { width, height } = input;
  const scene = newPlate(width, height);
  const matte = layers.some((l) => l.behind) ? matteOf(layers, input) : null;
  for (const layer of layers) if (layer.space === 'scene') lay(scene, layer, input, matte);
  const glass = seen(scene, input.view);
  for (const layer of layers) if (layer.space === 'glass') lay(glass, layer, input, matte);
  return toBytes(glass);
}

/** Lays one layer over what is there, or changes what is there by it. */
function lay(below: Plate, layer: Layer, input: ComposeInput, matte: Float32Array | null): void {
  const { width, height } = below;
  const mask = maskOf(layer, width, height);
  if (layer.kind === 'grade' || layer.kind === 'lens') {
    // Light is what both work on: on the glass it is that of display colours.
    if (layer.space === 'glass') code(below, srgbToLinear);
    if (layer.kind === 'grade') applyGrade(below, layer, layer.opacity, mask);
    else {
      const before = mask || layer.opacity < 1 ? below.data.slice() : null;
      applyLens(below, layer, input.frame);
      if (before) mix(below.data, before, layer.opacity, mask);
    }
    if (layer.space === 'glass') code(below, (v) => encodeSrgb(v) / 255);
    return;
  }
  const plate = plateOf(layer, input);
  if (!plate) return;
  if (layer.blur > 0) blurPlate(plate, layer.blur * height);
  if (mask) cover(plate, mask);
  if (layer.behind && matte) cover(plate, matte);
  blend(below, plate, layer.blend, layer.opacity);
}

/** Codes the colours of an opaque plate another way. */
function code({ data }: Plate, to: (v: number) => number): void {
  for (let i = 0; i < data.length; i++) if ((i & 3) !== 3) data[i] = to(data[i]);
}

/** A share of what was there before comes back. */
function mix(data: Float32Array, before: Float32Array, amount: number, mask: Float32Array | null): void {
  for (let i = 0; i < data.length; i++) {
    const much = mask ? amount * mask[i >> 2] : amount;
    data[i] = before[i] + (data[i] - before[i]) * much;
  }
}

/** A layer by itself; null when there is nothing to see. */
function plateOf(layer: Layer, input: ComposeInput): Plate | null {
  const { width, height, seconds } = input;
  const plate = newPlate(width, height);
  const place = placeOf(layer, width, height);
  const tint = (hex: string): Colour => colourOf(hex, layer.space);
  switch (layer.kind) {
    case 'take': {
      const light = input.take(layer.take);
      if (!light) return null;
      warp(plate, takePyramid(light), place, 1);
      const stops = exp2(layer.exposure);
      if (stops !== 1) for (let i = 0; i < plate.data.length; i++) if ((i & 3) !== 3) plate.data[i] *= stops;
      return layer.space === 'glass' ? seen(plate, input.view) : plate;
    }
    case 'solid': {
      const colour = tint(layer.colour);
      paint(plate, place, (_u, _v, out) => {
        [out[0], out[1], out[2]] = colour;
        return 1;
      });
      return plate;
    }
    case 'gradient':
      paint(plate, place, gradientPaint(layer, tint(layer.colour), tint(layer.otherColour)));
      return plate;
    case 'repeater':
      paint(plate, place, repeaterPaint(layer, tint(layer.colour), tint(layer.otherColour), place.pixel));
      return plate;
    case 'shape':
      paint(plate, place, shapePaint(layer, tint(layer.colour), place.pixel));
      return plate;
    case 'vapour':
      paint(plate, place, vapourPaint(layer, tint(layer.colour), seconds));
      return plate;
    case 'specks':
      drawSpecks(plate, place, layer, tint(layer.colour), seconds);
      return plate;
    case 'text': {
      // At rest letters are drawn where they are; turned or stretched they are drawn upright and then turned.
      const plain = layer.rotation === 0 && layer.stretch === 1;
      const drawn = input.text?.(plain ? layer : { ...layer, x: 0, y: 0 }, width, height);
      if (!drawn) return null;
      const upright = overlayPlate(drawn, width, height, layer.space === 'scene');
      if (plain) return upright;
      // Its size holds the scale already.
      warp(plate, new Pyramid(upright), placeOf({ ...layer, scale: 1 }, width, height), 1);
      return plate;
    }
    case 'still': {
      const picture = layer.asset ? input.still?.(layer.asset) : null;
      if (!picture) return null;
      warp(plate, stillPlate(picture, layer.space === 'scene'), place, layer.height);
      return plate;
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

const pyramids = new WeakMap<LightFrame, Pyramid>();
/** A take's light as a plate without holes. */
function takePyramid(frame: LightFrame): Pyramid {
  let known = pyramids.get(frame);
  if (!known) {
    const { width, height, light } = frame;
    const plate = newPlate(width, height);
    for (let i = 0; i < width * height; i++) {
      for (let c = 0; c < 3; c++) plate.data[i * 4 + c] = light[i * 3 + c];
      plate.data[i * 4 + 3] = 1;
    }
    pyramids.set(frame, (known = new Pyramid(plate)));
  }
  return known;
}

/** How much of what is behind the products of the takes is to be seen, a pixel; null without any. */
function matteOf(layers: readonly Layer[], input: ComposeInput): Float32Array | null {
  const { width, height } = input;
  let open: Float32Array | null = null;
  for (const layer of layers) {
    if (layer.kind !== 'take') continue;
    const frame = input.take(layer.take);
    if (!frame) continue;
    const source = newPlate(frame.width, frame.height);
    for (let i = 0; i < frame.matte.length; i++) source.data[i * 4 + 3] = frame.matte[i];
    const plate = newPlate(width, height);
    warp(plate, new Pyramid(source), placeOf(layer, width, height), 1);
    open ??= new Float32Array(width * height).fill(1);
    for (let i = 0; i < open.length; i++) open[i] *= 1 - plate.data[i * 4 + 3];
  }
  return open;
}

/** Light through a view transform, as sRGB from 0 to 1; what is not there is black. */
function seen({ width, height, data }: Plate, view: ViewTransform): Plate {
  const out = newPlate(width, height);
  const transform = viewTransform(view);
  const rgb = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) {
    for (let c = 0; c < 3; c++) rgb[c] = Math.max(0, data[i + c] || 0);
    transform(rgb);
    for (let c = 0; c < 3; c++) out.data[i + c] = encodeSrgb(rgb[c]) / 255;
    out.data[i + 3] = 1;
  }
  return out;
}

function toBytes({ width, height, data }: Plate): Picture {
  const picture = makePicture(width, height);
  for (let i = 0; i < data.length; i++) if ((i & 3) !== 3) picture.data[i] = data[i] * 255;
  return picture;
}
