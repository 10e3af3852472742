import { luminance } from './maths';
import {
  Job,
  P_ALBEDO,
  P_ALPHA,
  P_BEAUTY,
  P_DEPTH,
  P_DIFFUSE,
  P_DIRECT,
  P_EMISSION,
  P_FINISH,
  P_FINISH_COVER,
  P_GLOSSY,
  P_INDIRECT,
  P_LIGHTS,
  P_MOTION,
  P_NORMAL,
  P_OPAQUE_DEPTH,
  P_OPEN,
  P_PAIRED_ALBEDO,
  P_PAIRED_DEPTH,
  P_PAIRED_NORMAL,
  P_REFLECTION,
  P_SAMPLES,
  P_SHADED,
  P_THING,
  P_THING_COVER,
  P_TRANSMISSION,
  P_TRANSMITTANCE,
  P_VARIANCE,
} from './scene';

/** How light left the first surface. */
export const BY_EMISSION: i32 = 0;
export const BY_DIFFUSE: i32 = 1;
export const BY_GLOSS: i32 = 2;
export const BY_TRANSMISSION: i32 = 3;

/** Things and finishes told apart in one pixel; those beyond are left out, the last ones met first. */
const RANKS: i32 = 4;
const SLOTS: i32 = 8;
/** Standard errors that features may be left with: albedo's over itself and a bit, and of a unit normal. */
const ALBEDO_ERROR: f64 = 0.015;
const NORMAL_ERROR: f64 = 0.04;
/** Share of the most samples that edges of shape get. */
const SHAPE: f64 = 0.25;
const DIM: f64 = 0.05;

/** Sums of one pixel's samples. Behind it in memory lie three doubles for each pass of add() and each light. */
@unmanaged
export class Pixel {
  detail: bool;
  lightPasses: i32;
  /** Light of the sample at hand. */
  r: f64;
  g: f64;
  b: f64;
  /** What the sample at hand says of the first surface. */
  alpha: f64;
  depth: f64;
  ar: f64;
  ag: f64;
  ab: f64;
  nx: f64;
  ny: f64;
  nz: f64;
  motionX: f64;
  motionY: f64;
  caught: f64;
  /** Light at the first surface without and with shadows. */
  open: f64;
  shaded: f64;
  /** Distance to the first opaque surface through glass alone (0: none), and what that glass lets through. */
  opaqueDepth: f64;
  clearR: f64;
  clearG: f64;
  clearB: f64;
  /** Share of light that smoke before the first surface takes, that share in its colours, and at what distance. */
  veil: f64;
  veilR: f64;
  veilG: f64;
  veilB: f64;
  veilDepth: f64;
  thing: i32;
  finish: i32;
  sumR: f64;
  sumG: f64;
  sumB: f64;
  mean: f64;
  m2: f64;
  sumAlpha: f64;
  sumDepth: f64;
  sumAr: f64;
  sumAg: f64;
  sumAb: f64;
  /** Squares of its luminance. */
  sumAlbedo2: f64;
  sumNx: f64;
  sumNy: f64;
  sumNz: f64;
  sumMotionX: f64;
  sumMotionY: f64;
  sumCaught: f64;
  sumOpen: f64;
  sumShaded: f64;
  sumOpaqueDepth: f64;
  opaques: f64;
  sumClearR: f64;
  sumClearG: f64;
  sumClearB: f64;
  sumVeil: f64;
  /** The same of samples that ended at the first surface. */
  moreAlpha: f64;
  moreCaught: f64;
  moreDepth: f64;
  moreAr: f64;
  moreAg: f64;
  moreAb: f64;
  moreNx: f64;
  moreNy: f64;
  moreNz: f64;
  moreAlbedo2: f64;
  more: i32;
  count: i32;
  /** (i32 id, i32 samples) for things, then finishes. */
  things: usize;
  finishes: usize;
  /** direct, indirect, diffuse, glossy, transmission, emission, reflection, then lights; three doubles each. */
  sums: usize;

  static bytes(lightPasses: i32): usize {
    return <usize>(SLOTS * 16 + (7 + lightPasses) * 24 + 64);
  }

