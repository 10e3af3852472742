import { pow } from '../maths/index.ts';
import { blur } from './blur.ts';
import type { Passes } from './passes.ts';

/** How far two surfaces may differ and still be the same one seen a frame later. */
const ALIKE = { albedo: 0.06, normal: 0.15, depth: 0.02 };
/** Standard deviations that light may differ by, over a neighbourhood. */
const TOLERANCE = 2.2;
/**
 * What is left in is what agreed, so its spread says too little about its error; told twice that, cleaning is both
 * nearer to the truth and calmer (measured on the demo's turning jar).
 */
const UNDERSTATED = 2;

/**
 * One frame with what its neighbours saw of the same surfaces (by their motion vectors) added in: noise in what stands
 * still does not flicker. Only neighbours within a fixed distance are asked, so the result is the same whichever frames
 * were rendered first, and by whom. They are asked for one by one, outwards, so that few are in memory at a time.
 *
 * @param own the frame that is steadied, with motion vectors to the one before, as all.
 * @param neighbour gives the frame so many frames later (or earlier, below 0), or nothing where it ends.
 */
export async function steady(
  own: Passes,
  neighbour: (offset: number) => Passes | undefined | Promise<Passes | undefined>,
): Promise<Passes> {
  const { width, height } = own;
  const count = width * height;
  const sum = Float64Array.from(own.beauty);
  const weight = new Float64Array(count).fill(1);
  const variance = Float64Array.from(own.variance);
  const [luminance, noise] = [smoothLuminance(own), blur(own.variance, width, height)];
  for (const direction of [-1, 1]) {
    // Where each pixel of the middle frame lies in the frame at hand.
    const at = Float32Array.from({ length: count * 2 }, (_, i) =>
      i & 1 ? Math.floor((i >> 1) / width) : (i >> 1) % width,
    );
    const lost = new Uint8Array(count);
    let nearer = own;
    for (let offset = direction; ; offset += direction) {
      const other = await neighbour(offset);
      if (!other) break;
      follow((direction < 0 ? nearer : other).detail?.motion, own, direction, at, lost);
      const [theirs, theirNoise] = [smoothLuminance(other), blur(other.variance, width, height)];
      for (let p = 0; p < count; p++) {
        if (lost[p]) continue;
        const q = Math.round(at[p * 2 + 1]) * width + Math.round(at[p * 2]);
        if (!sameSurface(own, other, p, q)) {
          lost[p] = 1;
          continue;
        }
        const off = luminance[p] - theirs[q];
        if (off * off > (TOLERANCE * TOLERANCE * (noise[p] + theirNoise[q])) / 9 + 1e-12) continue;
        for (let c = 0; c < 3; c++) sum[p * 3 + c] += other.beauty[q * 3 + c];
        weight[p]++;
        variance[p] += other.variance[q];
      }
      nearer = other;
    }
  }
  return {
    ...own,
    beauty: Float32Array.from(sum, (v, i) => v / weight[Math.floor(i / 3)]),
    variance: Float32Array.from(variance, (v, i) => (weight[i] > 1 ? (UNDERSTATED * v) / pow(weight[i], 2) : v)),
  };
}

/** Moves positions one frame on: back by the frame's own vectors, forward by those of the frame that is entered. */
function follow(
  vectors: Float32Array | undefined,
  { width, height }: Pick<Passes, 'width' | 'height'>,
  direction: number,
  at: Float32Array,
  lost: Uint8Array,
): void {
  for (let p = 0; p < lost.length; p++) {
    if (lost[p]) continue;
    const q = Math.round(at[p * 2 + 1]) * width + Math.round(at[p * 2]);
    if (vectors) {
      at[p * 2] += direction * vectors[q * 2];
      at[p * 2 + 1] += direction * vectors[q * 2 + 1];
    }
    const [x, y] = [Math.round(at[p * 2]), Math.round(at[p * 2 + 1])];
    if (x < 0 || y < 0 || x >= width || y >= height) lost[p] = 1;
  }
}

function sameSurface(a: Passes, b: Passes, p: number, q: number): boolean {
  const depth = Math.abs(a.depth[p] - b.depth[q]) / Math.max(0.01, a.depth[p]);
  if (depth > ALIKE.depth) return false;
  let [albedo, normal] = [0, 0];
  for (let c = 0; c < 3; c++) {
    albedo = Math.max(albedo, Math.abs(a.albedo[p * 3 + c] - b.albedo[q * 3 + c]));
    normal = Math.max(normal, Math.abs(a.normal[p * 3 + c] - b.normal[q * 3 + c]));
  }
  return albedo < ALIKE.albedo && normal < ALIKE.normal;
}

function smoothLuminance({ beauty, width, height }: Passes): Float32Array {
  const l = Float32Array.from(
    { length: width * height },
    (_, i) => 0.2126 * beauty[i * 3] + 0.7152 * beauty[i * 3 + 1] + 0.0722 * beauty[i * 3 + 2],
  );
  return blur(l, width, height);
}
