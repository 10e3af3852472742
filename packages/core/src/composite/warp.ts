import type { Framed } from '../document/index.ts';
import { log2 } from '../maths/index.ts';
import type { Pyramid } from './blur.ts';
import type { Place } from './place.ts';
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

/**
 * Draws a picture into an empty plate of another size: so many of the layer's lengths high, its middle at 0. Made smaller it is read
 * from a halved version, so that nothing shimmers; made larger or moved by parts of a pixel by bicubic interpolation. Its edge is a
 * pixel soft.
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
  const covers = per * Math.max(Math.sqrt(a * a + d * d), Math.sqrt(b * b + e * e));
  const n = Math.max(0, Math.round(log2(Math.max(1, covers)) - 0.25));
  const from = source.level(n);
  const scale = 1 / (1 << n);
  const k = per * scale;
  plates.within(() => {
    const numbers = plates.doubles([
      ...[a * k, b * k, c * k + (full.width / 2) * scale],
      ...[-d * k, -e * k, (full.height / 2) * scale - f * k],
      ...[full.width * scale, full.height * scale, Math.max(1, covers * scale)],
    ]);
    plates.kernel.warp(from.at, from.width, from.height, target.at, width, height, numbers);
  });
}

/**
 * Draws a picture into an empty plate as a card in space, in a frame with round corners that shows a part of it. It is read along the
 * longer side of what a pixel covers, from versions halved as its shorter side asks (anisotropic filtering, after McCormack et al. 1999),
 * so that what leans away neither shimmers nor goes soft. Its edge is a pixel soft.
 *
 * @param high of the frame, in the layer's lengths
 */
export function pin(
  plates: Plates,
  target: Plate,
  source: Pyramid,
  { a, b, c, d, e, f, g, h, i }: Place,
  high: number,
  { corner, view, scroll }: Pick<Framed, 'corner' | 'view' | 'scroll'>,
): void {
  const full = source.level(0);
  const [wide, tall] = [full.width, full.height * view];
  const per = tall / high;
  const levels: Plate[] = [];
  for (let n = 0; n === 0 || levels[n - 1].width > 1 || levels[n - 1].height > 1; n++) levels.push(source.level(n));
  plates.within(() => {
    const [mx, my] = [wide / 2, tall / 2];
    const numbers = plates.doubles([
      ...[a * per + g * mx, b * per + h * mx, c * per + i * mx],
      ...[-d * per + g * my, -e * per + h * my, -f * per + i * my],
      ...[g, h, i],
      ...[wide, tall, corner * tall, scroll * (full.height - tall)],
      levels.length,
      ...levels.flatMap((level) => [level.at, level.width, level.height]),
    ]);
    plates.kernel.pin(numbers, target.at, target.width, target.height);
  });
}
