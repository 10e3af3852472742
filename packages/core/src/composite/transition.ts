import type { Transition, TransitionKind } from '../document/index.ts';
import { hexToLinear } from '../finish/index.ts';
import { DEGREES } from '../geometry/index.ts';
import { cos, sin } from '../maths/index.ts';
import type { Picture } from '../picture/index.ts';
import { blend } from './blend.ts';
import { blurPlate, Pyramid } from './blur.ts';
import { flyPast } from './fly-past.ts';
import { revealThrough } from './logo-reveal.ts';
import { placeOf } from './place.ts';
import type { Plate, Plates } from './plate.ts';
import { smokeFront } from './smoke-front.ts';
import { warp } from './warp.ts';

/** Draws a transition into the plate of the clip that goes. Both are opaque light. @param t above 0 and below 1. @param logo of one. */
type Draw = (
  plates: Plates,
  going: Plate,
  coming: Plate,
  transition: Transition,
  t: number,
  logo: Picture | null,
) => void;

/** How much larger a clip is when it has been zoomed through. */
const ZOOMED = 2.4;

/** Goes and comes softly; its speed is 0 at both ends. */
const eased = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** The side that a direction is nearest to. */
function sideOf(angle: number): readonly [across: number, up: number] {
  const quarter = ((Math.round(angle / 90) % 4) + 4) % 4;
  return (
    [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ] as const
  )[quarter];
}

function fill({ data }: Plate, [r, g, b]: readonly number[]): void {
  for (let i = 0; i < data.length; i += 4) {
    data[i] = r;
    data[i + 1] = g;
    data[i + 2] = b;
    data[i + 3] = 1;
  }
}

/** Copies a picture by whole pixels to the right and down; what it does not reach stays. */
function shift(from: Plate, to: Plate, dx: number, dy: number): void {
  const { width, height } = from;
  const [source, target] = [from.data, to.data];
  const [x0, x1] = [Math.max(0, dx), Math.min(width, width + dx)];
  if (x1 <= x0) return;
  for (let y = Math.max(0, dy); y < Math.min(height, height + dy); y++) {
    const row = ((y - dy) * width + x0 - dx) * 4;
    target.set(source.subarray(row, row + (x1 - x0) * 4), (y * width + x0) * 4);
  }
}

/** Both pictures side by side, gone so far. */
function pushed(going: Plate, coming: Plate, to: Plate, angle: number, way: number): void {
  const [across, up] = sideOf(angle);
  const { width, height } = going;
  const [dx, dy] = [Math.round(across * way * width), Math.round(-up * way * height)];
  shift(going, to, dx, dy);
  shift(coming, to, dx - across * width, dy + up * height);
}

/**
 * Both pictures side by side, going from one place to another while the shutter is open: each line is the mean of what passes by, by
 * its running sum, exact for an even speed.
 */
function swept(
  going: Plate,
  coming: Plate,
  to: Plate,
  [across, up]: readonly [number, number],
  from: number,
  until: number,
): void {
  const { width, height } = going;
  const [count, lines] = across !== 0 ? [width, height] : [height, width];
  const [step, next] = across !== 0 ? [4, width * 4] : [width * 4, 4];
  const mirrored = across < 0 || up > 0;
  const [near, far] = [from * count, Math.max(from * count + 1e-3, until * count)];
  const [a, b, out] = [going.data, coming.data, to.data];
  // Sums up to each place of a line that has the coming picture first, then the going one.
  const sums = new Float64Array(2 * count + 1);
  const upTo = (place: number): number => {
    const x = Math.min(2 * count, Math.max(0, place));
    const i = Math.min(2 * count - 1, Math.floor(x));
    return sums[i] + (sums[i + 1] - sums[i]) * (x - i);
  };
  for (let line = 0; line < lines; line++)
    for (let c = 0; c < 4; c++) {
      const at = (i: number): number => line * next + (mirrored ? count - 1 - i : i) * step + c;
      for (let i = 0; i < count; i++) sums[i + 1] = sums[i] + b[at(i)];
      for (let i = 0; i < count; i++) sums[count + i + 1] = sums[count + i] + a[at(i)];
      for (let i = 0; i < count; i++) {
        const middle = count + i + 0.5;
        out[at(i)] = (upTo(middle - near + 0.5) - upTo(middle - far - 0.5)) / (far - near + 1);
      }
    }
}