  layOut(scratch: usize): void {
    this.things = scratch;
    this.finishes = scratch + SLOTS * 8;
    this.sums = scratch + SLOTS * 16;
  }

  clear(): void {
    memory.fill(
      changetype<usize>(this) + offsetof<Pixel>('sumR'),
      0,
      offsetof<Pixel>('things') - offsetof<Pixel>('sumR'),
    );
    if (!this.detail) return;
    memory.fill(this.things, 0xff, SLOTS * 16);
    memory.fill(this.sums, 0, <usize>((7 + this.lightPasses) * 24));
  }

  /** Luminance of the mean albedo; 1 where nothing was met. */
  albedo(): f64 {
    if (this.sumAlpha <= 0) return 1;
    return luminance(this.sumAr, this.sumAg, this.sumAb) / <f64>this.count;
  }

  /**
   * What denoising is guided by where there is smoke: the surface, veiled by the smoke's own as far as smoke takes its light. The share
   * is worked out without chance, and the surface is known to every sample: which path met what has no say in it.
   */
  coverSurface(): void {
    const clear = 1.0 - this.veil;
    this.ar = this.ar * clear + this.veilR;
    this.ag = this.ag * clear + this.veilG;
    this.ab = this.ab * clear + this.veilB;
    this.nx *= clear;
    this.ny *= clear;
    this.nz *= clear;
    // Before nothing but smoke depth is the smoke's.
    this.depth = this.depth > 0 ? this.depth * clear + this.veilDepth * this.veil : this.veilDepth * this.alpha;
  }

  begin(): void {
    const none = f64x2.splat(0);
    const end = changetype<usize>(this) + offsetof<Pixel>('thing');
    // Twenty numbers: a call to fill them would cost more than it does.
    for (let p = changetype<usize>(this) + offsetof<Pixel>('r'); p < end; p += 16) v128.store(p, none);
    this.thing = -1;
    this.finish = -1;
  }

  // @ts-ignore: decorator
  @inline
  into(pass: i32, r: f64, g: f64, b: f64): void {
    const p = this.sums + <usize>(pass * 24);
    store<f64>(p, load<f64>(p) + r);
    store<f64>(p, load<f64>(p, 8) + g, 8);
    store<f64>(p, load<f64>(p, 16) + b, 16);
  }

  /** Light that reached the camera: of which light pass, by which lobe of the first surface, straight from the light or not. */
  add(r: f64, g: f64, b: f64, light: i32, lobe: i32, direct: bool): void {
    this.r += r;
    this.g += g;
    this.b += b;
    if (!this.detail) return;
    this.into(direct ? 0 : 1, r, g, b);
    this.into(lobe == BY_DIFFUSE ? 2 : lobe == BY_GLOSS ? 3 : lobe == BY_TRANSMISSION ? 4 : 5, r, g, b);
    if (lobe == BY_GLOSS && !direct) this.into(6, r, g, b);
    if (light >= 0) this.into(7 + light, r, g, b);
  }

  /** Takes the sample at hand into the sums. */
  end(): void {
    const n = ++this.count;
    this.sumR += this.r;
    this.sumG += this.g;
    this.sumB += this.b;
    // Welford's update: stable however bright the sample.
    const bright = luminance(this.r, this.g, this.b);
    const d = bright - this.mean;
    this.mean += d / <f64>n;
    this.m2 += d * (bright - this.mean);
    this.sumAlpha += this.alpha;
    if (this.veil > 0) this.coverSurface();
    this.sumVeil += this.veil;
    this.sumDepth += this.depth;
    this.sumAr += this.ar;
    this.sumAg += this.ag;
    this.sumAb += this.ab;
    const albedo = luminance(this.ar, this.ag, this.ab);
    this.sumAlbedo2 += albedo * albedo;
    this.sumNx += this.nx;
    this.sumNy += this.ny;
    this.sumNz += this.nz;
    this.sumCaught += this.caught;
    this.sumOpen += this.open;
    this.sumShaded += this.shaded;
    if (!this.detail) return;
    if (this.opaqueDepth > 0) {
      this.sumOpaqueDepth += this.opaqueDepth;
      this.opaques++;
    }
    this.sumClearR += this.clearR;
    this.sumClearG += this.clearG;
    this.sumClearB += this.clearB;
    this.sumMotionX += this.motionX;
    this.sumMotionY += this.motionY;
    this.countFirst();
  }

