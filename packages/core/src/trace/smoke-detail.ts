import type { Mat4, Vec3 } from '../geometry/index.ts';
import { seeded } from '../maths/index.ts';
import type { SmokeFlow, VolumeGrid } from '../scene/index.ts';

/** Cells that a grid with detail has at most. */
const MOST_CELLS = 6_000_000;
/** Times finer along each axis that it may become. */
const FINEST = 3;
/** How strongly noise of length 1 changes density at full amount. */
const STRENGTH = 1.8;
/** Grain of the finer octave against the coarser, and how much it counts. */
const OCTAVE = { scale: 2.17, weight: 0.5 };
const TILE = 32;
/** Grains between the two patterns, so that they are no copies of each other. */
const APART = 13.7;

const kept = new WeakMap<
  VolumeGrid['density'],
  { how: string; made: Pick<VolumeGrid, 'size' | 'density' | 'colours'> }
>();

/**
 * A grid with its density broken up by noise that goes with the flow (Neyret 2003: a pattern is carried along and begins anew before it is
 * stretched too far; two of them take turns). Cells are made finer so that the grain has room. Means stay: what is taken in one place is
 * given in another.
 * @param matrix the unit cube to the world.
 */
export function withDetail(grid: VolumeGrid, matrix: Mat4): VolumeGrid {
  const { detail, size, density } = grid;
  if (!detail) return grid;
  const how = `${detail.amount} ${detail.size} ${grid.colours ? 1 : 0}`;
  const known = kept.get(density);
  if (known?.how === how) return { ...grid, ...known.made };
  const extent: Vec3 = [matrix[0], matrix[5], matrix[10]];
  const cells = size[0] * size[1] * size[2];
  let times = Math.min(FINEST, Math.max(1, Math.ceil((2 * extent[0]) / size[0] / detail.size)));
  while (times > 1 && cells * times * times * times > MOST_CELLS) times--;
  const made = finer(grid, times, extent, detail);
  kept.set(density, { how, made });
  return { ...grid, ...made };
}

/** Where samples of a finer grid lie between the cell centres of a coarser one along an axis: the cell before, and how far to the next. */
interface Along {
  low: Int32Array;
  share: Float32Array;
}

function along(fine: number, cells: number): Along {
  const low = new Int32Array(fine);
  const share = new Float32Array(fine);
  for (let i = 0; i < fine; i++) {
    const at = Math.min(cells - 1, Math.max(0, ((i + 0.5) / fine) * cells - 0.5));
    low[i] = Math.min(Math.max(0, cells - 2), Math.floor(at));
    share[i] = at - low[i];
  }
  return { low, share };
}

/** A row of a grid along x, between its cells along y and z: numbers of a cell lie side by side. */
function rowBetween(
  values: Float32Array,
  [nx, ny, nz]: Vec3,
  numbers: number,
  y: Along,
  j: number,
  z: Along,
  k: number,
  out: Float32Array,
): void {
  const wide = nx * numbers;
  const deep = wide * ny;
  const at = z.low[k] * deep + y.low[j] * wide;
  const [dy, dz] = [ny > 1 ? wide : 0, nz > 1 ? deep : 0];
  const [v, w] = [y.share[j], z.share[k]];
  for (let n = 0; n < wide; n++) {
    const low = values[at + n] * (1 - v) + values[at + dy + n] * v;
    const high = values[at + dz + n] * (1 - v) + values[at + dz + dy + n] * v;
    out[n] = low * (1 - w) + high * w;
  }
}

