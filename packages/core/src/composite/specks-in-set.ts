import type { LayerOf } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import { hashed, hypot, sin } from '../maths/index.ts';
import type { FrameSpace } from '../scene/index.ts';
import { spotOf, standsAt } from './in-set.ts';
import { splat } from './noise.ts';
import type { Homography } from './place.ts';
import type { Plate } from './plate.ts';
import type { Colour } from './shapes.ts';

/** Sides of the space that specks drift in, about where they stand, in their layer's lengths. */
const ROOM = { wide: 2, high: 1.2, deep: 2 };
/** A speck that is nearer to the camera than this is not drawn: it would cover the picture. */
const NEAREST = 0.02;

/**
 * Specks in the shot's own space, in a box about where their layer stands: near ones are larger and pass faster by themselves, those out of
 * focus are larger and fainter by their circle of confusion, and each is hidden by what is nearer.
 * @param seenPast how much of the red, green and blue of what is so far away is seen at a place in the picture, shares of its height.
 */
export function drawSpecksInSet(
  plate: Plate,
  layer: LayerOf<'specks'>,
  { space, take }: { space: FrameSpace; take: Homography },
  colour: Colour,
  seconds: number,
  seenPast: (spot: readonly [number, number], away: number) => Colour,
): void {
  const { count, size, spread, softness, drift, rise, twinkle, seed, metres, scale } = layer;
  const { width, height } = plate;
  const { camera, aperture, focus } = space;
  const [mx, my, mz] = standsAt(layer, space);
  const { wide, high, deep } = ROOM;
  const wrap = (v: number, most: number): number => v - Math.floor(v / most) * most - most / 2;
  const unit = metres * scale;
  const dots: Array<{ x: number; y: number; radius: number; light: number; past: Colour; away: number }> = [];
  for (let n = 0; n < Math.round(count); n++) {
    const h = (k: number): number => hashed(n, k, 11, seed);
    const at: Vec3 = [
      mx + unit * wrap(h(1) * wide + drift * seconds * (0.6 + 0.8 * h(4)), wide),
      my + unit * wrap(h(2) * high + rise * seconds * (0.6 + 0.8 * h(5)), high),
      mz + unit * wrap(h(0) * deep + drift * 0.3 * seconds * (h(7) - 0.5), deep),
    ];
    const way = [at[0] - camera.eye[0], at[1] - camera.eye[1], at[2] - camera.eye[2]];
    const along = (axis: Vec3): number => way[0] * axis[0] + way[1] * axis[1] + way[2] * axis[2];
    const away = along(camera.forward);
    const spot = away > NEAREST ? spotOf(at, space) : null;
    if (!spot) continue;
    const own = (size * unit * (1 - spread * h(8)) * camera.focal) / away / 2;
    const blur = aperture * camera.focal * Math.abs(1 / Math.max(1e-3, focus) - 1 / away);
    const radius = Math.max(0.35, Math.sqrt(own * own + blur * blur) * height);
    const light = 1 - twinkle * (0.5 + 0.5 * sin(2 * Math.PI * (h(3) + seconds * (0.3 + h(6)))));
    // Spread over a larger disc the same light is fainter.
    const share = Math.min(1, ((own * height) / radius) * ((own * height) / radius));
    const past = seenPast(spot, hypot(hypot(way[0], way[1]), way[2]));
    if (past.every((v) => v <= 0)) continue;
    const [a, b, c, d, e, f, g, i, j] = take;
    const w = g * spot[0] + i * spot[1] + j;
    const [x, y] = [(a * spot[0] + b * spot[1] + c) / w, (d * spot[0] + e * spot[1] + f) / w];
    dots.push({ x: width / 2 + x * height, y: height / 2 - y * height, radius, light: light * share, past, away });
  }
  // The farthest first, so that near ones lie over them.
  dots.sort((p, q) => q.away - p.away);
  for (const { x, y, radius, light, past } of dots) {
    // What glass lets through of it is as much of a speck as there is, in what colour it lets through.
    const seen = (past[0] + past[1] + past[2]) / 3;
    const shown = colour.map((v, c) => (v * past[c]) / seen) as unknown as Colour;
    splat(plate, x, y, radius, softness, shown, light * seen);
  }
}
