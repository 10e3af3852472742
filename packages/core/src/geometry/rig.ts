import type { Vec3 } from './transform.ts';

export type RigPath = 'translation' | 'rotation' | 'scale' | 'weights';

/** A node as it rests: its place in its parent, and weights of its mesh's morph targets. */
export interface RigNode {
  /** Index of its parent, which comes before it; -1 for none. */
  parent: number;
  translation: number[];
  /** Quaternion x, y, z, w. */
  rotation: number[];
  scale: number[];
  weights: number[];
}

/** What moves one value of a node, as glTF 2.0 has samplers (appendix C). Seconds. */
export interface RigChannel {
  node: number;
  path: RigPath;
  interpolation: 'STEP' | 'LINEAR' | 'CUBICSPLINE';
  times: Float32Array;
  /** As many numbers a key as the path has; with tangents before and after for CUBICSPLINE. */
  values: Float32Array;
}

/** A model's own nodes and animations. */
export interface Rig {
  nodes: RigNode[];
  /** Channels of each animation, in the file's order. */
  animations: RigChannel[][];
}

/** Vertices as they are before morph targets and joints move them; in the space of the node, or of the skin's bind pose. */
export interface RigBase {
  positions: Float32Array;
  normals?: Float32Array;
  tangents?: Float32Array;
  /** What each morph target adds at full weight. */
  targets: Array<{ positions: Float32Array; normals?: Float32Array; tangents?: Float32Array }>;
}

/** Joints of a mesh, `sets` times four a vertex. */
export interface RigSkin {
  joints: number[];
  /** 16 numbers a joint, column-major; fewer: the identity. */
  inverses: Float32Array;
  sets: number;
  which: Uint16Array;
  shares: Float32Array;
}

/** How a mesh hangs on a model's nodes. Meshes of one model share the rig. */
export interface MeshRig {
  rig: Rig;
  node: number;
  /** Where preparation has moved the model since, model units. */
  shift: Vec3;
  /** Of a mesh that deforms; one without moves as a whole. */
  base?: RigBase;
  skin?: RigSkin;
}
