import { identity, inverse, multiply, type Mat4, type Mesh } from '../geometry/index.ts';
import { meshOfShape, surfaceTraits, type Matter } from '../scene/index.ts';
import { fingerprint, fingerprintOf } from './fingerprint.ts';

/** A solid as a simulation sees it at a frame: where it is, and where it was a frame ago. */
export interface Solid {
  thing: string;
  /** Which of its parts it is. */
  part: number;
  mesh: Mesh;
  matrix: Mat4;
  /** Takes a place at this frame to where it was a frame before. */
  back: Mat4;
  /** Whether it is elsewhere than a frame before; its shape is the same. */
  moves: boolean;
  /** What it is known by: shape and places. */
  key: string;
  /** What it is known by from frame to frame, whatever else is there: a whole number from 1 that floats hold exactly. */
  number: number;
}

/** Numbers that are told apart: a float has as many whole ones. */
const MOST_NUMBERS = 1 << 23;

const MESH_KEYS = new WeakMap<Mesh, string>();
function keyOfMesh(mesh: Mesh): string {
  let key = MESH_KEYS.get(mesh);
  if (key === undefined) MESH_KEYS.set(mesh, (key = fingerprintOf(mesh.positions)));
  return key;
}

/**
 * The solids of a set at a frame: parts of products, blocks and cards. Backdrops are none, since a domain's floor stands for them,
 * and labels lie on what is one already. Places of matter are rounded to a hundredth of a millimetre in keys.
 */
export function solidsIn(now: Matter, before: Matter, meshes: (model: string) => readonly Mesh[] | undefined): Solid[] {
  const solids: Solid[] = [];
  const add = (thing: string, part: number, mesh: Mesh, matrix: Mat4, was: Mat4 | undefined): void => {
    const back = was ? multiply(was, inverse(matrix)) : identity();
    const place = [...matrix, ...(was ?? matrix)].map((v) => Math.round(v * 1e5));
    const moves = was !== undefined && was.some((v, i) => Math.abs(v - matrix[i]) > 1e-7);
    const number = 1 + (parseInt(fingerprint(`${thing} ${part}`).slice(0, 8), 16) % MOST_NUMBERS);
    solids.push({
      thing,
      part,
      mesh,
      matrix,
      back,
      moves,
      number,
      key: `${thing} ${keyOfMesh(mesh)} ${place.join(' ')}`,
    });
  };
  for (const instance of now.instances) {
    const earlier = before.instances.find((i) => i.id === instance.id);
    for (const { index, shell, place, shape } of instance.parts) {
      const mesh = shape?.mesh ?? meshes(instance.model)?.[index];
      if (shell || !mesh || mesh.indices.length === 0) continue;
      const was = earlier?.parts.find((p) => p.index === index && !p.shell);
      const at = (matrix: Mat4, own: Mat4 | undefined): Mat4 => (own ? multiply(matrix, own) : matrix);
      add(
        instance.id,
        index,
        mesh,
        at(instance.matrix, place?.matrix),
        earlier && was && at(earlier.matrix, was.place?.matrix),
      );
    }
  }
  for (const { id, shape, matrix } of now.surfaces) {
    const { backdrop, body } = surfaceTraits(shape);
    if (backdrop || !(body || shape.kind === 'card')) continue;
    add(id, 0, meshOfShape(shape), matrix, before.surfaces.find((s) => s.id === id)?.matrix);
  }
  return solids;
}
