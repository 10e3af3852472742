import type { TableauVolume } from '../scene/index.ts';
import { invertRows, rowsOf } from './matrix-rows.ts';
import type { PackedVolume } from './layout.ts';

/** Cells of the density grid in one cell of the grid of maxima, along each axis. */
const COARSE = 4;

/** A volume as the kernel takes it, with the coarse grid of maxima that tracking steps through. */
export function packVolume({ matrix, extinction, colour, phase, grid }: TableauVolume): PackedVolume {
  const header = new Float32Array(17);
  header.set(invertRows(rowsOf(matrix)));
  header.set([extinction, ...colour, Math.min(0.99, Math.max(-0.99, phase))], 12);
  if (!grid) {
    return {
      header,
      size: [0, 0, 0],
      density: new Float32Array(0),
      majorantSize: [0, 0, 0],
      majorants: new Float32Array(0),
    };
  }
  const [nx, ny, nz] = grid.size;
  const majorantSize = grid.size.map((n) => Math.max(1, Math.ceil(n / COARSE))) as [number, number, number];
  const [mx, my, mz] = majorantSize;
  const majorants = new Float32Array(mx * my * mz);
  // Density is blended between cell centres: a coarse cell sees one cell beyond its own on either side.
  const range = (i: number, of: number, cells: number): [number, number] => [
    Math.max(0, Math.floor((i / of) * cells - 0.5)),
    Math.min(cells - 1, Math.ceil(((i + 1) / of) * cells - 0.5)),
  ];
  for (let z = 0; z < mz; z++) {
    for (let y = 0; y < my; y++) {
      for (let x = 0; x < mx; x++) {
        const [[x0, x1], [y0, y1], [z0, z1]] = [range(x, mx, nx), range(y, my, ny), range(z, mz, nz)];
        let most = 0;
        for (let k = z0; k <= z1; k++)
          for (let j = y0; j <= y1; j++)
            for (let i = x0; i <= x1; i++) most = Math.max(most, grid.density[(k * ny + j) * nx + i]);
        majorants[(z * my + y) * mx + x] = most;
      }
    }
  }
  return { header, size: grid.size, density: grid.density, majorantSize, majorants };
}