  /** Takes a sample into the sums that ended at the first surface. */
  endFirst(): void {
    this.more++;
    this.moreAlpha += this.alpha;
    this.moreCaught += this.caught;
    this.moreDepth += this.depth;
    this.moreAr += this.ar;
    this.moreAg += this.ag;
    this.moreAb += this.ab;
    const albedo = luminance(this.ar, this.ag, this.ab);
    this.moreAlbedo2 += albedo * albedo;
    this.moreNx += this.nx;
    this.moreNy += this.ny;
    this.moreNz += this.nz;
    if (this.detail) this.countFirst();
  }

  countFirst(): void {
    if (this.thing < 0) return;
    count(this.things, this.thing);
    count(this.finishes, this.finish);
  }

  /**
   * Samples of the first surface that this pixel asks for, up to `most`: more than 0 where surfaces are uneven. Print is looked at
   * closest; edges of shape are made out by a few.
   */
  featuresNeeded(most: f64): f64 {
    const n = <f64>(this.count + this.more);
    if (n < 2 || this.sumVeil > 0) return 0;
    const mean = luminance(this.sumAr + this.moreAr, this.sumAg + this.moreAg, this.sumAb + this.moreAb) / n;
    const square = (this.sumAlbedo2 + this.moreAlbedo2) / n;
    const albedo = Math.max(0.0, square - mean * mean) / ((mean + DIM) * (mean + DIM));
    const cover = (this.sumAlpha + this.moreAlpha + this.sumCaught + this.moreCaught) / n;
    const nx = this.sumNx + this.moreNx;
    const ny = this.sumNy + this.moreNy;
    const nz = this.sumNz + this.moreNz;
    const normal = Math.max(0.0, cover - (nx * nx + ny * ny + nz * nz) / (n * n));
    return Math.max(
      Math.min(most, albedo / (ALBEDO_ERROR * ALBEDO_ERROR)),
      Math.min(most * SHAPE, normal / (NORMAL_ERROR * NORMAL_ERROR)),
    );
  }

  /** Variance of the mean luminance. */
  variance(): f64 {
    const n = <f64>this.count;
    return n > 1 ? this.m2 / (n - 1.0) / n : 0.0;
  }

