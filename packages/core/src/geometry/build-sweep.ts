import { cos, hypot, sin } from '../maths/index.ts';
import type { Mesh } from './mesh.ts';

export interface SweepOptions {
  /** Across, metres. */
  width: number;
  /** Floor from the front edge to the wall plane, metres. */
  depth: number;
  /** Wall height, metres. */
  height: number;
  /** Radius of the curve that joins floor and wall, metres; limited by depth and height. */
  radius: number;
}

/**
 * The seamless backdrop: floor at y = 0 in front, a quarter-circle, then a wall behind. The product's place (the
 * origin) lies on the floor two fifths of the depth in front of the wall plane.
 */
export function buildSweep({ width, depth, height, radius }: SweepOptions): Mesh {
  const r = Math.max(0, Math.min(radius, depth * 0.9, height));
  const back = -depth * 0.4;
  const front = depth * 0.6;
  const steps = r > 0 ? 32 : 1;
  // Points along the section: [z, y, normal z, normal y].
  const section: Array<[number, number, number, number]> = [[front, 0, 0, 1]];
  if (r > 0) {
    for (let i = 0; i <= steps; i++) {
      const a = (i / steps) * (Math.PI / 2);
      section.push([back + r - r * sin(a), r - r * cos(a), sin(a), cos(a)]);
    }
  } else {
    section.push([back, 0, 0, 1], [back, 0, 1, 0]);
  }
  if (height > r) section.push([back, height, 1, 0]);
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  let run = 0;
  section.forEach(([z, y, nz, ny], i) => {
    if (i) run += hypot(z - section[i - 1][0], y - section[i - 1][1]);
    for (const side of [-1, 1]) {
      positions.push((side * width) / 2, y, z);
      normals.push(0, ny, nz);
      uvs.push(((side + 1) / 2) * width, run);
    }
  });
  const indices: number[] = [];
  for (let i = 0; i + 1 < section.length; i++) {
    const a = i * 2;
    indices.push(a, a + 1, a + 3, a, a + 3, a + 2);
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
  };
}
