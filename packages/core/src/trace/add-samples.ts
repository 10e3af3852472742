import type { Passes } from './passes.ts';

/**
 * The picture of all samples of `a` and `b`, two pictures of the same scene and size with different samples, without
 * passes for compositing. Variance is that of the joint mean: the two own variances weighted by the squares of their
 * shares.
 */
export function addSamples(a: Passes, b: Passes): Passes {
  const samples = a.samples + b.samples;
  const wa = a.samples / samples;
  const wb = b.samples / samples;
  const mix = (x: Float32Array, y: Float32Array): Float32Array => x.map((v, i) => v * wa + y[i] * wb);
  const cover = mix(a.alpha, b.alpha);
  // Depth is a mean over what was hit, so it is weighted by cover.
  const depth = (x: Float32Array, y: Float32Array): Float32Array =>
    x.map((v, i) => (cover[i] > 0 ? (v * a.alpha[i] * wa + y[i] * b.alpha[i] * wb) / cover[i] : 0));
  return {
    width: a.width,
    height: a.height,
    samples,
    beauty: mix(a.beauty, b.beauty),
    albedo: mix(a.albedo, b.albedo),
    normal: mix(a.normal, b.normal),
    variance: a.variance.map((v, i) => v * wa * wa + b.variance[i] * wb * wb),
    alpha: cover,
    depth: depth(a.depth, b.depth),
    sampleCount: a.sampleCount.map((v, i) => v + b.sampleCount[i]),
    pairedAlbedo: mix(a.pairedAlbedo, b.pairedAlbedo),
    pairedNormal: mix(a.pairedNormal, b.pairedNormal),
    pairedDepth: depth(a.pairedDepth, b.pairedDepth),
    detail: null,
  };
}
