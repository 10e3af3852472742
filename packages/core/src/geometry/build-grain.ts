import { cos, pow, sin } from '../maths/index.ts';
import { buildBox } from './build-box.ts';
import { buildGrid } from './build-grid.ts';
import { mergeMeshes, smoothNormals, type Mesh } from './mesh.ts';
import type { Vec3 } from './transform.ts';

export type GrainForm = 'speck' | 'petal' | 'leaf' | 'seed' | 'flake' | 'ice' | 'bead';

const made = new Map<string, Mesh>();

/**
 * A small thing of many: 1 across at its longest, round the origin. Plates lie flat, their normal +Y, and are seen from both
 * sides. The same object for the same form.
 * @param near with all its triangles; otherwise as it is when it is a few pixels wide.
 */
export function buildGrain(form: GrainForm, near: boolean): Mesh {
  const key = `${form} ${near}`;
  let mesh = made.get(key);
  if (!mesh) made.set(key, (mesh = build(form, near)));
  return mesh;
}

function build(form: GrainForm, near: boolean): Mesh {
  switch (form) {
    case 'speck':
      return ball(near ? 2 : 1);
    case 'bead':
      return ball(near ? 3 : 1);
    case 'seed':
      // Flattened, and pointed at one end.
      return reshaped(ball(near ? 3 : 1), ([x, y, z]) => {
        const thin = 1 - 0.55 * pow(Math.max(0, z + 0.5), 1.6);
        return [x * 0.5 * thin, y * 0.3 * thin, z];
      });
    case 'ice':
      return ice(near);
    case 'petal':
      return plate(near ? 6 : 2, near ? 8 : 3, petal);
    case 'leaf':
      return plate(near ? 6 : 2, near ? 10 : 4, leaf);
    case 'flake':
      return flake(near);
  }
}

/** A sphere of diameter 1 from an octahedron whose faces are split so many times. */
function ball(splits: number): Mesh {
  let corners: Vec3[] = [
    [1, 0, 0],
    [-1, 0, 0],
    [0, 1, 0],
    [0, -1, 0],
    [0, 0, 1],
    [0, 0, -1],
  ];
  let faces = [0, 2].flatMap((up) =>
    [
      [0, 4],
      [4, 1],
      [1, 5],
      [5, 0],
    ].map(([a, b]) => (up === 0 ? [2, b, a] : [3, a, b])),
  );
  for (let n = 0; n < splits; n++) {
    const middles = new Map<string, number>();
    const all = [...corners];
    const middle = (a: number, b: number): number => {
      const key = `${Math.min(a, b)} ${Math.max(a, b)}`;
      let at = middles.get(key);
      if (at === undefined) {
        const sum = [0, 1, 2].map((k) => corners[a][k] + corners[b][k]);
        const long = Math.sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2]);
        middles.set(key, (at = all.push(sum.map((v) => v / long) as Vec3) - 1));
      }
      return at;
    };
    faces = faces.flatMap(([a, b, c]) => {
      const [d, e, f] = [middle(a, b), middle(b, c), middle(c, a)];
      return [
        [a, d, f],
        [d, b, e],
        [f, e, c],
        [d, e, f],
      ];
    });
    corners = all;
  }
  const normals = Float32Array.from(corners.flat());
  return {
    positions: normals.map((v) => v / 2),
    normals,
    uvs: Float32Array.from(corners.flatMap(([x, y]) => [x / 2 + 0.5, 0.5 - y / 2])),
    indices: Uint32Array.from(faces.flat()),
  };
}

/** A mesh with its vertices put elsewhere, its normals worked out anew. */
function reshaped(mesh: Mesh, place: (p: Vec3) => Vec3): Mesh {
  const positions = mesh.positions.slice();
  for (let i = 0; i < positions.length; i += 3)
    positions.set(place([positions[i], positions[i + 1], positions[i + 2]]), i);
  return { ...mesh, positions, normals: smoothNormals(positions, mesh.indices) };
}

