import type { Framed } from '../document/index.ts';
import { log2 } from '../maths/index.ts';
import type { Pyramid } from './blur.ts';
import { pixelsOf, type Place } from './place.ts';
import type { Plate, Plates } from './plate.ts';

/** Whether each pixel of a picture falls on the same pixel of a plate of its size. */
export function atRest({ a, b, c, d, e, f, g, h }: Place, width: number, height: number, high: number): boolean {
  const one = (v: number, wanted: number): boolean => Math.abs(v * height - wanted) < 1e-9 * height;
  return (
    high === 1 &&
    g === 0 &&
    h === 0 &&
    one(a, 1) &&
    one(b, 0) &&
    one(d, 0) &&
    one(e, -1) &&
    one(c, -width / 2) &&
    one(f, height / 2)
  );
}

/** The part of a halving that sharp reading hides: what is made hardly smaller stays as sharp as it is. */
const SHARP = 0.2;

/**
 * From which version of a picture, halved so many times, what is made smaller is read, and how smoothly: from Catmull and Rom's cubic (0)
 * to the B-spline (1), which smooths as much as halving does (by a third of a pixel's square), so that the next version goes on where
 * one ends and nothing jumps when it shrinks.
 * @param covers pixels of the picture that one pixel shows.
 */
function reading(covers: number): { halved: number; smooth: number } {
  const octaves = log2(Math.max(1, covers));
  const halved = Math.floor(octaves);
  return { halved, smooth: Math.max(0, (octaves - halved - SHARP) / (1 - SHARP)) };
}

/**
 * Draws a picture into an empty plate of another size: so many of the layer's lengths high, its middle at 0. Made smaller it is read
 * from a halved version and smoothed, so that nothing shimmers; made larger or moved by parts of a pixel by bicubic interpolation. Its
 * edge is a pixel soft.
 */
export function warp(plates: Plates, target: Plate, source: Pyramid, place: Place, high: number): void {
  const { width, height } = target;
  const { a, b, c, d, e, f } = place;
  const full = source.level(0);
  if (width === full.width && height === full.height && atRest(place, width, height, high)) {
    target.data.set(full.data);
    return;
  }
  const per = full.height / high;
  // How many of its pixels a pixel of the target covers, by the direction in which it covers most.
  const covers = per * Math.max(length(a, d), length(b, e));
  const { halved, smooth } = reading(covers);
  const from = source.level(halved);
  const scale = 1 / (1 << halved);
  const k = per * scale;
  plates.within(() => {
    const numbers = plates.doubles([
      ...[a * k, b * k, c * k + (full.width / 2) * scale],
      ...[-d * k, -e * k, (full.height / 2) * scale - f * k],
      ...[full.width * scale, full.height * scale, Math.max(1, covers * scale), smooth],
    ]);
    plates.kernel.warp(from.at, from.width, from.height, target.at, width, height, numbers);
  });
}

/**
 * Draws a picture into an empty plate as a card in space, in a frame with round corners that shows a part of it. It is read along the
 * longer side of what a pixel covers, from versions halved and smoothed as its shorter side asks (anisotropic filtering, after McCormack
 * et al. 1999), so that what leans away neither shimmers nor goes soft. Its edge is a pixel soft.
 *
 * @param high of the frame, in the layer's lengths
 */
export function pin(
  plates: Plates,
  target: Plate,
  source: Pyramid,
  place: Place,
  high: number,
  { corner, view, scroll }: Pick<Framed, 'corner' | 'view' | 'scroll'>,
): void {
  const { a, b, c, d, e, f, g, h, i } = place;
  const full = source.level(0);
  const [wide, tall] = [full.width, full.height * view];
  const per = tall / high;
  const most = reading(mostCovered(place, target, per, [wide / per, high])).halved + 1;
  const levels: Plate[] = [];
  for (let n = 0; n < most && (n === 0 || levels[n - 1].width > 1 || levels[n - 1].height > 1); n++)
    levels.push(source.level(n));
  plates.within(() => {
    const [mx, my] = [wide / 2, tall / 2];
    const numbers = plates.doubles([
      ...[a * per + g * mx, b * per + h * mx, c * per + i * mx],
      ...[-d * per + g * my, -e * per + h * my, -f * per + i * my],
      ...[g, h, i],
      ...[wide, tall, corner * tall, scroll * (full.height - tall)],
      ...[MOST_TAPS, SHARP, levels.length],
      ...levels.flatMap((level) => [level.at, level.width, level.height]),
    ]);
    plates.kernel.pin(numbers, target.at, target.width, target.height);
  });
}

const length = (x: number, y: number): number => Math.sqrt(x * x + y * y);

/** Places a side of what is seen of a card at which it is looked at. */
const LOOKED_AT = 17;
/** Places along the longer side of a pixel that are read at most. */
const MOST_TAPS = 8;

/**
 * About how many pixels of a card one place that is read covers at most, where the card is seen: versions that are halved more often
 * need not be made. It changes slowly, so that looking at some places is enough; at the horizon it has no end.
 * @param per pixels of the card in one of the layer's lengths. @param size of the card, in the layer's lengths.
 */
function mostCovered(place: Place, { width, height }: Plate, per: number, size: readonly [number, number]): number {
  const { a, b, c, d, e, f, g, h, i } = place;
  const { left, right, top, bottom } = pixelsOf(place, [size[0] / 2, size[1] / 2], width, 0, height);
  let most = 1;
  for (let row = 0; row < LOOKED_AT; row++)
    for (let column = 0; column < LOOKED_AT; column++) {
      const x = left + (column / (LOOKED_AT - 1)) * (right - left);
      const y = top + (row / (LOOKED_AT - 1)) * (bottom - top);
      const q = g * x + h * y + i;
      if (!(q > 0)) return Infinity;
      const [u, v] = [(a * x + b * y + c) / q, (d * x + e * y + f) / q];
      const across = (length(a - u * g, d - v * g) * per) / q;
      const down = (length(b - u * h, e - v * h) * per) / q;
      const long = Math.max(across, down);
      const taps = Math.round(long / Math.max(1, Math.min(across, down)));
      most = Math.max(most, long / Math.min(MOST_TAPS, Math.max(1, taps)));
    }
  return most * 1.1;
}
