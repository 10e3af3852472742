/** The linear passes of one traced picture or part of it, rows from the top. */
export interface Passes {
  /** Of the part that was traced. */
  width: number;
  height: number;
  /** Least samples a pixel got. */
  samples: number;
  /** 3 floats a pixel, cd/m2. */
  beauty: Float32Array;
  /** 1 float a pixel: variance of the mean luminance. */
  variance: Float32Array;
  alpha: Float32Array;
  /** Albedo, normal and depth of the first surface may come of more samples than the beauty: see TraceOptions.features. */
  albedo: Float32Array;
  /** World space, averaged over the pixel. */
  normal: Float32Array;
  /** Metres along the ray; 0 where nothing was hit. */
  depth: Float32Array;
  /** Samples that each pixel's beauty got. */
  sampleCount: Float32Array;
  /** Albedo, normal and depth as the beauty's samples alone saw them. */
  pairedAlbedo: Float32Array;
  pairedNormal: Float32Array;
  pairedDepth: Float32Array;
  detail: DetailPasses | null;
}

/** Passes for compositing. Light passes are 3 floats a pixel and add up to the beauty, as do the other splits. */
export interface DetailPasses {
  /** Light that was scattered once at most, and the rest. */
  direct: Float32Array;
  indirect: Float32Array;
  /** By the lobe of the first surface. */
  diffuse: Float32Array;
  glossy: Float32Array;
  transmission: Float32Array;
  emission: Float32Array;
  /** The part of glossy that shows other things. */
  reflection: Float32Array;
  /** Luminance at the first surface without and with shadows; shadow is their ratio. */
  open: Float32Array;
  shaded: Float32Array;
  /** Pixels moved since the frame before, right and down. */
  motion: Float32Array;
  /** The four things and finishes that cover most of a pixel (-1: none) and their shares, 4 floats each. */
  thing: Float32Array;
  thingCover: Float32Array;
  finish: Float32Array;
  finishCover: Float32Array;
  /** Metres along the path to the first opaque surface, glass in front of it passed; 0 where there is none. */
  opaqueDepth: Float32Array;
  /**
   * What glass in front of the first opaque surface, or of nothing, lets through: what lies behind it is seen times this.
   * 1 where no glass is, 3 floats a pixel.
   */
  transmittance: Float32Array;
  /** One pass for each of the scene's lightPasses. */
  lights: Float32Array[];
}

export interface TraceLimits {
  /** Surfaces met by a path, glass included. */
  maxDepth: number;
  /** Matt or glossy bounces. */
  maxBounces: number;
  /** Most luminance, in display white, that one indirect sample may bring; 0: no limit. */
  clamp: number;
  exposureScale: number;
}

