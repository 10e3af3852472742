import type { Vec3 } from '../geometry/index.ts';

/** Numbers at the centres of a box of cubes, x fastest. */
export interface CellField {
  size: Vec3;
  /** Metres. */
  cell: number;
  /** Corner of the first cell. */
  origin: Vec3;
  values: Float32Array;
}

/** A field full of one value. */
export function fieldOf(grid: Pick<CellField, 'size' | 'cell' | 'origin'>, value: number): CellField {
  const { size, cell, origin } = grid;
  return { size, cell, origin, values: new Float32Array(size[0] * size[1] * size[2]).fill(value) };
}
