import type { Mesh } from './mesh.ts';
import type { Mat4, Vec3 } from './transform.ts';

/** Axis-aligned box in metres. */
export interface Bounds {
  min: Vec3;
  max: Vec3;
}

export function emptyBounds(): Bounds {
  return { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
}

/** The exact box of `meshes` after `matrix`, vertex by vertex in double precision. */
export function boundsOf(meshes: readonly Mesh[], matrix?: Mat4): Bounds {
  const box = emptyBounds();
  for (const { positions } of meshes) {
    for (let i = 0; i < positions.length; i += 3) {
      let x = positions[i];
      let y = positions[i + 1];
      let z = positions[i + 2];
      if (matrix) {
        const m = matrix;
        const px = x;
        const py = y;
        const pz = z;
        x = m[0] * px + m[4] * py + m[8] * pz + m[12];
        y = m[1] * px + m[5] * py + m[9] * pz + m[13];
        z = m[2] * px + m[6] * py + m[10] * pz + m[14];
      }
      if (x < box.min[0]) box.min[0] = x;
      if (y < box.min[1]) box.min[1] = y;
      if (z < box.min[2]) box.min[2] = z;
      if (x > box.max[0]) box.max[0] = x;
      if (y > box.max[1]) box.max[1] = y;
      if (z > box.max[2]) box.max[2] = z;
    }
  }
  return box;
}

export function boundsSize(box: Bounds): Vec3 {
  return [box.max[0] - box.min[0], box.max[1] - box.min[1], box.max[2] - box.min[2]];
}

export function boundsCentre(box: Bounds): Vec3 {
  return [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2, (box.min[2] + box.max[2]) / 2];
}

/**
 * How far up (metres) a thing placed by `matrix` must move so that its lowest vertex touches the plane `floor`.
 * Exact to rounding: it looks at the vertices themselves, not at a rotated box.
 */
export function seatOffset(meshes: readonly Mesh[], matrix: Mat4, floor = 0): number {
  const box = boundsOf(meshes, matrix);
  return Number.isFinite(box.min[1]) ? floor - box.min[1] : 0;
}
