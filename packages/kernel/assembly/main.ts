import { errorLeft, FIT_BYTES } from './adapt';
import { Bsdf } from './bsdf';
import { Camera } from './camera';
import { finishBytes, forgetFinishes } from './finish';
import { Glass } from './glass';
import { Hit } from './hit';
import { initLanes, LANES_BYTES } from './lanes';
import { LightChoice } from './light-tree';
import { Lights, Receiver } from './lights';
import { Media } from './media';
import { traceFirst, tracePath } from './path';
import { KEPT_BYTES } from './path-lights';
import { Path } from './path-state';
import { Pixel } from './pixel';
import { Sampler } from './sampler';
import { Job, RAY_SHADOW, Scene, TILE } from './scene';
import { Surface } from './surface';
import { walk } from './traverse';
import { applyOdds, forgetOdds, Odds, ODDS_BYTES } from './odds';
import { PACKET_BYTES } from './triangles';
import { Volumes } from './volume';

export { emitMesh, planMesh, workBytes } from './build';
export { buildInstances } from './top';
export { bandBytes, filterBand } from './denoise';
export { brushedBytes, fillBrushed, fillGlass, fillSheen, fillTables, tableBytes } from './albedo';
export { makePoints } from './sampler';
export { evaluateLobes, evaluateGlass, sampleGlass, sampleLight, sampleLobes } from './probe';

/** State of a thread but for its pixels, and its stack of nodes. */
const STATE: usize = 14336;
const STACK: usize = 8192;

/** Bytes of scratch memory that each thread hands to the calls below. */
export function scratchBytes(lightPasses: i32): usize {
  return STATE + STACK + <usize>(TILE * TILE) * pixelBytes(lightPasses);
}

function pixelBytes(lightPasses: i32): usize {
  return (offsetof<Pixel>() + Pixel.bytes(lightPasses) + 15) & ~15;
}

let free: usize = 0;

/** Takes `bytes` of the state, aligned for vectors. */
function reserve(bytes: usize): usize {
  const address = free;
  free += (bytes + 15) & ~15;
  return address;
}

/** Lays the state of one thread out in its scratch memory. */
export function begin(scene: Scene, job: Job, scratch: usize): void {
  free = scratch;
  const path = changetype<Path>(reserve(offsetof<Path>()));
  path.scene = scene;
  path.hit = changetype<Hit>(reserve(offsetof<Hit>()));
  path.lights = changetype<Lights>(reserve(offsetof<Lights>()));
  path.surface = changetype<Surface>(reserve(offsetof<Surface>()));
  path.shade = changetype<Surface>(reserve(offsetof<Surface>()));
  path.bsdf = changetype<Bsdf>(reserve(offsetof<Bsdf>()));
  path.bsdf.finishes = reserve(finishBytes());
  forgetFinishes(path.bsdf.finishes);
  path.glass = changetype<Glass>(reserve(offsetof<Glass>()));
  path.media = changetype<Media>(reserve(offsetof<Media>()));
  path.sampler = changetype<Sampler>(reserve(offsetof<Sampler>()));
  path.camera = changetype<Camera>(reserve(offsetof<Camera>()));
  path.volumes = changetype<Volumes>(reserve(offsetof<Volumes>()));
  path.from = changetype<Receiver>(reserve(offsetof<Receiver>()));
  path.width = job.width;
  path.height = job.height;
  path.sampler.seed = job.seed;
  path.sampler.first = job.first;
  path.sampler.points = job.points;
  path.sampler.blue = scene.blueNoise;
  path.hit.rays = 0;
  path.hit.time = 0;
  path.hit.inverse = reserve(96);
  path.odds = changetype<Odds>(reserve(ODDS_BYTES));
  path.kept = reserve(KEPT_BYTES);
  path.fit = reserve(FIT_BYTES);
  path.hit.blend = reserve(PACKET_BYTES);
  path.hit.stash = reserve(PACKET_BYTES);
  path.hit.world = reserve(LANES_BYTES);
  path.hit.local = reserve(LANES_BYTES);
  initLanes(path.hit.world);
  initLanes(path.hit.local);
  // The walk keeps four distances just below its stack.
  path.hit.stack = scratch + STATE + 16;
  const lights = path.lights;
  lights.scene = scene;
  lights.choice = changetype<LightChoice>(reserve(offsetof<LightChoice>()));
  lights.surface = changetype<Surface>(reserve(offsetof<Surface>()));
  lights.hasRoom = scene.environmentSum > 0;
  lights.time = 0;
  path.surface.scene = scene;
  path.surface.placed = -1;
  path.surface.place = reserve(192);
  path.surface.listed = reserve(48);
  path.shade.scene = scene;
  path.shade.placed = -1;
  path.shade.place = reserve(192);
  path.shade.listed = reserve(48);
  lights.surface.scene = scene;
  lights.surface.placed = -1;
  lights.surface.place = reserve(192);
  path.media.scene = scene;
  path.volumes.scene = scene;
  path.pixel = changetype<Pixel>(scratch + STATE + STACK);
}

/**
 * Takes tiles from the job's counter and traces them until there are no more, the job is given up, or `limit` are done.
 * Every pixel's samples depend on its place alone, so the picture is the same whoever traces which tile.
 * @returns tiles traced; fewer than `limit` means that there is nothing left to take.
 */