/** Lays the coming picture over the going one where a share says so, with a soft edge. @param share of a pixel's middle: below 0 none, above 1 all. */
function uncover(plates: Plates, going: Plate, coming: Plate, share: (x: number, y: number) => number): void {
  const { width, height } = going;
  const open = plates.floats(width * height);
  const { data } = open;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const s = Math.min(1, Math.max(0, share(x + 0.5, y + 0.5)));
      data[i] = s * s * (3 - 2 * s);
    }
  const over = plates.copy(coming);
  plates.kernel.cover(over.at, open.at, width * height);
  blend(plates, going, over, 'over', 1);
}

/** Light at the brightest of a leak, and its streaks: where they are in the middle of it, how fast they pass, how they lean, how wide they are; halves of the way across. */
const LEAK = 0.8;
const STREAKS = [
  { from: -0.25, speed: 1.1, drift: 0.25, wide: 1.3 },
  { from: 0.2, speed: 1.6, drift: -0.15, wide: 0.7 },
  { from: 0.55, speed: 0.8, drift: 0.4, wide: 0.9 },
] as const;

/** How large an outline about the middle must be to have a point on it, by its farthest corner. */
const IRIS: Record<NonNullable<Transition['shape']>, (x: number, y: number) => number> = {
  circle: (x, y) => Math.sqrt(x * x + y * y),
  hexagon: (x, y) => {
    const [ax, ay] = [Math.abs(x), Math.abs(y)];
    return Math.max(ay, ax * SIN_60 + ay / 2) / SIN_60;
  },
  diamond: (x, y) => Math.abs(x) + Math.abs(y),
  star: (x, y) => {
    // Five points: each tenth of it is a line from a point to a dent.
    let most = -Infinity;
    const r = Math.sqrt(x * x + y * y);
    for (const [px, py] of STAR_POINTS) most = Math.max(most, x * px + y * py);
    const along = Math.min(r, Math.max(most, 0));
    const across = Math.sqrt(Math.max(0, r * r - along * along));
    // The line through a point at 1 and a dent: along + slope * across = 1.
    return along + STAR_SLOPE * across;
  },
};
const SIN_60 = Math.sqrt(3) / 2;
const STAR_POINTS = [0, 1, 2, 3, 4].map(
  (n) => [sin((n * 72 * Math.PI) / 180), -cos((n * 72 * Math.PI) / 180)] as const,
);
/** Radius of a star's dents over that of its points, and how its lines lean. */
const DENT = 0.45;
const STAR_SLOPE = (1 - DENT * cos(36 * DEGREES)) / (DENT * sin(36 * DEGREES));
/** How much larger than a circle an outline must be to have that circle in it. */
const INRADIUS: Record<NonNullable<Transition['shape']>, number> = {
  circle: 1,
  hexagon: 1 / SIN_60,
  diamond: Math.SQRT2,
  star: 1 / DENT,
};

/** Shares of the smoke's way over which it thickens before it covers a place, and thins out behind. */
const THICKENS = 0.16;
const THINS = 0.42;
/** How much light from above shows its billows. */
const BILLOWS = 7;

