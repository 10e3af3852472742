import { exp } from '../maths/index.ts';
import type { Plate, Plates } from './plate.ts';

/** Pixels of a blur's width at least that halved pictures are blurred by. */
const LEAST_SIGMA = 1.5;
/** What the quadratic B-spline adds to the variance each time that a picture is halved or doubled by it, in pixels of the larger. */
const SPLINE = 1;

/** How often a picture is halved before it is blurred so wide, and how wide the halved one is blurred, in its pixels. */
function halvings(sigma: number, size: number): { times: number; own: number } {
  let times = 0;
  while (sigma / (2 << times) >= LEAST_SIGMA && 2 << times <= size) times++;
  let variance = sigma * sigma;
  for (let k = 0, pixel = 1; k < times; k++, pixel *= 4) variance -= 2 * SPLINE * pixel;
  return { times, own: Math.sqrt(variance) / (1 << times) };
}

/**
 * Weights of a Gaussian to one side, the middle first; in all they are 1, and their variance is its own, which samples of a narrow
 * Gaussian do not have by themselves.
 */
export function gaussianWeights(sigma: number): Float32Array {
  const wanted = sigma * sigma;
  let [low, high] = [0.01, sigma + 1];
  let made: number[] = [1];
  for (let i = 0; i < 40; i++) {
    const width = (low + high) / 2;
    const reach = Math.ceil(3.5 * width) + 1;
    made = Array.from({ length: reach + 1 }, (_, k) => exp((-k * k) / (2 * width * width)));
    const sum = made.reduce((n, w, k) => n + (k ? 2 * w : w), 0);
    made = made.map((w) => w / sum);
    const variance = made.reduce((n, w, k) => n + 2 * w * k * k, 0);
    if (variance < wanted) low = width;
    else high = width;
  }
  return Float32Array.from(made);
}

/** Blurs a plate by a narrow Gaussian times a gain, into another (which may be the same) or on top of what is there. */
function smooth(plates: Plates, plate: Plate, sigma: number, gain: number, into: Plate, add: boolean): void {
  const { width, height } = plate;
  plates.within(() => {
    const weights = plates.store(gaussianWeights(sigma));
    const reach = weights.data.length - 1;
    const middle = plates.raw(width, height);
    const row = plates.floats((width + 2 * reach) * 4);
    plates.kernel.smooth(
      ...([plate.at, width, height, weights.at, reach, middle.at, row.at] as const),
      ...([into.at, gain, add ? 1 : 0] as const),
    );
  });
}

/** The plate that is twice as large, of the size that was halved. */
function widen(plates: Plates, from: Plate, to: Plate): void {
  plates.within(() => {
    const row = plates.floats(from.width * 4);
    plates.kernel.widen(from.at, to.width, to.height, to.at, row.at);
  });
}

/** The plate that is half as large, by the B-spline. */
function shrunk(plates: Plates, { at, width, height }: Plate): Plate {
  const half = plates.raw((width + 1) >> 1, (height + 1) >> 1);
  plates.within(() => plates.kernel.shrink(at, width, height, half.at, plates.floats(width * 4).at));
  return half;
}

function halved(plates: Plates, { at, width, height }: Plate): Plate {
  const half = plates.raw((width + 1) >> 1, (height + 1) >> 1);
  plates.kernel.halve(at, width, height, half.at);
  return half;
}

/** A plate with versions of it that are each half as large, rounded up. They last as long as the work that asked for them. */
export class Pyramid {
  private readonly levels: Plate[];

  constructor(
    private readonly plates: Plates,
    plate: Plate,
  ) {
    this.levels = [plate];
  }

  /** The plate halved so many times; four pixels become one. */
  level(n: number): Plate {
    while (this.levels.length <= n) {
      const last = this.levels[this.levels.length - 1];
      if (last.width === 1 && last.height === 1) return last;
      this.levels.push(halved(this.plates, last));
    }
    return this.levels[n];
  }
}

/**
 * Blurs a plate as a Gaussian does. A wide one is made of a halved picture, where it looks the same, so that the time hardly depends
 * on its width: halved, blurred, and doubled. Both ways go by the quadratic B-spline, whose blur is the same wherever a pixel falls and
 * is taken off first. Beyond the picture's edge its outermost pixels go on.
 * @param sigma pixels.
 */
export function blurPlate(plates: Plates, plate: Plate, sigma: number): void {
  if (!(sigma > 0.05)) return;
  if (sigma < 2 * LEAST_SIGMA) smooth(plates, plate, sigma, 1, plate, false);
  else blurred(plates, plate, [[sigma, 1]], plate);
}

/**
 * The sum of Gaussian blurs of a plate, each with its weight, into another of its size (which may be the same).
 * @param parts [sigma in pixels, weight].
 */
export function blurred(
  plates: Plates,
  plate: Plate,
  parts: ReadonlyArray<readonly [sigma: number, weight: number]>,
  into: Plate,
): void {
  const size = Math.max(plate.width, plate.height);
  const all = parts.map(([sigma, weight]) => ({ weight, ...halvings(Math.max(sigma, 0.02), size) }));
  plates.within(() => {
    const levels = [plate];
    const times = Math.max(...all.map((part) => part.times));
    for (let n = 0; n < times; n++) levels.push(shrunk(plates, levels[n]));
    let sum: Plate | null = null;
    // From the widest: what is there is doubled, and what is as wide as that is added.
    for (let n = times; n >= 0; n--) {
      const own = levels[n];
      const here = all.filter((part) => part.times === n);
      const last = n === 0;
      let next: Plate | null = null;
      if (sum) {
        next = last && here.length === 0 ? into : plates.raw(own.width, own.height);
        widen(plates, sum, next);
      }
      for (const part of here) {
        const add = next !== null;
        next ??= plates.raw(own.width, own.height);
        smooth(plates, own, part.own, part.weight, next, add);
      }
      sum = next;
    }
    if (sum && sum.at !== into.at) into.data.set(sum.data);
  });
}
