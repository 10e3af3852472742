import { acos, atan2, cos, log2, sin } from '../maths/index.ts';
import type { Panorama } from './environment.ts';

/** A level of a cube of light: six square faces +X, -X, +Y, -Y, +Z, -Z one after the other, rows from the top, four floats a texel (the last is 1). */
export interface CubeLevel {
  size: number;
  data: Float32Array;
}

/** The coarsest level holds light of half the sphere, which no more texels are needed for. */
const COARSEST = 8;
/** Light of so many texels a side is summed for the coarsest level. */
const SUMMED = 16;
/** Ways that light comes from, for a level. */
const LOBE_SAMPLES = 32;

/**
 * A panorama as a cube of what surfaces mirror: level 0 as it is, then light blurred by the GGX lobe (Walter et al. 2007) that is seen
 * straight on, of roughness 1 - sqrt(1 - level / last). The coarsest level is the mean weighted by the cosine: a matt surface's
 * irradiance over pi. Lobes are sampled by importance from levels that are as coarse as samples lie apart (Krivanek and Colbert 2008).
 *
 * @param panorama linear Rec.709, its middle column towards -Z
 * @param size of a face of level 0: a power of two, at least 16
 * @returns levels from `size` down to 8 texels a side; in the picture of a face directions are those of OpenGL's cube maps
 */
export function prefilteredCube(panorama: Panorama, size = 128): CubeLevel[] {
  const sharp = [cubeOf(panorama, size)];
  while (sharp[sharp.length - 1].size > COARSEST) sharp.push(halved(sharp[sharp.length - 1]));
  const last = sharp.length - 1;
  return sharp.map(({ size: side }, level) => {
    if (level === 0) return sharp[0];
    if (level === last)
      return matt(
        sharp.find((l) => l.size === Math.min(size, SUMMED))!,
        side,
      );
    const roughness = 1 - Math.sqrt(1 - level / last);
    return blurred(sharp, side, lobeOf(roughness, size, last));
  });
}

/** Which way a face looks, so far right, down and ahead. */
function wayOf(face: number, s: number, t: number, ahead: number, into: Float64Array): void {
  const sign = face & 1 ? -1 : 1;
  into[0] = face < 2 ? sign * ahead : face < 4 ? s : sign * s;
  into[1] = face < 2 || face > 3 ? -t : sign * ahead;
  into[2] = face < 2 ? -sign * s : face < 4 ? sign * t : sign * ahead;
}

/** Calls for each texel of a cube with its way, of length 1. */
function each(size: number, work: (way: Float64Array, at: number, share: number) => void): void {
  const way = new Float64Array(3);
  for (let face = 0, at = 0; face < 6; face++)
    for (let row = 0; row < size; row++)
      for (let column = 0; column < size; column++, at += 4) {
        const s = (2 * (column + 0.5)) / size - 1;
        const t = (2 * (row + 0.5)) / size - 1;
        const square = 1 + s * s + t * t;
        const length = Math.sqrt(square);
        wayOf(face, s / length, t / length, 1 / length, way);
        // Of the solid angle of a texel in the middle of a face.
        work(way, at, 1 / (square * length));
      }
}

function cubeOf({ width, height, data }: Panorama, size: number): CubeLevel {
  const out = new Float32Array(6 * size * size * 4);
  each(size, (way, at) => {
    const across = 1 - atan2(way[0], way[2]) / (2 * Math.PI);
    const u = (across - Math.floor(across)) * width - 0.5;
    const v = (acos(Math.min(1, Math.max(-1, way[1]))) / Math.PI) * height - 0.5;
    const column = Math.floor(u);
    const row = Math.floor(v);
    const fu = u - column;
    const fv = v - row;
    const left = (column + width) % width;
    const right = (column + 1) % width;
    const above = Math.max(0, row) * width;
    const below = Math.min(height - 1, row + 1) * width;
    for (let c = 0; c < 3; c++) {
      const upper = data[(above + left) * 3 + c] * (1 - fu) + data[(above + right) * 3 + c] * fu;
      const lower = data[(below + left) * 3 + c] * (1 - fu) + data[(below + right) * 3 + c] * fu;
      out[at + c] = upper * (1 - fv) + lower * fv;
    }
    out[at + 3] = 1;
  });
  return { size, data: out };
}

function halved({ size, data }: CubeLevel): CubeLevel {
  const half = size / 2;
  const out = new Float32Array(6 * half * half * 4);
  const line = size * 4;
  for (let i = 0, at = 0; at < out.length; i++) {
    const [row, column] = [Math.floor(i / half), i % half];
    const from = row * 2 * line + column * 8;
    for (let c = 0; c < 4; c++, at++)
      out[at] = (data[from + c] + data[from + 4 + c] + data[from + line + c] + data[from + line + 4 + c]) / 4;
  }
  return { size: half, data: out };
}

/** A way that light comes from, about the normal: its share of all, and the level that it is read from. */
interface LobeSample {
  x: number;
  y: number;
  z: number;
  weight: number;
  level: number;
}

function lobeOf(roughness: number, size: number, last: number): LobeSample[] {
  const square = roughness * roughness * roughness * roughness;
  const texel = (4 * Math.PI) / (6 * size * size);
  const samples: LobeSample[] = [];
  for (let i = 0; i < LOBE_SAMPLES; i++) {
    const u = (i + 0.5) / LOBE_SAMPLES;
    const turn = 2 * Math.PI * ((i * 0.6180339887498949) % 1);
    const high = Math.sqrt((1 - u) / (1 + (square - 1) * u));
    const wide = Math.sqrt(1 - high * high);
    // The view mirrored at the half vector.
    const z = 2 * high * high - 1;
    if (z <= 0) continue;
    const under = high * high * (square - 1) + 1;
    const density = square / (Math.PI * under * under) / 4;
    const level = 0.5 * log2(1 / (LOBE_SAMPLES * density) / texel) + 0.5;
    const flat = 2 * high * wide;
    samples.push({
      ...{ x: flat * cos(turn), y: flat * sin(turn), z, weight: z },
      level: Math.min(last, Math.max(0, Math.round(level))),
    });
  }
  const sum = samples.reduce((all, s) => all + s.weight, 0);
  return samples.map((s) => ({ ...s, weight: s.weight / sum }));
}