/** The going picture is lost in smoke that is blown over it, and the coming one is there when it thins out. */
function smokeWipe(
  plates: Plates,
  going: Plate,
  coming: Plate,
  { angle, softness, colour, seed = 1 }: Transition,
  t: number,
): void {
  const { width, height } = going;
  const [co, si] = [cos(angle * DEGREES), sin(angle * DEGREES)];
  const along = Math.abs(co) * width + Math.abs(si) * height;
  const across = Math.abs(si) * width + Math.abs(co) * height;
  const front = smokeFront(along / across, seed);
  // When each pixel is covered; a row lower is a fixed step along and across the smoke's way.
  const arrival = new Float32Array(width * height);
  const [wide, high] = [front.width / along, front.height / across];
  for (let y = 0, i = 0; y < height; y++) {
    const dy = y + 0.5 - height / 2;
    for (let x = 0; x < width; x++, i++) {
      const dx = x + 0.5 - width / 2;
      const gx = Math.min(front.width - 1.001, Math.max(0, (dx * co - dy * si + along / 2) * wide - 0.5));
      const gy = Math.min(front.height - 1.001, Math.max(0, (dx * si + dy * co + across / 2) * high - 0.5));
      const x0 = Math.floor(gx);
      const y0 = Math.floor(gy);
      const fx = gx - x0;
      const at = y0 * front.width + x0;
      const top = front.arrival[at] + (front.arrival[at + 1] - front.arrival[at]) * fx;
      const low = at + front.width;
      const bottom = front.arrival[low] + (front.arrival[low + 1] - front.arrival[low]) * fx;
      arrival[i] = top + (bottom - top) * (gy - y0);
    }
  }
  const gone = -THICKENS + t * (1 + THICKENS + THINS);
  const soft = 0.02 + 0.2 * softness;
  const veil = plates.raw(width, height);
  const { data } = veil;
  const [r, g, b] = hexToLinear(colour) ?? [1, 1, 1];
  // Towards the light, which is above: half a cell of the smoke.
  const above = Math.max(1, Math.round(0.75 / high)) * width;
  for (let i = 0, to = 0; i < arrival.length; i++, to += 4) {
    const since = gone - arrival[i];
    const thick = Math.min(1, Math.max(0, since < 0 ? 1 + since / THICKENS : 1 - since / THINS));
    const opacity = thick * thick * (3 - 2 * thick);
    const slope = (i >= above ? arrival[i - above] : arrival[i]) - arrival[i];
    const shade = Math.min(1.2, Math.max(0.3, 0.8 + BILLOWS * slope)) * opacity;
    data[to] = r * shade;
    data[to + 1] = g * shade;
    data[to + 2] = b * shade;
    data[to + 3] = opacity;
  }
  uncover(plates, going, coming, (x, y) => (gone - arrival[Math.floor(y) * width + Math.floor(x)]) / (2 * soft) + 0.5);
  blend(plates, going, veil, 'over', 1);
}

const dissolve: Draw = (plates, going, coming, _, t) => blend(plates, going, coming, 'over', t);

