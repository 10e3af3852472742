import type { Accessor, Mesh as GltfMesh, Node, Primitive } from '@gltf-transform/core';
import { multiply, type Mat4 } from '../../geometry/index.ts';
import { hypot } from '../../maths/index.ts';

/** Vertices of a primitive that move together. */
export interface Shape {
  positions: Float32Array;
  normals?: Float32Array;
  tangents?: Float32Array;
}

/** Adds a primitive's morph targets at the weights of its node, or of its mesh where the node has none. */
export function morph(shape: Shape, primitive: Primitive, mesh: GltfMesh, node: Node): void {
  const weights = node.getWeights().length > 0 ? node.getWeights() : mesh.getWeights();
  primitive.listTargets().forEach((target, i) => {
    const weight = weights[i] ?? 0;
    if (weight === 0) return;
    add(shape.positions, 3, target.getAttribute('POSITION'), weight);
    if (shape.normals) add(shape.normals, 3, target.getAttribute('NORMAL'), weight);
    // The fourth number of a tangent is its hand, which no target moves.
    if (shape.tangents) add(shape.tangents, 4, target.getAttribute('TANGENT'), weight);
  });
  if (shape.normals) normalise(shape.normals, 3);
}

function add(to: Float32Array, stride: number, from: Accessor | null, weight: number): void {
  if (!from) return;
  const element: number[] = [];
  const count = Math.min(from.getCount(), to.length / stride);
  for (let v = 0; v < count; v++) {
    from.getElement(v, element);
    for (let c = 0; c < 3; c++) to[v * stride + c] += weight * element[c];
  }
}

/**
 * Moves a primitive's vertices with the joints of its node's skin, into the scene's space (linear blend skinning). The
 * place of the node itself does not count, as glTF has it.
 *
 * @returns whether there was a skin.
 */
export function skin(shape: Shape, primitive: Primitive, node: Node, worldOf: (joint: Node) => Mat4): boolean {
  const own = node.getSkin();
  if (!own) return false;
  const joints = own.listJoints();
  const inverses = own.getInverseBindMatrices();
  const matrices = joints.map((joint, i) => {
    const world = worldOf(joint);
    return inverses && i < inverses.getCount() ? multiply(world, inverses.getElement(i, []) as Mat4) : world;
  });
  const sets = setsOf(primitive);
  if (sets.length === 0 || matrices.length === 0) return false;
  const blended: Mat4 = new Array<number>(16).fill(0);
  const [at, share]: number[][] = [[], []];
  for (let v = 0; v < shape.positions.length / 3; v++) {
    blended.fill(0);
    let total = 0;
    for (const { joints: which, weights } of sets) {
      which.getElement(v, at);
      weights.getElement(v, share);
      for (let k = 0; k < 4; k++) {
        const matrix = matrices[at[k]];
        if (!matrix || !(share[k] > 0)) continue;
        total += share[k];
        for (let i = 0; i < 16; i++) blended[i] += share[k] * matrix[i];
      }
    }
    if (total === 0) continue;
    for (let i = 0; i < 16; i++) blended[i] /= total;
    move(shape.positions, v * 3, blended, 1);
    if (shape.normals) move(shape.normals, v * 3, blended, 0);
    if (shape.tangents) move(shape.tangents, v * 4, blended, 0);
  }
  if (shape.normals) normalise(shape.normals, 3);
  if (shape.tangents) normalise(shape.tangents, 4);
  return true;
}

function setsOf(primitive: Primitive): Array<{ joints: Accessor; weights: Accessor }> {
  const sets: Array<{ joints: Accessor; weights: Accessor }> = [];
  for (let i = 0; ; i++) {
    const [joints, weights] = [primitive.getAttribute(`JOINTS_${i}`), primitive.getAttribute(`WEIGHTS_${i}`)];
    if (!joints || !weights) return sets;
    sets.push({ joints, weights });
  }
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
