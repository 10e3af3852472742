import { cos, hypot, sin } from '../maths/index.ts';
import type { Mesh } from './mesh.ts';

export interface TurnedOptions {
  /** Profile from bottom to top (or along any run): [radius, height] in metres. The outside is to the right of the run. */
  profile: ReadonlyArray<readonly [number, number]>;
  /** Steps round the axis. */
  segments?: number;
  /** Profile corners sharper than this many degrees keep a hard edge. */
  crease?: number;
  /** Part of a full turn, in degrees, symmetric about +Z; 360 closes the body. */
  sweep?: number;
}

const DEFAULTS = { segments: 96, crease: 35, sweep: 360 };

/**
 * A body turned round +Y from a profile. u runs once round from the back (-Z) so that u = 0.5 faces +Z, v along the
 * profile by length. Does not cap an open profile: start and end it on the axis for a closed body.
 */
export function buildTurned(options: TurnedOptions): Mesh {
  const { profile, segments, crease, sweep } = { ...DEFAULTS, ...options };
  const rings = profileRings(profile, crease);
  const columns = segments + 1;
  const positions = new Float32Array(rings.length * columns * 3);
  const normals = new Float32Array(positions.length);
  const uvs = new Float32Array(rings.length * columns * 2);
  const start = -(sweep / 360) * Math.PI;
  rings.forEach((ring, row) => {
    for (let column = 0; column < columns; column++) {
      const u = column / segments;
      const angle = start + u * (sweep / 360) * 2 * Math.PI;
      const s = sin(angle);
      const c = cos(angle);
      const at = row * columns + column;
      positions.set([ring.r * s, ring.y, ring.r * c], at * 3);
      normals.set([ring.nr * s, ring.ny, ring.nr * c], at * 3);
      uvs.set([u, 1 - ring.v], at * 2);
    }
  });
  const indices: number[] = [];
  for (let row = 0; row + 1 < rings.length; row++) {
    if (rings[row].segment !== rings[row + 1].segment) continue;
    for (let column = 0; column < segments; column++) {
      const a = row * columns + column;
      const b = a + 1;
      const c = a + columns;
      const d = c + 1;
      if (rings[row].r > 1e-9) indices.push(a, b, d);
      if (rings[row + 1].r > 1e-9) indices.push(a, d, c);
    }
  }
  return { positions, normals, uvs, indices: Uint32Array.from(indices) };
}

interface Ring {
  r: number;
  y: number;
  nr: number;
  ny: number;
  v: number;
  /** Rings of one segment are joined; a crease starts a new segment. */
  segment: number;
}

function profileRings(profile: TurnedOptions['profile'], crease: number): Ring[] {
  const total = profile.reduce(
    (sum, p, i) => (i ? sum + hypot(p[0] - profile[i - 1][0], p[1] - profile[i - 1][1]) : 0),
    0,
  );
  const edge = (i: number): [number, number] => {
    const dr = profile[i + 1][0] - profile[i][0];
    const dy = profile[i + 1][1] - profile[i][1];
    const length = hypot(dr, dy) || 1;
    // Running upward with the outside to the right: the outward normal is the direction turned clockwise.
    return [dy / length, -dr / length];
  };
  const rings: Ring[] = [];
  let run = 0;
  let segment = 0;
  for (let i = 0; i < profile.length; i++) {
    if (i) run += hypot(profile[i][0] - profile[i - 1][0], profile[i][1] - profile[i - 1][1]);
    const before = i > 0 ? edge(i - 1) : edge(i);
    const after = i + 1 < profile.length ? edge(i) : before;
    const ring = { r: profile[i][0], y: profile[i][1], v: run / (total || 1) };
    const cosine = before[0] * after[0] + before[1] * after[1];
    if (cosine < cos((crease * Math.PI) / 180)) {
      rings.push({ ...ring, nr: before[0], ny: before[1], segment });
      segment++;
      rings.push({ ...ring, nr: after[0], ny: after[1], segment });
    } else {
      const nr = before[0] + after[0];
      const ny = before[1] + after[1];
      const length = hypot(nr, ny) || 1;
      rings.push({ ...ring, nr: nr / length, ny: ny / length, segment });
    }
  }
  return rings;
}