  /** Writes the means into the planes at pixel `p`. */
  store(job: Job, p: i32): void {
    const planes = job.planes;
    const k = 1.0 / <f64>this.count;
    const one = (<usize>p) << 2;
    const three = one * 3;
    put3(plane(planes, P_BEAUTY) + three, this.sumR * k, this.sumG * k, this.sumB * k);
    store<f32>(plane(planes, P_VARIANCE) + one, <f32>this.variance());
    // A catcher covers as far as it is in shadow.
    const shadow = this.sumOpen > 0 ? Math.max(0.0, 1.0 - this.sumShaded / this.sumOpen) : 0.0;
    const all = 1.0 / <f64>(this.count + this.more);
    const alpha = this.sumAlpha + this.moreAlpha;
    const caught = this.sumCaught + this.moreCaught;
    store<f32>(plane(planes, P_ALPHA) + one, <f32>((alpha + caught * shadow) * all));
    put3(
      plane(planes, P_ALBEDO) + three,
      (this.sumAr + this.moreAr) * all,
      (this.sumAg + this.moreAg) * all,
      (this.sumAb + this.moreAb) * all,
    );
    put3(
      plane(planes, P_NORMAL) + three,
      (this.sumNx + this.moreNx) * all,
      (this.sumNy + this.moreNy) * all,
      (this.sumNz + this.moreNz) * all,
    );
    store<f32>(plane(planes, P_DEPTH) + one, meanDepth(this.sumDepth + this.moreDepth, alpha + caught));
    put3(plane(planes, P_PAIRED_ALBEDO) + three, this.sumAr * k, this.sumAg * k, this.sumAb * k);
    put3(plane(planes, P_PAIRED_NORMAL) + three, this.sumNx * k, this.sumNy * k, this.sumNz * k);
    store<f32>(plane(planes, P_PAIRED_DEPTH) + one, meanDepth(this.sumDepth, this.sumAlpha + this.sumCaught));
    store<f32>(plane(planes, P_SAMPLES) + one, <f32>this.count);
    if (!this.detail) return;
    this.sumAt(planes, P_DIRECT, 0, three, k);
    this.sumAt(planes, P_INDIRECT, 1, three, k);
    this.sumAt(planes, P_DIFFUSE, 2, three, k);
    this.sumAt(planes, P_GLOSSY, 3, three, k);
    this.sumAt(planes, P_TRANSMISSION, 4, three, k);
    this.sumAt(planes, P_EMISSION, 5, three, k);
    this.sumAt(planes, P_REFLECTION, 6, three, k);
    for (let i = 0; i < this.lightPasses; i++) this.sumAt(planes, P_LIGHTS + i, 7 + i, three, k);
    store<f32>(plane(planes, P_OPEN) + one, <f32>(this.sumOpen * k));
    store<f32>(plane(planes, P_SHADED) + one, <f32>(this.sumShaded * k));
    store<f32>(plane(planes, P_MOTION) + one * 2, <f32>(this.sumMotionX * k));
    store<f32>(plane(planes, P_MOTION) + one * 2, <f32>(this.sumMotionY * k), 4);
    const reached = this.opaques > 0 ? this.sumOpaqueDepth / this.opaques : 0.0;
    store<f32>(plane(planes, P_OPAQUE_DEPTH) + one, <f32>reached);
    put3(plane(planes, P_TRANSMITTANCE) + three, this.sumClearR * k, this.sumClearG * k, this.sumClearB * k);
    ranks(this.things, plane(planes, P_THING) + one * 4, plane(planes, P_THING_COVER) + one * 4, all);
    ranks(this.finishes, plane(planes, P_FINISH) + one * 4, plane(planes, P_FINISH_COVER) + one * 4, all);
  }

  sumAt(planes: usize, index: i32, pass: i32, three: usize, k: f64): void {
    const p = this.sums + <usize>(pass * 24);
    put3(plane(planes, index) + three, load<f64>(p) * k, load<f64>(p, 8) * k, load<f64>(p, 16) * k);
  }
}

function meanDepth(sum: f64, hits: f64): f32 {
  return hits > 0 ? <f32>(sum / hits) : <f32>0;
}

// @ts-ignore: decorator
@inline
function plane(planes: usize, index: i32): usize {
  return <usize>load<u32>(planes + ((<usize>index) << 2));
}

// @ts-ignore: decorator
@inline
function put3(at: usize, r: f64, g: f64, b: f64): void {
  store<f32>(at, <f32>r);
  store<f32>(at, <f32>g, 4);
  store<f32>(at, <f32>b, 8);
}

function count(slots: usize, id: i32): void {
  for (let i = 0; i < SLOTS; i++) {
    const p = slots + ((<usize>i) << 3);
    const known = load<i32>(p);
    if (known == id) {
      store<i32>(p, load<i32>(p, 4) + 1, 4);
      return;
    }
    if (known < 0) {
      store<i32>(p, id);
      store<i32>(p, 1, 4);
      return;
    }
  }
}

/** The most covering ids first, with their share of the pixel; -1 where there are no more. */
function ranks(slots: usize, ids: usize, cover: usize, k: f64): void {
  for (let rank = 0; rank < RANKS; rank++) {
    let best = -1;
    let most = 0;
    for (let i = 0; i < SLOTS; i++) {
      const p = slots + ((<usize>i) << 3);
      if (load<i32>(p) >= 0 && load<i32>(p, 4) > most) {
        most = load<i32>(p, 4);
        best = i;
      }
    }
    const p = slots + ((<usize>best) << 3);
    store<f32>(ids + ((<usize>rank) << 2), best < 0 ? <f32>-1 : <f32>load<i32>(p));
    store<f32>(cover + ((<usize>rank) << 2), best < 0 ? <f32>0 : <f32>(<f64>most * k));
    if (best >= 0) store<i32>(p, 0, 4);
  }
}