const DRAW: Record<TransitionKind, Draw> = {
  dissolve,
  dip: (plates, going, coming, { colour }, t) => {
    const plain = plates.raw(going.width, going.height);
    fill(plain, hexToLinear(colour) ?? [0, 0, 0]);
    if (t < 0.5) blend(plates, going, plain, 'over', eased(2 * t));
    else {
      going.data.set(coming.data);
      blend(plates, going, plain, 'over', eased(2 - 2 * t));
    }
  },
  flash: (plates, going, coming, _, t) => {
    if (t >= 0.5) going.data.set(coming.data);
    const light = plates.raw(going.width, going.height);
    fill(light, [1, 1, 1]);
    // Comes quickly and dies away, as a flash does.
    const strength = t < 0.5 ? 8 * t * t * t : (2 - 2 * t) * (2 - 2 * t);
    blend(plates, going, light, 'add', 1.4 * strength);
  },
  wipe: (plates, going, coming, { angle, softness }, t) => {
    const { width, height } = going;
    const [co, si] = [cos(angle * DEGREES), sin(angle * DEGREES)];
    const half = (Math.abs(co) * width + Math.abs(si) * height) / 2;
    const soft = Math.max(1, softness * half);
    const edge = -half - soft + t * (2 * half + 2 * soft);
    uncover(plates, going, coming, (x, y) => {
      const along = (x - width / 2) * co - (y - height / 2) * si;
      return (edge - along) / (2 * soft) + 0.5;
    });
  },
  iris: (plates, going, coming, { angle, softness, shape = 'circle' }, t) => {
    const { width, height } = going;
    const corner = Math.sqrt(width * width + height * height) / 2;
    const soft = Math.max(1, softness * corner);
    const radiusOf = IRIS[shape];
    // As wide as lets the corners of the picture in, where the outline is nearest to its middle.
    const most = corner * INRADIUS[shape];
    const radius = -soft + eased(t) * (most + 2 * soft);
    const [co, si] = [cos(angle * DEGREES), sin(angle * DEGREES)];
    uncover(plates, going, coming, (x, y) => {
      const [dx, dy] = [x - width / 2, y - height / 2];
      return (radius - radiusOf(dx * co - dy * si, dx * si + dy * co)) / (2 * soft) + 0.5;
    });
  },
  logo: (plates, going, coming, transition, t, logo) => {
    // Without one the pictures go over into each other.
    if (!logo || !revealThrough(plates, going, coming, logo, t)) dissolve(plates, going, coming, transition, t, null);
  },
  smoke: smokeWipe,
  fly: flyPast,
  luma: (plates, going, coming, { softness }, t) => {
    const { width, data } = going;
    const soft = Math.max(0.02, softness);
    const level = t * (1 + 2 * soft) - soft;
    uncover(plates, going, coming, (x, y) => {
      const i = (Math.floor(y) * width + Math.floor(x)) * 4;
      const light = Math.max(0, 0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2]);
      // By how bright it looks: what is brightest gives way first.
      const bright = Math.sqrt(light / (1 + light)) * Math.SQRT2;
      return (level - (1 - Math.min(1, bright))) / (2 * soft) + 0.5;
    });
  },
  leak: (plates, going, coming, { angle, colour }, t) => {
    const { width, height } = going;
    blend(plates, going, coming, 'over', eased(Math.min(1, Math.max(0, 2 * t - 0.5))));
    const [co, si] = [cos(angle * DEGREES), sin(angle * DEGREES)];
    const half = (Math.abs(co) * width + Math.abs(si) * height) / 2;
    const light = plates.raw(width, height);
    const [r, g, b] = hexToLinear(colour) ?? [1, 1, 1];
    const strength = LEAK * sin(Math.PI * t);
    const { data } = light;
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i += 4) {
        const along = ((x + 0.5 - width / 2) * co - (y + 0.5 - height / 2) * si) / half;
        const across = ((x + 0.5 - width / 2) * si + (y + 0.5 - height / 2) * co) / half;
        let sum = 0;
        for (const { from, speed, drift, wide } of STREAKS) {
          const off = (along - from - speed * (2 * t - 1) - drift * across) / wide;
          // A soft bell that ends: no light goes on for ever.
          const bell = Math.max(0, 1 - off * off);
          sum += bell * bell * bell;
        }
        data[i] = r * sum * strength;
        data[i + 1] = g * sum * strength;
        data[i + 2] = b * sum * strength;
        data[i + 3] = 1;
      }
    blend(plates, going, light, 'add', 1);
  },
  push: (plates, going, coming, { angle }, t) => {
    const to = plates.raw(going.width, going.height);
    pushed(going, coming, to, angle, eased(t));
    going.data.set(to.data);
  },
  slide: (_plates, going, coming, { angle }, t) => {
    const [across, up] = sideOf(angle);
    const rest = 1 - eased(t);
    shift(coming, going, -Math.round(across * rest * going.width), Math.round(up * rest * going.height));
  },
  zoom: (plates, going, coming, _, t) => {
    const s = eased(t);
    const grown = (plate: Plate, scale: number): Plate => {
      const out = plates.make(plate.width, plate.height);
      const place = placeOf({ x: 0, y: 0, stretch: 1, rotation: 0, scale }, plate.width, plate.height);
      warp(plates, out, new Pyramid(plates, plate), place, 1);
      return out;
    };
    const [before, after] = [grown(going, 1 + (ZOOMED - 1) * s), grown(coming, 1 + (1 - s) * 0.6)];
    blurPlate(plates, before, s * 0.012 * going.height);
    blend(plates, before, after, 'over', eased(Math.min(1, Math.max(0, 2 * t - 0.5))));
    going.data.set(before.data);
  },
  whip: (plates, going, coming, { angle, frames }, t) => {
    // A frame of the transition is as long as the step that it takes.
    const half = 0.5 / (frames + 1);
    const [from, to] = [Math.max(0, t - half), Math.min(1, t + half)].map(eased);
    const out = plates.raw(going.width, going.height);
    swept(going, coming, out, sideOf(angle), from, to);
    going.data.set(out.data);
  },
};

/**
 * A transition between two pictures of opaque light, into that of the clip that goes: mixed as light is, not as its codes are.
 * @param t share of the transition, above 0 and below 1. @param logo the picture of the logo that one is seen through, straight alpha.
 */
export function drawTransition(
  plates: Plates,
  going: Plate,
  coming: Plate,
  transition: Transition,
  t: number,
  logo: Picture | null = null,
): void {
  plates.within(() => DRAW[transition.kind](plates, going, coming, transition, t, logo));
}
