import { blur } from './blur.ts';
import type { Passes } from './passes.ts';

/** Frames on each side that a take's frames are steadied with. */
export const AROUND = 3;
/** How far two surfaces may differ and still be the same one seen a frame later. */
const ALIKE = { albedo: 0.06, normal: 0.15, depth: 0.02 };
/** Standard deviations that light may differ by, over a neighbourhood. */
const TOLERANCE = 2.2;
/**
 * What is left in is what agreed, so its spread says too little about its error; told twice that, cleaning is both
 * nearer to the truth and calmer (measured on the demo's turning jar).
 */
const UNDERSTATED = 2;
/** The share of glossy and transmitted light, and the pixels of motion, from which on a surface is no guide to its light. */
const SPECULAR = { share: 0.5, moved: 0.3 };

/** What is added up of frames. */
const SUMMED = ['beauty', 'pairedAlbedo', 'pairedNormal', 'pairedDepth'] as const;

/**
 * One frame with what its neighbours saw of the same surfaces (by their motion vectors) added in: noise in what stands
 * still does not flicker. What is mirrored or seen through moves otherwise than the surface that shows it: such light is
 * only shared while the surface rests. Only neighbours within a fixed distance are asked, so the result is the same
 * whichever frames were rendered first, and by whom. They are asked for one by one, outwards, so that few are in memory at
 * a time.
 *
 * @param own the frame that is steadied, with motion vectors to the one before, as all; and, where they are known, its
 *   glossy and transmitted light.
 * @param neighbour gives the frame so many frames later (or earlier, below 0), or nothing where it ends.
 */
export async function steady(
  own: Passes,
  neighbour: (offset: number) => Passes | undefined | Promise<Passes | undefined>,
): Promise<Passes> {
  const { width, height } = own;
  const count = width * height;
  // What neighbours' samples saw goes along with their light: denoising reads it where this frame's own surfaces are.
  const sums = SUMMED.map((name) => own[name].slice());
  const weight = new Float64Array(count).fill(1);
  const variance = new Float64Array(own.variance);
  const [luminance, noise] = [smoothLuminance(own), blur(own.variance, width, height)];
  const restless = specularPixels(own);
  for (const direction of [-1, 1]) {
    const at = ownPlaces(width, height);
    const places = Int32Array.from({ length: count }, (_, p) => p);
    let nearer = own;
    for (let offset = direction; ; offset += direction) {
      const other = await neighbour(offset);
      if (!other) break;
      follow((direction < 0 ? nearer : other).detail?.motion, own, direction, at, places);
      const [theirs, theirNoise] = [smoothLuminance(other), blur(other.variance, width, height)];
      const theirVariance = other.variance;
      for (let p = 0; p < count; p++) {
        const q = places[p];
        if (q < 0) continue;
        if (!sameSurface(own, other, p, q) || (restless[p] && moved(at, p, width))) {
          places[p] = LOST;
          continue;
        }
        const off = luminance[p] - theirs[q];
        if (off * off > (TOLERANCE * TOLERANCE * (noise[p] + theirNoise[q])) / 9 + 1e-12) continue;
        weight[p]++;
        variance[p] += theirVariance[q];
        addPixel(sums, other, p, q);
      }
      nearer = other;
    }
  }
  for (const sum of sums) {
    const channels = sum.length / count;
    for (let p = 0, i = 0; p < count; p++) for (let c = 0; c < channels; c++) sum[i++] /= weight[p];
  }
  const [beauty, pairedAlbedo, pairedNormal, pairedDepth] = sums;
  const left = new Float32Array(count);
  for (let p = 0; p < count; p++) {
    const w = weight[p];
    left[p] = w > 1 ? (UNDERSTATED * variance[p]) / (w * w) : variance[p];
  }
  return { ...own, beauty, pairedAlbedo, pairedNormal, pairedDepth, variance: left };
}

/** A pixel that is not seen in the frame at hand, and no longer looked for. */
const LOST = -1;

/** Adds what another frame has at a place to a pixel's sums. */
function addPixel(sums: readonly Float32Array[], other: Passes, p: number, q: number): void {
  const [beauty, albedo, normal, depth] = sums;
  const { beauty: light, pairedAlbedo, pairedNormal, pairedDepth } = other;
  const to = p * 3;
  const from = q * 3;
  for (let c = 0; c < 3; c++) {
    beauty[to + c] += light[from + c];
    albedo[to + c] += pairedAlbedo[from + c];
    normal[to + c] += pairedNormal[from + c];
  }
  depth[p] += pairedDepth[q];
}

/** Where each pixel of the middle frame lies in the frame at hand: at first where it is, right and down. */
function ownPlaces(width: number, height: number): Float32Array {
  const at = new Float32Array(width * height * 2);
  for (let y = 0, k = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      at[k++] = x;
      at[k++] = y;
    }
  }
  return at;
}

function moved(at: Float32Array, p: number, width: number): boolean {
  const [x, y] = [at[p * 2] - (p % width), at[p * 2 + 1] - Math.floor(p / width)];
  return x * x + y * y > SPECULAR.moved * SPECULAR.moved;
}

/**
 * Moves positions one frame on: back by the frame's own vectors, forward by those of the frame that is entered.
 * @param places the pixels in which they lie.
 */
function follow(
  vectors: Float32Array | undefined,
  { width, height }: Pick<Passes, 'width' | 'height'>,
  direction: number,
  at: Float32Array,
  places: Int32Array,
): void {
  if (!vectors) return;
  for (let p = 0; p < places.length; p++) {
    const q = places[p];
    if (q < 0) continue;
    at[p * 2] += direction * vectors[q * 2];
    at[p * 2 + 1] += direction * vectors[q * 2 + 1];
    const x = Math.round(at[p * 2]);
    const y = Math.round(at[p * 2 + 1]);
    places[p] = x < 0 || y < 0 || x >= width || y >= height ? LOST : y * width + x;
  }
}

function sameSurface(a: Passes, b: Passes, p: number, q: number): boolean {
  const depth = Math.abs(a.depth[p] - b.depth[q]) / Math.max(0.01, a.depth[p]);
  if (depth > ALIKE.depth) return false;
  for (let c = 0; c < 3; c++) {
    if (!(Math.abs(a.albedo[p * 3 + c] - b.albedo[q * 3 + c]) < ALIKE.albedo)) return false;
    if (!(Math.abs(a.normal[p * 3 + c] - b.normal[q * 3 + c]) < ALIKE.normal)) return false;
  }
  return true;
}

const luminanceAt = (rgb: Float32Array, p: number): number =>
  0.2126 * rgb[p * 3] + 0.7152 * rgb[p * 3 + 1] + 0.0722 * rgb[p * 3 + 2];

function smoothLuminance({ beauty, width, height }: Passes): Float32Array {
  const l = new Float32Array(width * height);
  for (let p = 0; p < l.length; p++) l[p] = luminanceAt(beauty, p);
  return blur(l, width, height);
}

/** Which pixels get most of their light by mirroring and transmission; none where that is not known. */
function specularPixels({ beauty, detail, width, height }: Passes): Uint8Array {
  const out = new Uint8Array(width * height);
  if (!detail?.glossy || !detail.transmission) return out;
  const share = new Float32Array(width * height);
  for (let p = 0; p < share.length; p++) {
    const whole = luminanceAt(beauty, p);
    if (whole > 0) share[p] = (luminanceAt(detail.glossy, p) + luminanceAt(detail.transmission, p)) / whole;
  }
  blur(share, width, height).forEach((v, p) => (out[p] = v > SPECULAR.share ? 1 : 0));
  return out;
}