export function traceTiles(job: Job, scratch: usize, limit: i32): i32 {
  const path = changetype<Path>(scratch);
  const across = (job.x1 - job.x0 + TILE - 1) / TILE;
  const down = (job.y1 - job.y0 + TILE - 1) / TILE;
  for (let done = 0; done < limit; done++) {
    if (atomic.load<i32>(changetype<usize>(job) + offsetof<Job>('cancelled')) != 0) return done;
    const tile = atomic.add<i32>(changetype<usize>(job) + offsetof<Job>('counter'), 1);
    if (tile >= across * down) return done;
    traceTile(path, job, job.x0 + (tile % across) * TILE, job.y0 + (tile / across) * TILE, scratch + STATE + STACK);
  }
  return limit;
}

function traceTile(path: Path, job: Job, x0: i32, y0: i32, pixels: usize): void {
  const passes = path.scene.lightPasses;
  const stride = pixelBytes(passes);
  const x1 = min(x0 + TILE, job.x1);
  const y1 = min(y0 + TILE, job.y1);
  for (let by = y0; by < y1; by += BLOCK) {
    for (let bx = x0; bx < x1; bx += BLOCK) {
      const first = pixels + <usize>((by - y0) * TILE + bx - x0) * stride;
      traceBlock(path, job, bx, by, min(bx + BLOCK, x1), min(by + BLOCK, y1), first);
    }
  }
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const pixel = changetype<Pixel>(pixels + <usize>((y - y0) * TILE + x - x0) * stride);
      pixel.store(job, (y - job.y0) * (job.x1 - job.x0) + x - job.x0);
    }
  }
}

/** Pixels along the edge of what gets its number of samples together: small enough to follow edges. */
const BLOCK: i32 = 8;

function traceBlock(path: Path, job: Job, x0: i32, y0: i32, x1: i32, y1: i32, pixels: usize): void {
  const passes = path.scene.lightPasses;
  const stride = pixelBytes(passes);
  // Only where samples are shared out by blocks anyway: a picture of so many samples is the same in parts and whole.
  forgetOdds(path.odds, job.target <= 0);
  let done = 0;
  while (
    done < job.samples ||
    (done < job.most && errorLeft(path, x1 - x0, y1 - y0, pixels, stride) > <f64>job.target)
  ) {
    const until = min(job.most, done + job.samples);
    if (done > 0) applyOdds(path.odds);
    for (let y = y0; y < y1; y++) {
      for (let x = x0; x < x1; x++) {
        const at = pixels + <usize>((y - y0) * TILE + x - x0) * stride;
        const pixel = changetype<Pixel>(at);
        path.pixel = pixel;
        if (done == 0) {
          pixel.detail = job.detail != 0;
          pixel.lightPasses = passes;
          pixel.layOut(at + ((offsetof<Pixel>() + 15) & ~15));
          pixel.clear();
        }
        for (let i = done; i < until; i++) tracePath(path, x, y, i);
      }
    }
    done = until;
  }
  if (done >= job.features) return;
  // By half of them a pixel beside an uneven one finds out whether it is so itself.
  const look = job.features >> 1;
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const at = pixels + <usize>((y - y0) * TILE + x - x0) * stride;
      const pixel = changetype<Pixel>(at);
      path.pixel = pixel;
      if (uneven(job, x - x0, y - y0, x1 - x0, y1 - y0, pixels, stride))
        for (let i = done; i < look; i++) traceFirst(path, x, y, i);
      const wanted = <i32>pixel.featuresNeeded(<f64>job.features);
      for (let i = max(done, pixel.count + pixel.more); i < wanted; i++) traceFirst(path, x, y, i);
    }
  }
}

/** Whether the pixel at (x, y) of a block is uneven, or one beside it: the same edge may run through both. */
function uneven(job: Job, x: i32, y: i32, width: i32, height: i32, pixels: usize, stride: usize): bool {
  for (let j = max(0, y - 1); j <= min(height - 1, y + 1); j++) {
    for (let i = max(0, x - 1); i <= min(width - 1, x + 1); i++) {
      const pixel = changetype<Pixel>(pixels + <usize>(j * TILE + i) * stride);
      if (pixel.featuresNeeded(<f64>job.features) > <f64>pixel.count) return true;
    }
  }
  return false;
}

/**
 * Nearest things that `count` rays meet (8 f32 each: origin, direction, near, far), lights' own shapes left out; writes
 * f32 distances, then i32 instances (-1: none), then i32 triangles. For tests and benchmarks.
 */
export function castRays(scratch: usize, rays: usize, out: usize, count: i32): void {
  const path = changetype<Path>(scratch);
  const hit = path.hit;
  const row = (<usize>count) << 2;
  for (let i = 0; i < count; i++) {
    const p = rays + ((<usize>i) << 5);
    walk(
      path.scene,
      hit,
      <f64>load<f32>(p),
      <f64>load<f32>(p, 4),
      <f64>load<f32>(p, 8),
      <f64>load<f32>(p, 12),
      <f64>load<f32>(p, 16),
      <f64>load<f32>(p, 20),
      <f64>load<f32>(p, 24),
      <f64>load<f32>(p, 28),
      RAY_SHADOW,
      false,
    );
    const to = out + ((<usize>i) << 2);
    store<f32>(to, <f32>hit.t);
    store<i32>(to + row, hit.instance);
    store<i32>(to + 2 * row, hit.triangle);
  }
}

/** Rays that this scratch memory's thread has cast since begin(). */
export function raysCast(scratch: usize): u32 {
  return changetype<Path>(scratch).hit.rays;
}
