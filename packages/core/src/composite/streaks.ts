import type { LayerOf } from '../document/index.ts';
import { exp, hashed } from '../maths/index.ts';
import { edge, inverseOf, type Paint, type Place } from './place.ts';
import type { Plate } from './plate.ts';
import type { Colour } from './shapes.ts';

/** Streaks run over a way this many times the picture's height, their own length besides. */
const WAY = 2.4;
/** The way from one dot of a streak to the next, as a share of its radius. */
const STEP = 0.35;
const LEAST_STEP = 0.6;
/** How many times the radius of a streak's core its light reaches. */
const REACH = 3;

/** Adds a soft dot of light: a Gaussian of its radius, alpha left. */
function dot(
  { width, height, data }: Plate,
  x: number,
  y: number,
  radius: number,
  colour: Colour,
  light: number,
): void {
  const reach = radius * REACH;
  const fall = -1 / (radius * radius);
  for (let j = Math.max(0, Math.floor(y - reach)); j < Math.min(height, Math.ceil(y + reach)); j++) {
    const dy = j + 0.5 - y;
    for (let i = Math.max(0, Math.floor(x - reach)); i < Math.min(width, Math.ceil(x + reach)); i++) {
      const dx = i + 0.5 - x;
      const there = light * exp((dx * dx + dy * dy) * fall);
      const o = (j * width + i) * 4;
      for (let c = 0; c < 3; c++) data[o + c] += colour[c] * there;
    }
  }
}

/**
 * Light streaks: lines of light that run across, brightest at their heads, each at its own height, speed and brightness. Their light is
 * added and covers nothing. Where they are follows from the moment alone.
 */
export function drawStreaks(
  plate: Plate,
  place: Place,
  layer: LayerOf<'streaks'>,
  colours: readonly [Colour, Colour],
  seconds: number,
): void {
  const { count, reach, line, spread, bend, speed, brightness, seed } = layer;
  const { a, b, c, d, e, f, g, h, i } = place;
  const [ua, ub, uc, va, vb, vc, wa, wb, wc] = inverseOf([a, b, c, d, e, f, g, h, i]);
  const way = WAY + reach;
  for (let n = 0; n < Math.round(count); n++) {
    const random = (k: number): number => hashed(n, k, 17, seed);
    const along = random(1) * way + speed * seconds * (0.5 + random(2));
    const head = along - Math.floor(along / way) * way - way / 2 + (speed < 0 ? -reach / 2 : reach / 2);
    const level = (random(3) - 0.5) * spread;
    const own = reach * (0.4 + 0.6 * random(4));
    const mix = random(5);
    const colour = colours[0].map((v, k) => v + (colours[1][k] - v) * mix) as unknown as Colour;
    const bright = brightness * (0.35 + 0.65 * random(6));
    const wide = line * (0.4 + 0.6 * random(7));
    const radius = Math.max(0.5, wide / 2 / place.pixel);
    // Dots overlap: so many of them make one brightness.
    const gap = Math.max(LEAST_STEP, radius * STEP);
    const each = gap / (radius * Math.sqrt(Math.PI));
    const dots = Math.max(1, Math.ceil(own / (gap * place.pixel)));
    for (let k = 0; k < dots; k++) {
      const back = k / dots;
      const u = head - Math.sign(speed || 1) * back * own;
      const v = level + bend * u * u;
      const w = wa * u + wb * v + wc;
      if (!(w > 0)) continue;
      const fade = 1 - back;
      dot(plate, (ua * u + ub * v + uc) / w, (va * u + vb * v + vc) / w, radius, colour, bright * each * fade * fade);
    }
  }
}

/** A strip of light that moves across, over and over when it has a speed: a core, soft edges of another colour, soft ends. */
export function stripPaint(
  { width, softness, height, ends, slant, speed, every, brightness }: LayerOf<'strip'>,
  [core, rim]: readonly [Colour, Colour],
  seconds: number,
  pixel: number,
): Paint {
  const away = speed * seconds;
  const middle = speed === 0 ? 0 : away - Math.floor(away / every + 0.5) * every;
  const soft = Math.max(pixel, softness);
  const [half, high] = [width / 2, height / 2];
  return (u, v, out) => {
    const inside = half - Math.abs(u - middle - slant * v);
    const there = edge(inside, soft) * edge(high - Math.abs(v), Math.max(pixel, ends));
    if (there <= 0) return 0;
    const deep = Math.min(1, Math.max(0, (inside + soft / 2) / (half + soft / 2)));
    for (let c = 0; c < 3; c++) out[c] = (rim[c] + (core[c] - rim[c]) * deep) * brightness;
    return there;
  };
}
