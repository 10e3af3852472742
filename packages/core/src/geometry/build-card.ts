import type { Mesh } from './mesh.ts';

/** A flat rectangle in the plane z = 0, centred, whose front looks along -Z (as aimMatrix() turns things). Metres. */
export function buildCard(width: number, height: number): Mesh {
  const [x, y] = [width / 2, height / 2];
  return {
    positions: Float32Array.from([x, -y, 0, -x, -y, 0, -x, y, 0, x, y, 0]),
    normals: Float32Array.from([0, 0, -1, 0, 0, -1, 0, 0, -1, 0, 0, -1]),
    uvs: Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0]),
    indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
  };
}
