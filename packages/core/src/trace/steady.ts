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
    const places = everyPixel(count);
    let nearer = own;
    for (let offset = direction; ; offset += direction) {
      const other = await neighbour(offset);
      if (!other) break;
      follow((direction < 0 ? nearer : other).detail?.motion, own, direction, at, places);
      const [theirs, theirNoise] = [smoothLuminance(other), blur(other.variance, width, height)];
      addFrame({ own, other, places, at, restless, luminance, theirs, noise, theirNoise, weight, variance, sums });
      nearer = other;
    }
  }
  for (const sum of sums) average(sum, weight);
  const [beauty, pairedAlbedo, pairedNormal, pairedDepth] = sums;
  return { ...own, beauty, pairedAlbedo, pairedNormal, pairedDepth, variance: varianceLeft(variance, weight) };
}

/** A pixel that is not seen in the frame at hand, and no longer looked for. */
const LOST = -1;

/** A frame that is added to the middle one. */
interface Added {
  own: Passes;
  other: Passes;
  /** Where the middle frame's pixels lie in the other, and in which of its pixels. */
  at: Float32Array;
  places: Int32Array;
  restless: Uint8Array;
  /** Luminance of both, smoothed, and its noise. */
  luminance: Float32Array;
  theirs: Float32Array;
  noise: Float32Array;
  theirNoise: Float32Array;
  weight: Float64Array;
  variance: Float64Array;
  sums: readonly Float32Array[];
}

/** Adds what another frame has of the same surfaces to the middle frame's sums. All arrays stand in locals: it is the inner loop. */
function addFrame(added: Added): void {
  const { own, other, at, places, restless, luminance, theirs, noise, theirNoise, weight, variance } = added;
  const [beauty, albedoSum, normalSum, depthSum] = added.sums;
  const { albedo, normal, depth, width } = own;
  const { albedo: itsAlbedo, normal: itsNormal, depth: itsDepth, variance: itsVariance } = other;
  const { beauty: light, pairedAlbedo, pairedNormal, pairedDepth } = other;
  const tolerance = (TOLERANCE * TOLERANCE) / 9;
  const farthest = SPECULAR.moved * SPECULAR.moved;
  for (let y = 0, p = 0; p < places.length; y++) {
    for (let x = 0; x < width; x++, p++) {
      const q = places[p];
      if (q < 0) continue;
      const i = p * 3;
      const k = q * 3;
      const d = depth[p];
      const alike =
        !(Math.abs(d - itsDepth[q]) > ALIKE.depth * Math.max(0.01, d)) &&
        Math.abs(albedo[i] - itsAlbedo[k]) < ALIKE.albedo &&
        Math.abs(albedo[i + 1] - itsAlbedo[k + 1]) < ALIKE.albedo &&
        Math.abs(albedo[i + 2] - itsAlbedo[k + 2]) < ALIKE.albedo &&
        Math.abs(normal[i] - itsNormal[k]) < ALIKE.normal &&
        Math.abs(normal[i + 1] - itsNormal[k + 1]) < ALIKE.normal &&
        Math.abs(normal[i + 2] - itsNormal[k + 2]) < ALIKE.normal;
      const right = at[p * 2] - x;
      const down = at[p * 2 + 1] - y;
      if (!alike || (restless[p] === 1 && right * right + down * down > farthest)) {
        places[p] = LOST;
        continue;
      }
      const off = luminance[p] - theirs[q];
      if (off * off > tolerance * (noise[p] + theirNoise[q]) + 1e-12) continue;
      weight[p]++;
      variance[p] += itsVariance[q];
      beauty[i] += light[k];
      beauty[i + 1] += light[k + 1];
      beauty[i + 2] += light[k + 2];
      albedoSum[i] += pairedAlbedo[k];
      albedoSum[i + 1] += pairedAlbedo[k + 1];
      albedoSum[i + 2] += pairedAlbedo[k + 2];
      normalSum[i] += pairedNormal[k];
      normalSum[i + 1] += pairedNormal[k + 1];
      normalSum[i + 2] += pairedNormal[k + 2];
      depthSum[p] += pairedDepth[q];
    }
  }
}

/** Numbers of all pixels. Loops stand in functions of their own: an engine makes little of those in one that waits. */
function everyPixel(count: number): Int32Array {
  const places = new Int32Array(count);
  for (let p = 0; p < count; p++) places[p] = p;
  return places;
}

/** Variance of means over frames, from the sums of theirs. */
function varianceLeft(sums: Float64Array, weight: Float64Array): Float32Array {
  const left = new Float32Array(sums.length);
  for (let p = 0; p < left.length; p++) {
    const w = weight[p];
    left[p] = w > 1 ? (UNDERSTATED * sums[p]) / (w * w) : sums[p];
  }
  return left;
}

/** Sums over the frames that they are of, one channel or three a pixel. */
function average(sum: Float32Array, weight: Float64Array): void {
  const channels = sum.length / weight.length;
  for (let p = 0, i = 0; p < weight.length; p++) {
    const share = 1 / weight[p];
    for (const end = i + channels; i < end; i++) sum[i] *= share;
  }
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
