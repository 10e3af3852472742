import { cos, exp } from '../../maths/index.ts';
import { transformPoint, type Vec3 } from '../../geometry/index.ts';
import { EMITTERS, type Tableau, type TableauLight, type TableauVolume, type VolumeGrid } from '../../scene/index.ts';

/** Light that smoke sends out, for drawing it without a tracer: linear Rec.709 in steps of `most` / 255, and how dense it is. */
export interface LitSmoke {
  size: Vec3;
  /** RGB and unused, x fastest. */
  light: Uint8Array;
  most: number;
}

/** Cells along the longest side. */
const CELLS = 28;
/** Steps towards each light. */
const STEPS = 10;
/** Half of the light is scattered on inside and thins out more slowly, as if the smoke were so much clearer. */
const SCATTERED = 0.22;

/**
 * Light that smoke scatters at each of a few cells: what comes from each lamp through the smoke before it, with a share that
 * is scattered more than once (after Wrenninge, Kulla and Lundqvist 2013), and the room's. Shadows of things are left out.
 */
export function lightSmoke(
  volume: TableauVolume,
  { lights, environment }: Pick<Tableau, 'lights' | 'environment'>,
): LitSmoke {
  const { grid, matrix, extinction, colour } = volume;
  const extent = [matrix[0], matrix[5], matrix[10]] as Vec3;
  const longest = Math.max(...extent);
  const size = extent.map((v) => Math.max(2, Math.round((CELLS * v) / longest))) as Vec3;
  const [nx, ny, nz] = size;
  const out = new Float32Array(nx * ny * nz * 3);
  const few = coarse(grid!, size);
  const tints = coarseColours(grid!, size);
  let most = 1e-9;
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++) {
        const unit: Vec3 = [(i + 0.5) / nx, (j + 0.5) / ny, (k + 0.5) / nz];
        const point = transformPoint(matrix, unit);
        const sum = [0, 0, 0];
        for (const light of lights) addLight(sum, light, point, unit, extent, few, size, extinction);
        const at = ((k * ny + j) * nx + i) * 3;
        for (let c = 0; c < 3; c++) {
          // A phase function of no direction, and the room from all sides but that of the floor.
          const own = tints ? tints[at + c] : 1;
          out[at + c] = own * colour[c] * (sum[c] / (4 * Math.PI) + environment.intensity * 0.5);
          most = Math.max(most, out[at + c]);
        }
      }
  const light = new Uint8Array(nx * ny * nz * 4);
  for (let n = 0; n < nx * ny * nz; n++)
    for (let c = 0; c < 3; c++) light[n * 4 + c] = Math.round((255 * out[n * 3 + c]) / most);
  return { size, light, most };
}

/** Means of a grid over fewer cells. */
function coarse({ size: [gx, gy, gz], density }: VolumeGrid, [nx, ny, nz]: Vec3): Float32Array {
  const sums = new Float32Array(nx * ny * nz);
  const counts = new Float32Array(nx * ny * nz);
  for (let k = 0; k < gz; k++)
    for (let j = 0; j < gy; j++) {
      const row = (Math.floor((k * nz) / gz) * ny + Math.floor((j * ny) / gy)) * nx;
      for (let i = 0; i < gx; i++) {
        const at = row + Math.floor((i * nx) / gx);
        sums[at] += density[(k * gy + j) * gx + i];
        counts[at]++;
      }
    }
  return sums.map((v, n) => (counts[n] > 0 ? v / counts[n] : 0));
}

/** Colours of cells of a grid over fewer ones, weighed by density; undefined where all have the same. */
function coarseColours(
  { size: [gx, gy, gz], density, colours }: VolumeGrid,
  [nx, ny, nz]: Vec3,
): Float32Array | undefined {
  if (!colours) return undefined;
  const sums = new Float32Array(nx * ny * nz * 3);
  const weights = new Float32Array(nx * ny * nz);
  for (let k = 0; k < gz; k++)
    for (let j = 0; j < gy; j++) {
      const row = (Math.floor((k * nz) / gz) * ny + Math.floor((j * ny) / gy)) * nx;
      for (let i = 0; i < gx; i++) {
        const n = (k * gy + j) * gx + i;
        if (density[n] <= 0) continue;
        const at = row + Math.floor((i * nx) / gx);
        weights[at] += density[n];
        for (let c = 0; c < 3; c++) {
          const root = ((colours[n] >>> (c * 8)) & 255) / 255;
          sums[at * 3 + c] += density[n] * root * root;
        }
      }
    }
  return sums.map((v, n) => (weights[Math.floor(n / 3)] > 0 ? v / weights[Math.floor(n / 3)] : 0));
}

function addLight(
  sum: number[],
  light: TableauLight,
  point: Vec3,
  unit: Vec3,
  extent: Vec3,
  few: Float32Array,
  size: Vec3,
  extinction: number,
): void {
  const emitter = EMITTERS[light.kind];
  const m = light.matrix;
  const out: Vec3 = [-m[8], -m[9], -m[10]];
  const way: Vec3 = emitter.distant
    ? [-out[0], -out[1], -out[2]]
    : [m[12] - point[0], m[13] - point[1], m[14] - point[2]];
  const far = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]) || 1e-6;
  const towards = way.map((v) => v / far) as Vec3;
  const facing = -(out[0] * towards[0] + out[1] * towards[1] + out[2] * towards[2]);
  let strength = emitter.illuminance(light, far * far);
  if (strength === null) strength = (emitter.area(light) * Math.max(0, facing)) / (far * far + emitter.area(light));
  if (light.cone && facing < cos(light.cone.outer)) strength = 0;
  if (strength <= 0) return;
  const tau = extinction * depth(few, size, unit, towards, extent, emitter.distant ? Infinity : far);
  const through = 0.5 * (exp(-tau) + exp(-tau * SCATTERED));
  for (let c = 0; c < 3; c++) sum[c] += light.radiance[c] * strength * through;
}

/** Density times metres from a place of the unit cube towards a light, to the box's side. */
function depth(few: Float32Array, [nx, ny, nz]: Vec3, unit: Vec3, towards: Vec3, extent: Vec3, far: number): number {
  let end = far;
  for (let a = 0; a < 3; a++) {
    const speed = towards[a] / extent[a];
    if (speed > 1e-9) end = Math.min(end, (1 - unit[a]) / speed);
    else if (speed < -1e-9) end = Math.min(end, -unit[a] / speed);
  }
  const step = end / STEPS;
  let sum = 0;
  for (let s = 0; s < STEPS; s++) {
    const t = (s + 0.5) * step;
    const i = Math.min(nx - 1, Math.max(0, Math.floor((unit[0] + (towards[0] * t) / extent[0]) * nx)));
    const j = Math.min(ny - 1, Math.max(0, Math.floor((unit[1] + (towards[1] * t) / extent[1]) * ny)));
    const k = Math.min(nz - 1, Math.max(0, Math.floor((unit[2] + (towards[2] * t) / extent[2]) * nz)));
    sum += few[(k * ny + j) * nx + i];
  }
  return sum * step;
}
