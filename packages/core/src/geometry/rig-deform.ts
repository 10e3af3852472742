import { hypot } from '../maths/index.ts';
import type { MeshRig, RigBase, RigSkin } from './rig.ts';
import { identity, inverse, multiply, type Mat4 } from './transform.ts';

/** Vertices of a mesh that deforms. */
export type DeformedMesh = Omit<RigBase, 'targets'>;

/** A mesh by its morph targets and joints, in its model. @param worlds where nodes are. */
export function deformed(
  { base, skin, node, shift }: MeshRig,
  weights: readonly number[],
  worlds: readonly Mat4[],
): DeformedMesh {
  const made = morphed(base!, weights);
  if (skin) moveByJoints(made, skin, worlds);
  else place(made, worlds[node]);
  for (let i = 0; i < made.positions.length; i++) made.positions[i] += shift[i % 3];
  return made;
}

/** New vertices with morph targets at their weights (glTF 2.0, 3.7.2.2). */
export function morphed(base: RigBase, weights: readonly number[]): DeformedMesh {
  const made: DeformedMesh = {
    positions: base.positions.slice(),
    ...(base.normals && { normals: base.normals.slice() }),
    ...(base.tangents && { tangents: base.tangents.slice() }),
  };
  base.targets.forEach((target, i) => {
    const weight = weights[i] ?? 0;
    if (weight === 0) return;
    addTo(made.positions, 3, target.positions, weight);
    if (made.normals && target.normals) addTo(made.normals, 3, target.normals, weight);
    // The fourth number of a tangent is its hand, which no target moves.
    if (made.tangents && target.tangents) addTo(made.tangents, 4, target.tangents, weight);
  });
  if (made.normals) normalise(made.normals, 3);
  return made;
}

function addTo(to: Float32Array, stride: number, from: Float32Array, weight: number): void {
  const count = Math.min(from.length / 3, to.length / stride);
  for (let v = 0; v < count; v++) for (let c = 0; c < 3; c++) to[v * stride + c] += weight * from[v * 3 + c];
}

/**
 * Moves vertices with the joints of their skin, into the scene's space (glTF 2.0, 3.7.3: linear blend skinning). The place of
 * the node itself does not count.
 */
export function moveByJoints(
  { positions, normals, tangents }: DeformedMesh,
  skin: RigSkin,
  worlds: readonly Mat4[],
): void {
  const { joints, inverses, sets, which, shares } = skin;
  const matrices = joints.map((joint, i) => {
    const world = worlds[joint] ?? identity();
    const bind = inverses.subarray(i * 16, i * 16 + 16);
    return bind.length === 16 ? multiply(world, [...bind]) : world;
  });
  const blended: Mat4 = identity();
  const each = sets * 4;
  for (let v = 0; v < positions.length / 3; v++) {
    blended.fill(0);
    let total = 0;
    for (let k = 0; k < each; k++) {
      const [matrix, share] = [matrices[which[v * each + k]], shares[v * each + k]];
      if (!matrix || !(share > 0)) continue;
      total += share;
      for (let i = 0; i < 16; i++) blended[i] += share * matrix[i];
    }
    if (total === 0) continue;
    for (let i = 0; i < 16; i++) blended[i] /= total;
    move(positions, v * 3, blended, 1);
    if (normals) move(normals, v * 3, blended, 0);
    if (tangents) move(tangents, v * 4, blended, 0);
  }
  if (normals) normalise(normals, 3);
  if (tangents) normalise(tangents, 4);
}

/** Morphed vertices of a node without a skin; normals by the inverse transpose. */
function place({ positions, normals, tangents }: DeformedMesh, world: Mat4): void {
  const back = inverse(world);
  const upright: Mat4 = [0, 1, 2, 3].flatMap((c) => [0, 1, 2, 3].map((r) => back[r * 4 + c]));
  for (let v = 0; v < positions.length / 3; v++) {
    move(positions, v * 3, world, 1);
    if (normals) move(normals, v * 3, upright, 0);
    if (tangents) move(tangents, v * 4, world, 0);
  }
  if (normals) normalise(normals, 3);
  if (tangents) normalise(tangents, 4);
}

function move(values: Float32Array, i: number, m: Mat4, w: number): void {
  const [x, y, z] = [values[i], values[i + 1], values[i + 2]];
  values[i] = m[0] * x + m[4] * y + m[8] * z + m[12] * w;
  values[i + 1] = m[1] * x + m[5] * y + m[9] * z + m[13] * w;
  values[i + 2] = m[2] * x + m[6] * y + m[10] * z + m[14] * w;
}

function normalise(values: Float32Array, stride: number): void {
  for (let i = 0; i < values.length; i += stride) {
    const length = hypot(values[i], values[i + 1], values[i + 2]) || 1;
    for (let c = 0; c < 3; c++) values[i + c] /= length;
  }
}
