import type { LayerOf } from '../document/index.ts';
import { cos, exp, hypot, seeded, sin } from '../maths/index.ts';
import { hiddenAt } from './in-set.ts';
import type { LightFrame } from './light-frame.ts';
import type { Plate } from './plate.ts';
import type { Colour } from './shapes.ts';

type Flare = LayerOf<'flare'>;

/** Radius of the light that is looked for, as a share of the picture's height: a product goes before it little by little. */
const LIGHT = 0.012;
const RINGS = 4;
const SPOKES = 12;

/**
 * How much of a light is seen past what is nearer, 0..1: of points over a small disc about it those that nothing hides, glass and edges by
 * what they let through. Outside of the picture nothing hides it.
 * @param spot of it in the take's picture, shares of its height. @param away metres along the ray.
 */
export function seenLight(frame: LightFrame, [sx, sy]: readonly [number, number], away: number): number {
  let [sum, count] = [0, 0];
  for (let ring = 0; ring <= RINGS; ring++)
    for (let spoke = 0; spoke < (ring === 0 ? 1 : SPOKES); spoke++) {
      const turn = (spoke / SPOKES) * 2 * Math.PI;
      // Rings of even area.
      const r = LIGHT * Math.sqrt(ring / RINGS);
      count++;
      sum += 1 - hiddenAt(frame, [sx + r * cos(turn), sy + r * sin(turn)], away);
    }
  return sum / count;
}

/** Draws a flare: light that is added, without alpha. @param at where its light is, shares of the height. @param seen how much of it is. */
export function drawFlare(
  { width, height, data }: Plate,
  flare: Flare,
  colour: Colour,
  [ax, ay]: readonly [number, number],
  seen: number,
  size: number,
): void {
  const { brightness, glow, streak, ghosts, spread, fringe, seed } = flare;
  const strength = brightness * seen;
  if (strength <= 0) return;
  const random = seeded(seed);
  const parts = Array.from({ length: Math.round(ghosts) }, () => {
    const [along, wide, bright, hue] = [random(), random(), random(), random()];
    const at = -spread * (0.25 + 1.6 * along);
    return {
      ...{ x: ax * at, y: ay * at, radius: size * (0.02 + 0.09 * wide * wide) },
      tint: tinted(colour, hue, fringe).map((v) => v * strength * (0.03 + 0.12 * bright)),
    };
  });
  const core = Math.max(1e-4, glow * size);
  const [long, thin] = [Math.max(1e-4, streak * size), Math.max(1 / height, 0.006 * size)];
  for (let y = 0, o = 0; y < height; y++) {
    const v = 0.5 - (y + 0.5) / height;
    for (let x = 0; x < width; x++, o += 4) {
      const u = (x + 0.5 - width / 2) / height;
      const [dx, dy] = [u - ax, v - ay];
      const r = hypot(dx, dy);
      // A hot core with a long fall, and a streak that is thin and fades outwards.
      let light = glow > 0 ? exp((-r / core) * 6) + 0.12 * exp((-r / core) * 1.6) : 0;
      if (streak > 0) light += 0.5 * exp((-Math.abs(dy) / thin) * 1.2) * exp((-Math.abs(dx) / long) * 3);
      light *= strength;
      for (let c = 0; c < 3; c++) data[o + c] = colour[c] * light;
      for (const ghost of parts) {
        const inside = 1 - hypot(u - ghost.x, v - ghost.y) / ghost.radius;
        if (inside <= 0) continue;
        // A disc that is brightest at its rim, soft by a tenth.
        const there = Math.min(1, inside * 10) * (1.2 - 0.7 * inside);
        for (let c = 0; c < 3; c++) data[o + c] += ghost.tint[c] * there;
      }
    }
  }
}

/** A colour drawn towards another one of the spectrum. */
function tinted(colour: Colour, hue: number, much: number): number[] {
  return colour.map((v, c) => {
    const there = Math.abs(((((hue + c / 3) % 1) + 1) % 1) - 0.5) * 2;
    return v * (1 - much) + much * there * ((colour[0] + colour[1] + colour[2]) / 3) * 1.5;
  });
}