/** A part of the picture, in pixels; x1 and y1 are just outside. */
export interface Region {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

export interface TraceOptions {
  width: number;
  height: number;
  /** Samples every pixel gets. */
  samples: number;
  /** Adaptive: blocks of which a relative error above `target` will be left after denoising get more, up to `most`. */
  adapt?: { target: number; most: number };
  /**
   * Samples of the first surface, cheap ones among them that end there, that a pixel gets where its surfaces are uneven: with
   * albedo, normal and depth known well, denoising can tell print and edges from noise. None by default.
   */
  features?: number;
  /** Number of the first sample of every pixel: pictures of following samples add up to one of all. */
  firstSample?: number;
  limits: TraceLimits;
  frame: number;
  region?: Region;
  /** Keeps the passes for compositing. */
  detail?: boolean;
}

/** One number from the document's seed and the frame (fractional frames count by thousandths). */
export function frameSeed(seed: number, frame: number): number {
  return (Math.imul(seed >>> 0, 0x85ebca6b) ^ Math.imul(Math.round(frame * 1000), 0xc2b2ae35)) >>> 0;
}

/** Share of direct light that shadows leave, 1 float a pixel; 1 where there is none. */
export function shadowPass({ open, shaded }: DetailPasses): Float32Array {
  return open.map((o, i) => (o > 0 ? Math.min(1, shaded[i] / o) : 1));
}

/** One thing's or finish's cover of each pixel: an anti-aliased matte. */
export function matte(ids: Float32Array, cover: Float32Array, id: number): Float32Array {
  const out = new Float32Array(ids.length / 4);
  for (let i = 0; i < ids.length; i++) if (ids[i] === id) out[i >> 2] += cover[i];
  return out;
}

/** What some things let be seen of what lies behind them. */
export interface Hiding {
  /** How much of it they hide, 0..1 a pixel: all that they cover, but for what is seen through their glass. */
  matte: Float32Array;
  /** How they colour what is seen through them: linear RGB with a mean of 1, 3 floats a pixel; null where nothing is coloured. */
  tint: Float32Array | null;
}

/** Least difference of a colour from white that is told. */
const COLOURED = 0.01;

/**
 * What some things hide of what lies behind them, and colour. What is seen through glass within about `depth` metres of it belongs to them
 * as well, as a label behind a jar's wall does: all of it within half of that, and nothing beyond one and a half times as much.
 * @param wanted numbers of the things.
 */
export function hidingMatte(
  { depth: first, detail }: Pick<Passes, 'depth' | 'detail'>,
  wanted: ReadonlySet<number>,
  depth: number,
): Hiding {
  const { thing, thingCover, transmittance, opaqueDepth } = detail!;
  const out = new Float32Array(first.length);
  const tint = new Float32Array(first.length * 3).fill(1);
  let coloured = false;
  for (let i = 0; i < out.length; i++) {
    let covered = 0;
    for (let k = i * 4; k < i * 4 + 4; k++) if (wanted.has(thing[k])) covered += thingCover[k];
    if (covered <= 0) continue;
    const gap = opaqueDepth[i] > 0 ? opaqueDepth[i] - first[i] : Infinity;
    const own = Math.min(1, Math.max(0, 1.5 - gap / depth));
    const through = (transmittance[i * 3] + transmittance[i * 3 + 1] + transmittance[i * 3 + 2]) / 3;
    // Where glass covers a part of a pixel, the rest of it counts as clear already.
    const hidden = own * covered + (1 - own) * Math.min(covered, 1 - through);
    out[i] = Math.min(1, Math.max(0, hidden));
    if (own === 1 || through < COLOURED) continue;
    for (let o = i * 3; o < i * 3 + 3; o++) {
      tint[o] = transmittance[o] / through;
      coloured ||= Math.abs(tint[o] - 1) > COLOURED;
    }
  }
  return { matte: out, tint: coloured ? tint : null };
}

/** A traced part put in its place in the whole picture; everything else is black and uncovered. */
export function placeRegion(passes: Passes, region: Region, width: number, height: number): Passes {
  const place = (plane: Float32Array): Float32Array => {
    const channels = plane.length / (passes.width * passes.height);
    const out = new Float32Array(width * height * channels);
    for (let y = 0; y < passes.height; y++) {
      const row = plane.subarray(y * passes.width * channels, (y + 1) * passes.width * channels);
      out.set(row, ((y + region.y0) * width + region.x0) * channels);
    }
    return out;
  };
  const { detail, samples, width: _width, height: _height, ...planes } = passes;
  const placed = Object.entries(detail ?? {}).map(([name, plane]) => [
    name,
    Array.isArray(plane) ? plane.map(place) : place(plane),
  ]);
  const basic = Object.entries(planes).map(([name, plane]) => [name, place(plane)]);
  return {
    ...{ width, height, samples },
    ...(Object.fromEntries(basic) as Omit<Passes, 'width' | 'height' | 'samples' | 'detail'>),
    detail: detail && (Object.fromEntries(placed) as unknown as DetailPasses),
  };
}