function finer(
  { size, density, colours }: VolumeGrid,
  times: number,
  extent: Vec3,
  { amount, size: grain, flow }: NonNullable<VolumeGrid['detail']>,
): Pick<VolumeGrid, 'size' | 'density' | 'colours'> {
  const fine = size.map((n) => n * times) as Vec3;
  const out = new Float32Array(fine[0] * fine[1] * fine[2]);
  const tints = colours && new Uint32Array(out.length);
  const [x, y, z] = fine.map((n, a) => along(n, size[a]));
  const [u, v, w] = fine.map((n, a) => along(n, flow.size[a]));
  const row = new Float32Array(size[0]);
  const ways = flow.carried.map(() => new Float32Array(flow.size[0] * 3));
  const weights = weightsOf(flow);
  const step = extent.map((e, a) => e / fine[a] / grain) as Vec3;
  const tile = noiseTile();
  for (let k = 0; k < fine[2]; k++)
    for (let j = 0; j < fine[1]; j++) {
      rowBetween(density, size, 1, y, j, z, k, row);
      if (row.every((d) => d <= 0)) continue;
      flow.carried.forEach((field, n) => rowBetween(field, flow.size, 3, v, j, w, k, ways[n]));
      const first = (k * fine[1] + j) * fine[0];
      const cells = (Math.floor(k / times) * size[1] + Math.floor(j / times)) * size[0];
      for (let i = 0; i < fine[0]; i++) {
        if (tints) tints[first + i] = colours[cells + Math.floor(i / times)];
        const next = Math.min(size[0] - 1, x.low[i] + 1);
        const here = row[x.low[i]] + (row[next] - row[x.low[i]]) * x.share[i];
        if (here <= 0) continue;
        let noise = 0;
        for (let n = 0; n < 2; n++) {
          if (weights[n] < 1e-4) continue;
          const a = u.low[i] * 3;
          const b = Math.min(flow.size[0] - 1, u.low[i] + 1) * 3;
          const t = u.share[i];
          const way = ways[n];
          const px = (i + 0.5) * step[0] - (way[a] + (way[b] - way[a]) * t) / grain + n * APART;
          const py = (j + 0.5) * step[1] - (way[a + 1] + (way[b + 1] - way[a + 1]) * t) / grain + n * APART;
          const pz = (k + 0.5) * step[2] - (way[a + 2] + (way[b + 2] - way[a + 2]) * t) / grain + n * APART;
          const two = noiseAt(tile, px * OCTAVE.scale, py * OCTAVE.scale, pz * OCTAVE.scale);
          noise += weights[n] * (noiseAt(tile, px, py, pz) + OCTAVE.weight * two);
        }
        out[first + i] = here * Math.max(0, 1 + amount * STRENGTH * noise);
      }
    }
  return { size: fine, density: out, colours: tints };
}

/** How much each pattern counts: both together are as strong as either alone. */
function weightsOf({ share }: SmokeFlow): [number, number] {
  const length = Math.sqrt(share * share + (1 - share) * (1 - share));
  return [share / length, (1 - share) / length];
}

let tile: Float32Array | null = null;
/** Random values about 0 of variance 1/3. */
function noiseTile(): Float32Array {
  if (tile) return tile;
  const random = seeded(5);
  return (tile = Float32Array.from({ length: TILE * TILE * TILE }, () => random() * 2 - 1));
}

/** The tile's values, smoothly between its points; it repeats. */
function noiseAt(tile: Float32Array, x: number, y: number, z: number): number {
  const fx = Math.floor(x);
  const fy = Math.floor(y);
  const fz = Math.floor(z);
  const u = (x - fx) * (x - fx) * (3 - 2 * (x - fx));
  const v = (y - fy) * (y - fy) * (3 - 2 * (y - fy));
  const w = (z - fz) * (z - fz) * (3 - 2 * (z - fz));
  const i = fx & (TILE - 1);
  const i1 = (fx + 1) & (TILE - 1);
  const j = (fy & (TILE - 1)) * TILE;
  const j1 = ((fy + 1) & (TILE - 1)) * TILE;
  const k = (fz & (TILE - 1)) * TILE * TILE;
  const k1 = ((fz + 1) & (TILE - 1)) * TILE * TILE;
  const a = tile[k + j + i] + (tile[k + j + i1] - tile[k + j + i]) * u;
  const b = tile[k + j1 + i] + (tile[k + j1 + i1] - tile[k + j1 + i]) * u;
  const c = tile[k1 + j + i] + (tile[k1 + j + i1] - tile[k1 + j + i]) * u;
  const d = tile[k1 + j1 + i] + (tile[k1 + j1 + i1] - tile[k1 + j1 + i]) * u;
  const near = a + (b - a) * v;
  return near + (c + (d - c) * v - near) * w;
}
