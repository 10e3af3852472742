import { pow } from '../maths/index.ts';
import { buildGrid } from './build-grid.ts';
import { smoothNormals, type Mesh } from './mesh.ts';

export interface PouchOptions {
  /** Width, height and greatest thickness when filled, metres. */
  width: number;
  height: number;
  thickness: number;
  /** Width of the welded edge, metres. */
  seal: number;
  /** A stand-up pouch has an open oval bottom with a base; a sachet is sealed all round. */
  standing: boolean;
}

/** Half the thickness of two welded films, metres: enough to keep front and back apart. */
const FILM = 0.00015;
const CELLS = 48;

/**
 * A filled bag of film, standing on y = 0: front and back art panels with uv 0..1 over the whole face, and a base when
 * it stands. Watertight where they meet.
 */
export function buildPouch({ width, height, thickness, seal, standing }: PouchOptions): {
  front: Mesh;
  back: Mesh;
  base: Mesh | null;
} {
  const w = width / 2;
  const welded = Math.min(seal, width / 4, height / 4);
  const bulge = (x: number, t: number): number => {
    if (Math.abs(x) >= 1 || t >= 1 || (!standing && t <= 0)) return 0;
    const across = Math.min(1, (Math.abs(x) * w) / (w - welded));
    const low = standing ? 0 : welded / height;
    const high = 1 - welded / height;
    const up = Math.min(1, Math.max(0, (t - low) / (high - low)));
    // A filled bag is round across; along its height it tapers to the weld at the top, or to both welds.
    const round = pow(1 - pow(across, 2.2), 0.8);
    const along = standing ? pow(1 - pow(up, 1.7), 0.9) : pow(1 - pow(Math.abs(up * 2 - 1), 2.6), 0.75);
    return Math.max(FILM, (thickness / 2) * round * along);
  };
  const face = (side: 1 | -1): Mesh => {
    const mesh = buildGrid(CELLS, CELLS, (s, t) => {
      const x = s * 2 - 1;
      return { p: [x * w, t * height, side * bulge(x, t)], n: [0, 0, side], uv: [side > 0 ? s : 1 - s, 1 - t] };
    });
    return { ...mesh, normals: smoothNormals(mesh.positions, mesh.indices) };
  };
  const base = standing
    ? buildGrid(CELLS, 2, (s, t) => {
        const x = s * 2 - 1;
        return { p: [x * w, 0, (t * 2 - 1) * bulge(x, 0)], n: [0, -1, 0], uv: [s, t] };
      })
    : null;
  return { front: face(1), back: face(-1), base };
}
