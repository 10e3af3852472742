import type { LayerOf } from '../document/index.ts';
import { cos, exp, hypot, seeded, sin } from '../maths/index.ts';
import { hiddenAt } from './in-set.ts';
import type { LightFrame } from './light-frame.ts';
import type { Plate } from './plate.ts';
import type { Colour } from './shapes.ts';

type Flare = LayerOf<'flare'>;

/** Radius of the light that is looked for, as a share of the picture's height: a product goes before it little by little. */
const LIGHT = 0.012;
/** Distances from a light between which its fall is even. */
const STEPS = 8192;
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
  // A hot core with a long fall, looked up by its distance.
  const farthest = hypot(width / height / 2 + Math.abs(ax), 0.5 + Math.abs(ay));
  const per = STEPS / farthest;
  const falls = Float64Array.from({ length: STEPS + 2 }, (_, k) => {
    const r = k / per / core;
    return glow > 0 ? exp(-r * 6) + 0.12 * exp(-r * 1.6) : 0;
  });
  // A streak that is thin and fades outwards: what it has across times what it has down.
  const across = Float64Array.from({ length: width }, (_, x) =>
    streak > 0 ? 0.5 * exp((-Math.abs((x + 0.5 - width / 2) / height - ax) / long) * 3) : 0,
  );
  for (let y = 0, o = 0; y < height; y++) {
    const v = 0.5 - (y + 0.5) / height;
    const dy = v - ay;
    const down = streak > 0 ? exp((-Math.abs(dy) / thin) * 1.2) : 0;
    const near = parts.filter((ghost) => Math.abs(v - ghost.y) < ghost.radius);
    for (let x = 0; x < width; x++, o += 4) {
      const u = (x + 0.5 - width / 2) / height;
      const dx = u - ax;
      const way = Math.sqrt(dx * dx + dy * dy) * per;
      const whole = Math.floor(way);
      const fall = falls[whole] + (way - whole) * (falls[whole + 1] - falls[whole]);
      const light = (fall + across[x] * down) * strength;
      data[o] = colour[0] * light;
      data[o + 1] = colour[1] * light;
      data[o + 2] = colour[2] * light;
      for (const ghost of near) {
        if (Math.abs(u - ghost.x) >= ghost.radius) continue;
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
