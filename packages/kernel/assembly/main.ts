import { Bsdf } from './bsdf';
import { Lights } from './lights';
import { Media } from './media';
import { Path } from './path';
import { Sampler } from './sampler';
import { Scene } from './scene';
import { Surface } from './surface';
import { Hit, walk } from './traverse';

/** Bytes of scratch memory that each thread hands to the calls below. */
const STATE: usize = 4096;
const STACK: usize = 4096;

export function scratchBytes(panels: i32): usize {
  return STATE + STACK + (<usize>panels << 3);
}

/** Lays the state of one thread out in its scratch memory. */
export function begin(scene: Scene, scratch: usize, seed: u32): void {
  const path = changetype<Path>(scratch);
  let at = scratch + ((offsetof<Path>() + 15) & ~15);
  path.scene = scene;
  path.hit = changetype<Hit>(at);
  at += (offsetof<Hit>() + 15) & ~15;
  path.lights = changetype<Lights>(at);
  at += (offsetof<Lights>() + 15) & ~15;
  path.surface = changetype<Surface>(at);
  at += (offsetof<Surface>() + 15) & ~15;
  path.shade = changetype<Surface>(at);
  at += (offsetof<Surface>() + 15) & ~15;
  path.bsdf = changetype<Bsdf>(at);
  at += (offsetof<Bsdf>() + 15) & ~15;
  path.media = changetype<Media>(at);
  at += (offsetof<Media>() + 15) & ~15;
  path.sampler = changetype<Sampler>(at);
  path.sampler.seed = seed;
  path.hit.rays = 0;
  // The walk keeps four distances just below its stack.
  path.hit.stack = scratch + STATE + 16;
  path.lights.scene = scene;
  path.lights.weights = scratch + STATE + STACK;
  path.lights.hasEnvironment = load<f32>(scene.environmentCdf + (<usize>scene.environmentHeight << 2)) > 0;
  path.surface.scene = scene;
  path.shade.scene = scene;
  path.media.scene = scene;
}

/**
 * Traces the pixels x0 <= x < x1 of row y into planes of f32: beauty, albedo, normal (3 a pixel), variance, alpha,
 * depth (1 a pixel), each `width * height` pixels. Samples are numbered from `first` on.
 */
export function traceRow(
  scratch: usize,
  y: i32,
  x0: i32,
  x1: i32,
  width: i32,
  height: i32,
  first: i32,
  samples: i32,
  beauty: usize,
  albedo: usize,
  normal: usize,
  variance: usize,
  alpha: usize,
  depth: usize,
): void {
  const path = changetype<Path>(scratch);
  for (let x = x0; x < x1; x++) {
    let r: f64 = 0;
    let g: f64 = 0;
    let b: f64 = 0;
    let ar: f64 = 0;
    let ag: f64 = 0;
    let ab: f64 = 0;
    let nx: f64 = 0;
    let ny: f64 = 0;
    let nz: f64 = 0;
    let mean: f64 = 0;
    let m2: f64 = 0;
    let cover: f64 = 0;
    let far: f64 = 0;
    for (let i = 0; i < samples; i++) {
      path.trace(x, y, width, height, first + i);
      r += path.r;
      g += path.g;
      b += path.b;
      // Welford's update: stable however bright the sample.
      const luminance = 0.2126 * path.r + 0.7152 * path.g + 0.0722 * path.b;
      const d = luminance - mean;
      mean += d / <f64>(i + 1);
      m2 += d * (luminance - mean);
      cover += path.alpha;
      far += path.depth;
      ar += path.ar;
      ag += path.ag;
      ab += path.ab;
      nx += path.nx;
      ny += path.ny;
      nz += path.nz;
    }
    const n = <f64>samples;
    const one = <usize>(y * width + x) << 2;
    const three = one * 3;
    store<f32>(beauty + three, <f32>(r / n), 0);
    store<f32>(beauty + three, <f32>(g / n), 4);
    store<f32>(beauty + three, <f32>(b / n), 8);
    store<f32>(albedo + three, <f32>(ar / n), 0);
    store<f32>(albedo + three, <f32>(ag / n), 4);
    store<f32>(albedo + three, <f32>(ab / n), 8);
    store<f32>(normal + three, <f32>(nx / n), 0);
    store<f32>(normal + three, <f32>(ny / n), 4);
    store<f32>(normal + three, <f32>(nz / n), 8);
    store<f32>(variance + one, samples > 1 ? <f32>(m2 / (n - 1.0) / n) : <f32>0);
    store<f32>(alpha + one, <f32>(cover / n));
    store<f32>(depth + one, cover > 0 ? <f32>(far / cover) : <f32>0);
  }
}

/**
 * Nearest hits of `count` rays (8 f32 each: origin, direction, near, far) for tests and benchmarks; writes (f32 t, i32
 * triangle) a ray.
 */
export function castRays(scratch: usize, rays: usize, out: usize, count: i32): void {
  const path = changetype<Path>(scratch);
  for (let i = 0; i < count; i++) {
    const p = rays + (<usize>i << 5);
    walk(path.scene, path.hit, <f64>load<f32>(p), <f64>load<f32>(p, 4), <f64>load<f32>(p, 8), <f64>load<f32>(p, 12), <f64>load<f32>(p, 16), <f64>load<f32>(p, 20), <f64>load<f32>(p, 24), <f64>load<f32>(p, 28), false);
    store<f32>(out + (<usize>i << 3), <f32>path.hit.t);
    store<i32>(out + (<usize>i << 3), path.hit.triangle, 4);
  }
}

/** Rays that this scratch memory's thread has cast since begin(). */
export function raysCast(scratch: usize): u32 {
  return changetype<Path>(scratch).hit.rays;
}