function blurred(sharp: readonly CubeLevel[], size: number, lobe: readonly LobeSample[]): CubeLevel {
  const out = new Float32Array(6 * size * size * 4);
  const from = new Float64Array(3);
  each(size, (way, at) => {
    const x = way[0];
    const y = way[1];
    const z = way[2];
    // Two ways across (Duff et al. 2017).
    const sign = z < 0 ? -1 : 1;
    const a = -1 / (sign + z);
    const b = x * y * a;
    out[at + 3] = 1;
    for (const s of lobe) {
      from[0] = s.x * (1 + sign * x * x * a) + s.y * b + s.z * x;
      from[1] = s.x * sign * b + s.y * (sign + y * y * a) + s.z * y;
      from[2] = s.x * -sign * x - s.y * y + s.z * z;
      gather(sharp[s.level], from, s.weight, out, at);
    }
  });
  return { size, data: out };
}

/** Adds light that comes from a way. */
function gather(from: CubeLevel, way: Float64Array, weight: number, out: Float32Array, at: number): void {
  const { size, data } = from;
  const x = way[0];
  const y = way[1];
  const z = way[2];
  const ax = Math.abs(x);
  const ay = Math.abs(y);
  const az = Math.abs(z);
  let face: number;
  let s: number;
  let t: number;
  if (ax >= ay && ax >= az) {
    face = x < 0 ? 1 : 0;
    s = (x < 0 ? z : -z) / ax;
    t = -y / ax;
  } else if (ay >= az) {
    face = y < 0 ? 3 : 2;
    s = x / ay;
    t = (y < 0 ? -z : z) / ay;
  } else {
    face = z < 0 ? 5 : 4;
    s = (z < 0 ? -x : x) / az;
    t = -y / az;
  }
  const u = Math.min(size - 1, Math.max(0, ((s + 1) * size) / 2 - 0.5));
  const v = Math.min(size - 1, Math.max(0, ((t + 1) * size) / 2 - 0.5));
  const column = Math.floor(u);
  const row = Math.floor(v);
  const fu = u - column;
  const fv = v - row;
  const right = column + 1 < size ? 4 : 0;
  const below = row + 1 < size ? size * 4 : 0;
  const first = ((face * size + row) * size + column) * 4;
  for (let c = 0; c < 3; c++) {
    const i = first + c;
    const upper = data[i] + (data[i + right] - data[i]) * fu;
    const lower = data[i + below] + (data[i + below + right] - data[i + below]) * fu;
    out[at + c] += weight * (upper + (lower - upper) * fv);
  }
}

/** The mean of all light before a surface, weighted by the cosine. */
function matt(from: CubeLevel, size: number): CubeLevel {
  const ways = new Float64Array(6 * from.size * from.size * 4);
  each(from.size, (way, at, share) => {
    ways.set(way, at);
    ways[at + 3] = share;
  });
  const out = new Float32Array(6 * size * size * 4);
  each(size, (normal, at) => {
    let all = 0;
    let r = 0;
    let g = 0;
    let b = 0;
    for (let i = 0; i < ways.length; i += 4) {
      const cosine = normal[0] * ways[i] + normal[1] * ways[i + 1] + normal[2] * ways[i + 2];
      if (cosine <= 0) continue;
      const weight = cosine * ways[i + 3];
      all += weight;
      r += weight * from.data[i];
      g += weight * from.data[i + 1];
      b += weight * from.data[i + 2];
    }
    out[at] = r / all;
    out[at + 1] = g / all;
    out[at + 2] = b / all;
    out[at + 3] = 1;
  });
  return { size, data: out };
}

/** How much more of each band light has than its mean by the cosine (Ramamoorthi and Hanrahan 2001). */
const BANDS = [1, 1.5, 1.5, 1.5, 4, 4, 4, 4, 4];

/**
 * Light whose mean by the cosine is the coarsest level of a cube, by its first nine real spherical harmonics: constant, y, z, x, xy, yz,
 * 3z^2 - 1, xz, x^2 - y^2.
 *
 * @param rotation of the room about the vertical, radians: from +Z towards +X
 * @returns red, green and blue of each, one after the other
 */
export function harmonicsOf({ size, data }: CubeLevel, rotation: number): Float64Array {
  const out = new Float64Array(27);
  const [c, s] = [cos(rotation), sin(rotation)];
  let all = 0;
  each(size, (way, at, share) => {
    const x = way[0] * c + way[2] * s;
    const y = way[1];
    const z = way[2] * c - way[0] * s;
    all += share;
    const basis = [
      ...[0.282095, 0.488603 * y, 0.488603 * z, 0.488603 * x, 1.092548 * x * y, 1.092548 * y * z],
      ...[0.315392 * (3 * z * z - 1), 1.092548 * x * z, 0.546274 * (x * x - y * y)],
    ];
    for (let i = 0; i < 27; i++) out[i] += share * basis[Math.floor(i / 3)] * data[at + (i % 3)];
  });
  return out.map((v, i) => (v * BANDS[Math.floor(i / 3)] * 4 * Math.PI) / all);
}
