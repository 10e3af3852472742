import { cos, sin } from '../maths/index.ts';
import { mergeMeshes, type Mesh } from './mesh.ts';
import { buildGrid } from './build-grid.ts';
import { aimMatrix, type Vec3 } from './transform.ts';
import { transformMesh } from './mesh.ts';

export interface BoxOptions {
  /** Outer size in metres: width (x), height (y), depth (z). */
  size: Vec3;
  /** Width of the rounded edge, metres. */
  bevel?: number;
  /** Steps across a rounded edge. */
  steps?: number;
}

/** Faces in the order of the returned panels. */
export const BOX_FACES = ['front', 'back', 'left', 'right', 'top', 'bottom'] as const;

/**
 * A box standing on y = 0, centred on x and z, with rounded edges: one flat panel per face (uv 0..1 over the panel,
 * so art keeps the panel's own proportion) and one mesh for all edges and corners. Watertight where they meet.
 */
export function buildBox({ size, bevel = 0.001, steps = 3 }: BoxOptions): { panels: Mesh[]; edges: Mesh } {
  const [w, h, d] = size;
  const b = Math.min(bevel, w / 2, h / 2, d / 2);
  const inner: Vec3 = [w / 2 - b, h / 2 - b, d / 2 - b];
  const lift = (mesh: Mesh): Mesh => transformMesh(mesh, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, h / 2, 0, 1]);
  const panel = (normal: Vec3, halfWidth: number, halfHeight: number, distance: number): Mesh => {
    const quad: Mesh = {
      positions: Float32Array.from([
        -halfWidth,
        -halfHeight,
        0,
        halfWidth,
        -halfHeight,
        0,
        halfWidth,
        halfHeight,
        0,
        -halfWidth,
        halfHeight,
        0,
      ]),
      normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]),
      uvs: Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0]),
      indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
    };
    const eye: Vec3 = [normal[0] * distance, normal[1] * distance, normal[2] * distance];
    return lift(transformMesh(quad, aimMatrix(eye, [0, 0, 0])));
  };
  const panels = [
    panel([0, 0, 1], inner[0], inner[1], d / 2),
    panel([0, 0, -1], inner[0], inner[1], d / 2),
    panel([-1, 0, 0], inner[2], inner[1], w / 2),
    panel([1, 0, 0], inner[2], inner[1], w / 2),
    panel([0, 1, 0], inner[0], inner[2], h / 2),
    panel([0, -1, 0], inner[0], inner[2], h / 2),
  ];
  return { panels, edges: lift(mergeMeshes([...edgeStrips(inner, b, steps), ...corners(inner, b, steps)])) };
}

function edgeStrips(inner: Vec3, b: number, steps: number): Mesh[] {
  const strips: Mesh[] = [];
  for (let axis = 0; axis < 3; axis++) {
    const u = (axis + 1) % 3;
    const v = (axis + 2) % 3;
    for (const su of [-1, 1]) {
      for (const sv of [-1, 1]) {
        strips.push(
          buildGrid(steps, 1, (s, t) => {
            const angle = (s * Math.PI) / 2;
            const n: Vec3 = [0, 0, 0];
            n[u] = su * cos(angle);
            n[v] = sv * sin(angle);
            const p: Vec3 = [n[0] * b, n[1] * b, n[2] * b];
            p[axis] = (t * 2 - 1) * inner[axis];
            p[u] += su * inner[u];
            p[v] += sv * inner[v];
            return { p, n };
          }),
        );
      }
    }
  }
  return strips;
}

function corners(inner: Vec3, b: number, steps: number): Mesh[] {
  const patches: Mesh[] = [];
  for (const sx of [-1, 1]) {
    for (const sy of [-1, 1]) {
      for (const sz of [-1, 1]) {
        patches.push(
          buildGrid(steps, steps, (s, t) => {
            const a = (s * Math.PI) / 2;
            const e = (t * Math.PI) / 2;
            const n: Vec3 = [sx * cos(a) * cos(e), sy * sin(e), sz * sin(a) * cos(e)];
            return { p: [sx * inner[0] + n[0] * b, sy * inner[1] + n[1] * b, sz * inner[2] + n[2] * b], n };
          }),
        );
      }
    }
  }
  return patches;
}
