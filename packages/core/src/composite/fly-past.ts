import type { Transition } from '../document/index.ts';
import { DEGREES } from '../geometry/index.ts';
import { cos, sin } from '../maths/index.ts';
import { blend } from './blend.ts';
import { blurPlate, Pyramid } from './blur.ts';
import { placeOf } from './place.ts';
import type { Plate, Plates } from './plate.ts';
import { warp } from './warp.ts';

/** How far the pictures stand from each other, in distances from which a picture fills the frame, and how far to the side in heights. */
const APART = 1.7;
const ASIDE = 1.75;
/** The nearest that a picture is seen from, and from where on it goes, in the same distances. */
const NEAREST = 0.1;
const GOES = 0.3;
/** Times at which a frame is looked at while the shutter is open. */
const SHUTTER = 5;
/** Pictures round one, corners first, and pixels by which they are larger. */
const NEIGHBOURS = [
  ...[
    [-1, -1],
    [1, -1],
    [-1, 1],
    [1, 1],
  ],
  ...[
    [-1, 0],
    [1, 0],
    [0, -1],
    [0, 1],
  ],
];
const OVERLAP = 4;
/** Of the way between two of the shutter's times the share that is smoothed over, as a standard deviation. */
const SMOOTHED = 0.6;

const eased = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** A picture that stands so far away and so far from the middle, its mirrored likeness all round it. */
function standing(
  plates: Plates,
  to: Plate,
  source: Pyramid,
  scale: number,
  [x, y]: readonly [number, number],
  round: boolean,
): void {
  const { width, height } = to;
  const aspect = width / height;
  const around = round ? NEIGHBOURS : [];
  for (const [u, v] of [...around, [0, 0]]) {
    const [cx, cy] = [x + u * aspect * scale, y + v * scale];
    if (Math.abs(cx) > (aspect * (1 + scale)) / 2 + 0.01 || Math.abs(cy) > (1 + scale) / 2 + 0.01) continue;
    const middle = u === 0 && v === 0;
    // Edges are a pixel soft: neighbours reach under them.
    const own = middle ? scale : scale + OVERLAP / height;
    // Upside down is turned about and mirrored.
    const place = { x: cx, y: cy, scale: own, rotation: v !== 0 ? 180 : 0, stretch: (u !== 0) !== (v !== 0) ? -1 : 1 };
    plates.within(() => {
      const tile = plates.make(width, height);
      warp(plates, tile, source, placeOf(place, width, height), 1);
      blend(plates, to, tile, 'over', 1);
    });
  }
}

/**
 * The camera flies past the going picture, which stands in space before it, to the coming one behind it and to the side, with the blur of
 * its own speed. Into the going picture's plate.
 */
export function flyPast(plates: Plates, going: Plate, coming: Plate, { angle, frames }: Transition, t: number): void {
  const { width, height } = going;
  const [co, si] = [cos(angle * DEGREES) * ASIDE, sin(angle * DEGREES) * ASIDE];
  const [before, after] = [new Pyramid(plates, plates.copy(going)), new Pyramid(plates, coming)];
  // Made here, or they would go with the first time that asks for them.
  for (const level of [0, 1, 2]) after.level(level);
  // The shutter is open for half a frame.
  const half = 0.25 / (frames + 1);
  const out = plates.make(width, height);
  const speed = (eased(Math.min(1, t + half)) - eased(Math.max(0, t - half))) / (SHUTTER - 1);
  for (let n = 0; n < SHUTTER; n++)
    plates.within(() => {
      const s = eased(Math.min(1, Math.max(0, t + half * ((2 * n) / (SHUTTER - 1) - 1))));
      const shot = plates.make(width, height);
      const far = 1 + APART * (1 - s);
      standing(plates, shot, after, 1 / far, [(co * (1 - s)) / far, (si * (1 - s)) / far], true);
      const near = 1 - APART * s;
      if (near > NEAREST) {
        const card = plates.make(width, height);
        standing(plates, card, before, 1 / near, [(-co * s) / near, (-si * s) / near], false);
        blend(plates, shot, card, 'over', Math.min(1, (near - NEAREST) / GOES));
      }
      blend(plates, out, shot, 'add', 1 / SHUTTER);
    });
  // What lies between two of these times is smoothed over.
  blurPlate(plates, out, speed * ASIDE * SMOOTHED * height);
  const { data } = out;
  for (let i = 3; i < data.length; i += 4) data[i] = 1;
  going.data.set(out.data);
}
