import { smoothNormals, type Mesh } from './mesh.ts';

export interface ReliefOptions {
  /** Radius of the disc, metres. */
  radius: number;
  /** Height of the flat ground, metres. */
  y: number;
  /** Emboss in metres at a place on the disc (x to the right, z to the front), 0 at the rim. */
  relief: (x: number, z: number) => number;
  /** Cells along the diameter. */
  cells?: number;
}

/** A disc facing +Y whose surface is raised by `relief`: an embossed lid. uv is planar, 0..1 over the diameter. */
export function buildRelief({ radius, y, relief, cells = 120 }: ReliefOptions): Mesh {
  const side = cells + 1;
  const positions = new Float32Array(side * side * 3);
  const uvs = new Float32Array(side * side * 2);
  for (let j = 0; j < side; j++) {
    for (let i = 0; i < side; i++) {
      // The square grid is bent onto the disc (elliptical mapping), which keeps cells even and the rim exact.
      const s = (i / cells) * 2 - 1;
      const t = (j / cells) * 2 - 1;
      const x = radius * s * Math.sqrt(1 - (t * t) / 2);
      const z = radius * t * Math.sqrt(1 - (s * s) / 2);
      const rim = i === 0 || j === 0 || i === cells || j === cells;
      const at = j * side + i;
      positions.set([x, y + (rim ? 0 : relief(x, z)), z], at * 3);
      uvs.set([x / radius / 2 + 0.5, z / radius / 2 + 0.5], at * 2);
    }
  }
  const indices: number[] = [];
  for (let j = 0; j < cells; j++) {
    for (let i = 0; i < cells; i++) {
      const a = j * side + i;
      indices.push(a, a + side, a + side + 1, a, a + side + 1, a + 1);
    }
  }
  const index = Uint32Array.from(indices);
  return { positions, normals: smoothNormals(positions, index), uvs, indices: index };
}
