import type { Animation, Document, Node, Primitive } from '@gltf-transform/core';
import type { Mesh } from '../geometry/index.ts';

/** Shapes that a deforming part is written with at most; between them vertices go straight. */
const MOST_SHAPES = 64;
/** What differs by less than this, metres, is the same shape. */
const ALIKE = 1e-7;

/** A mesh that deforms: the frames at which its shape is written, the first shape being the mesh itself. */
export interface DeformingMesh {
  node: Node;
  frames: readonly number[];
}

/** Which frames a part's shape is kept of; null for one that does not deform, or whose triangles change. */
export function shapeFrames(shapes: ReadonlyArray<Mesh | undefined>): number[] | null {
  const [first] = shapes;
  if (!first || shapes.some((s) => s?.positions.length !== first.positions.length)) return null;
  if (shapes.every((s) => s === first || s!.positions.every((v, i) => Math.abs(v - first.positions[i]) < ALIKE)))
    return null;
  const last = shapes.length - 1;
  const step = Math.max(1, Math.ceil(last / (MOST_SHAPES - 1)));
  const frames = Array.from({ length: Math.floor(last / step) + 1 }, (_, i) => i * step);
  return frames.at(-1) === last ? frames : [...frames, last];
}

/** Adds the shapes of later frames to a primitive as morph targets (glTF 2.0, 3.7.2.2). */
export function addShapes(document: Document, primitive: Primitive, shapes: readonly Mesh[]): void {
  const [first, ...later] = shapes;
  const [buffer] = document.getRoot().listBuffers();
  const change = (to: Float32Array, from: Float32Array) =>
    document
      .createAccessor()
      .setType('VEC3')
      .setArray(to.map((v, i) => v - from[i]))
      .setBuffer(buffer);
  for (const shape of later)
    primitive.addTarget(
      document
        .createPrimitiveTarget()
        .setAttribute('POSITION', change(shape.positions, first.positions))
        .setAttribute('NORMAL', change(shape.normals, first.normals)),
    );
}

/** Animates the weights of what deforms: one shape after the other. @param seconds of a frame. */
export function animateShapes(
  document: Document,
  animation: Animation,
  { node, frames }: DeformingMesh,
  seconds: (frame: number) => number,
): void {
  const [buffer] = document.getRoot().listBuffers();
  const targets = frames.length - 1;
  const weights = new Float32Array(frames.length * targets);
  frames.forEach((_, key) => {
    if (key > 0) weights[key * targets + key - 1] = 1;
  });
  const accessor = (array: Float32Array<ArrayBuffer>) =>
    document.createAccessor().setType('SCALAR').setArray(array).setBuffer(buffer);
  node.getMesh()!.setWeights(new Array<number>(targets).fill(0));
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor(Float32Array.from(frames, seconds)))
    .setOutput(accessor(weights))
    .setInterpolation('LINEAR');
  animation
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath('weights').setSampler(sampler));
}