/** A curved sheet over two shares: across from -1 to 1, along from 0 to 1. */
function plate(columns: number, rows: number, place: (across: number, along: number) => Vec3): Mesh {
  const grid = buildGrid(columns, rows, (s, t) => ({ p: place(2 * s - 1, t), n: [0, 1, 0] }));
  return { ...grid, normals: smoothNormals(grid.positions, grid.indices) };
}

/** Broad and rounded, cupped, its rim turned back a little. */
function petal(across: number, along: number): Vec3 {
  const wide = 0.06 + 0.36 * pow(sin(Math.PI * (0.06 + 0.8 * along)), 0.8);
  const notch = 0.06 * (1 - Math.abs(across)) * along * along;
  const cup = 0.2 * across * across * wide + 0.16 * (along - 0.5) * (along - 0.5) - 0.05 * along * along;
  return [across * wide, cup, along - 0.5 - notch];
}

/** Long and pointed, folded along the middle and bent. */
function leaf(across: number, along: number): Vec3 {
  const wide = 0.22 * pow(sin(Math.PI * Math.min(0.999, 0.02 + 0.97 * along)), 0.75);
  const bend = -0.25 * (along - 0.4) * (along - 0.4);
  const wave = 0.015 * sin(along * 14) * Math.abs(across);
  return [across * wide, 0.35 * Math.abs(across) * wide + bend + wave, along - 0.5];
}

/** Broken from a block: faces a little out of square, edges rounded. */
function ice(near: boolean): Mesh {
  const { panels, edges } = buildBox({ size: [0.82, 0.66, 0.74], bevel: near ? 0.07 : 0 });
  const box = mergeMeshes(near ? [...panels, edges] : panels);
  const positions = box.positions.slice();
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i], positions[i + 1], positions[i + 2]];
    positions[i] = x * (1 + 0.16 * y - 0.1 * z);
    positions[i + 1] = y * (1 - 0.14 * x + 0.12 * z) - 0.33;
    positions[i + 2] = z * (1 + 0.12 * x * y);
  }
  return { ...box, positions };
}

/** Six arms with two pairs of branches each; from afar, where arms are finer than pixels, a plate that covers as much. */
function flake(near: boolean): Mesh {
  if (!near) return disc(6, 0.3);
  const bars: Array<[from: number[], to: number[], wide: number]> = [];
  for (let arm = 0; arm < 6; arm++) {
    const angle = (arm * Math.PI) / 3;
    const at = (along: number, aside: number): number[] => [
      along * cos(angle) - aside * sin(angle),
      along * sin(angle) + aside * cos(angle),
    ];
    bars.push([at(0, 0), at(0.5, 0), 0.05]);
    for (const side of [-1, 1])
      for (const [along, long] of [
        [0.2, 0.14],
        [0.33, 0.1],
      ])
        bars.push([at(along, 0), at(along + long / 2, (side * long * 7) / 8), 0.035]);
  }
  const positions: number[] = [];
  const indices: number[] = [];
  for (const [[x0, z0], [x1, z1], wide] of bars) {
    const [dx, dz] = [x1 - x0, z1 - z0];
    const half = wide / 2 / Math.sqrt(dx * dx + dz * dz);
    const [ax, az] = [-dz * half, dx * half];
    const first = positions.length / 3;
    positions.push(x0 - ax, 0, z0 - az, x0 + ax, 0, z0 + az, x1 + ax, 0, z1 + az, x1 - ax, 0, z1 - az);
    indices.push(first, first + 1, first + 2, first, first + 2, first + 3);
  }
  return flat(positions, indices);
}

/** A plate with so many corners. */
function disc(corners: number, radius: number): Mesh {
  const positions = [0, 0, 0];
  const indices: number[] = [];
  for (let i = 0; i < corners; i++) {
    const angle = (2 * Math.PI * i) / corners;
    positions.push(radius * cos(angle), 0, radius * sin(angle));
    indices.push(0, 1 + ((i + 1) % corners), 1 + i);
  }
  return flat(positions, indices);
}

/** Triangles in the plane y = 0, their normal up. */
function flat(positions: readonly number[], indices: readonly number[]): Mesh {
  const count = positions.length / 3;
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from({ length: count * 3 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
    uvs: new Float32Array(count * 2),
    indices: Uint32Array.from(indices),
  };
}
