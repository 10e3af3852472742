import { hypot } from '../maths/index.ts';
import type { Mesh } from './mesh.ts';
import type { Vec3 } from './transform.ts';

/** A point of a surface: place, unit normal, and uv where it is not the grid's own. */
export interface GridPoint {
  p: Vec3;
  n: Vec3;
  uv?: readonly [number, number];
}

/**
 * A surface over the unit square on a grid of columns x rows, wound so that its faces look along its normals; triangles
 * that collapse (a pole, a corner without radius) are left out.
 */
export function buildGrid(columns: number, rows: number, at: (s: number, t: number) => GridPoint): Mesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  for (let j = 0; j <= rows; j++) {
    for (let i = 0; i <= columns; i++) {
      const { p, n, uv } = at(i / columns, j / rows);
      positions.push(...p);
      normals.push(...n);
      uvs.push(...(uv ?? [i / columns, j / rows]));
    }
  }
  const add = (a: number, b: number, c: number): void => {
    const [pa, pb, pc] = [a * 3, b * 3, c * 3];
    const e1 = [0, 1, 2].map((k) => positions[pb + k] - positions[pa + k]);
    const e2 = [0, 1, 2].map((k) => positions[pc + k] - positions[pa + k]);
    const n = [e1[1] * e2[2] - e1[2] * e2[1], e1[2] * e2[0] - e1[0] * e2[2], e1[0] * e2[1] - e1[1] * e2[0]];
    if (hypot(...n) < 1e-16) return;
    const facing = [a, b, c].reduce((d, v) => d + [0, 1, 2].reduce((k, x) => k + n[x] * normals[v * 3 + x], 0), 0);
    if (facing < 0) indices.push(a, c, b);
    else indices.push(a, b, c);
  };
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      const a = j * (columns + 1) + i;
      add(a, a + 1, a + columns + 2);
      add(a, a + columns + 2, a + columns + 1);
    }
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
  };
}
