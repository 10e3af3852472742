import type { Vec3 } from '../geometry/index.ts';
import type { TableauVolume } from '../scene/index.ts';
import { invertRows, rowsOf } from './matrix-rows.ts';
import type { PackedVolume } from './layout.ts';
import { withDetail } from './smoke-detail.ts';

/** Cells of the density grid in one cell of the coarse grid, along each axis. */
const COARSE = 4;

/** A volume as the kernel takes it, with the coarse grid of the most and the least that tracking steps through. */
export function packVolume(volume: TableauVolume): PackedVolume {
  const { matrix, extinction, colour, phase } = volume;
  const grid = volume.grid && withDetail(volume.grid, matrix);
  const header = new Float32Array(17);
  header.set(invertRows(rowsOf(matrix)));
  header.set([extinction, ...colour, Math.min(0.99, Math.max(-0.99, phase))], 12);
  if (!grid) {
    return {
      header,
      size: [0, 0, 0],
      density: new Float32Array(0),
      coarseSize: [0, 0, 0],
      bounds: new Float32Array(0),
      ...{ colours: new Uint32Array(0), waySize: [0, 0, 0], ways: new Float32Array(0) },
    };
  }
  const [nx, ny, nz] = grid.size;
  const coarseSize = grid.size.map((n) => Math.max(1, Math.ceil(n / COARSE))) as [number, number, number];
  const [mx, my, mz] = coarseSize;
  const bounds = new Float32Array(mx * my * mz * 2);
  const extent = [matrix[0], matrix[5], matrix[10]];
  const { shutter } = grid;
  const ways = shutter ? shutter.ways.map((v, i) => v / extent[i % 3]) : new Float32Array(0);
  const reach = farthest(shutter?.size, ways, coarseSize);
  for (let z = 0; z < mz; z++) {
    for (let y = 0; y < my; y++) {
      for (let x = 0; x < mx; x++) {
        const far = reach[(z * my + y) * mx + x] ?? 0;
        const [[x0, x1], [y0, y1], [z0, z1]] = [range(x, mx, nx, far), range(y, my, ny, far), range(z, mz, nz, far)];
        let most = 0;
        let least = Infinity;
        for (let k = z0; k <= z1; k++)
          for (let j = y0; j <= y1; j++) {
            const row = (k * ny + j) * nx;
            for (let i = row + x0; i <= row + x1; i++) {
              const value = grid.density[i];
              if (value > most) most = value;
              if (value < least) least = value;
            }
          }
        bounds.set([most, least], ((z * my + y) * mx + x) * 2);
      }
    }
  }
  return {
    ...{ header, size: grid.size, density: grid.density, coarseSize, bounds },
    ...{ colours: grid.colours ?? new Uint32Array(0), waySize: shutter?.size ?? [0, 0, 0], ways },
  };
}

/**
 * The cells that count within coarse cell `i` of `of`, and as far round it as `far`. What is blended between cell centres is seen one cell
 * beyond on either side.
 */
const range = (i: number, of: number, cells: number, far = 0): [number, number] => [
  Math.max(0, Math.floor((i / of - far) * cells - 0.5)),
  Math.min(cells - 1, Math.ceil(((i + 1) / of + far) * cells - 0.5)),
];

/** How far anything in each coarse cell goes while the shutter is open, in unit cubes; empty when nothing does. */
function farthest(size: Vec3 | undefined, ways: Float32Array, [mx, my, mz]: Vec3): Float32Array {
  if (!size) return new Float32Array(0);
  const out = new Float32Array(mx * my * mz);
  for (let z = 0; z < mz; z++)
    for (let y = 0; y < my; y++)
      for (let x = 0; x < mx; x++) {
        const [[x0, x1], [y0, y1], [z0, z1]] = [range(x, mx, size[0]), range(y, my, size[1]), range(z, mz, size[2])];
        let most = 0;
        for (let k = z0; k <= z1; k++)
          for (let j = y0; j <= y1; j++)
            for (let i = ((k * size[1] + j) * size[0] + x0) * 3; i < ((k * size[1] + j) * size[0] + x1 + 1) * 3; i++)
              most = Math.max(most, Math.abs(ways[i]));
        out[(z * my + y) * mx + x] = most;
      }
  return out;
}
