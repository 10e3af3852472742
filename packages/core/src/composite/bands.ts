import type { LayerOf } from '../document/index.ts';
import { exp2 } from '../maths/index.ts';
import { isActing } from './act.ts';
import { blend } from './blend.ts';
import { spread } from './faders.ts';
import { applyGrade } from './grade.ts';
import { gradientRows } from './gradient.ts';
import { colourOf, isInSet, isWhole, type Drawing } from './layer-plate.ts';
import type { SeenLayer } from './layers-at.ts';
import { paint, placeOf, type Paint } from './place.ts';
import type { Plates } from './plate.ts';
import type { RowStep } from './rows.ts';
import { repeaterPaint, shapePaint, shapeReach, type Colour } from './shapes.ts';
import { stripPaint } from './streaks.ts';
import { atRest } from './warp.ts';

/** A layer that is laid row by row: what it needs is made ready once. */
export interface LocalLayer {
  /** Whether all that lies below it is gone. */
  covers: boolean;
  ready: () => RowStep;
}

/** Whether a layer is laid as it is drawn, with nothing taken away from it or cast by it. @param masked by layers that are masks of it. */
export function isBare(layer: SeenLayer, masked: boolean): boolean {
  const { blur, behind, mask, matte, contact, mirror, shadow } = layer;
  const whole = !behind && mask === 'none' && matte === 'none' && !masked;
  return whole && blur === 0 && contact === 0 && mirror === 0 && shadow === 0;
}

/** A layer whose every pixel follows from that pixel alone; null for one that looks at others, or has more to it. */
export function localLayer(
  plates: Plates,
  layer: SeenLayer,
  { input, faders }: Drawing,
  masked: boolean,
): LocalLayer | null {
  const { earlier = [], carriers = [], held } = layer;
  // What is held stands still in time of its own.
  if (!isBare(layer, masked) || earlier.length > 0 || carriers.length > 0 || held || isInSet(layer)) return null;
  const { width, height } = input;
  if (layer.kind === 'grade')
    return layer.space === 'scene'
      ? { covers: false, ready: () => (rows) => applyGrade(plates, rows, layer, layer.opacity, null) }
      : null;
  if (isActing(layer)) return null;
  const place = placeOf(layer, width, height);
  const over =
    (draw: RowStep): RowStep =>
    (rows, top) => {
      const own = plates.raw(rows.width, rows.height);
      draw(own, top);
      blend(plates, rows, own, layer.blend, layer.opacity);
    };
  const tint = (hex: string): Colour => colourOf(hex, layer.space);
  const painted = (of: Paint, reach?: readonly [number, number]): LocalLayer => ({
    covers: false,
    ready: () =>
      over((own, top) => {
        own.data.fill(0);
        paint(own, place, of, reach, top);
      }),
  });
  switch (layer.kind) {
    case 'take': {
      const light = input.take(layer.take);
      const still = isWhole(layer) && atRest(place, width, height, 1);
      if (!light || !still || layer.space !== 'scene' || (faders.get(layer.id) ?? []).length > 0) return null;
      if (light.width !== width || light.height !== height) return null;
      const lay: RowStep = (rows, top) => {
        const from = top * width * 3;
        const part = light.light.subarray(from, from + rows.width * rows.height * 3);
        spread(plates, part, rows, exp2((layer as LayerOf<'take'>).exposure));
      };
      const covers = layer.blend === 'over' && layer.opacity === 1;
      return { covers, ready: () => (covers ? lay : over(lay)) };
    }
    case 'solid': {
      const colour = tint(layer.colour);
      return painted((_u, _v, out) => {
        [out[0], out[1], out[2]] = colour;
        return 1;
      });
    }
    case 'gradient':
      return { covers: false, ready: () => over(gradientRows(plates, place, layer, tint)) };
    case 'repeater':
      return painted(repeaterPaint(layer, tint(layer.colour), tint(layer.otherColour), input.seconds, place.pixel));
    case 'shape':
      return painted(shapePaint(layer, tint(layer.colour), place.pixel), shapeReach(layer, place.pixel));
    case 'strip': {
      const colours: [Colour, Colour] = [tint(layer.colour), tint(layer.otherColour)];
      return painted(stripPaint(layer, colours, input.seconds, place.pixel));
    }
    default:
      return null;
  }
}
