import type {
  Accessor,
  AnimationChannel,
  AnimationSampler,
  Document,
  Mesh as GltfMesh,
  Node,
  Primitive,
} from '@gltf-transform/core';
import {
  identity,
  type Mat4,
  type MeshRig,
  type Rig,
  type RigBase,
  type RigChannel,
  type RigNode,
  type RigPath,
  type RigSkin,
} from '../../geometry/index.ts';

const PATHS: readonly string[] = ['translation', 'rotation', 'scale', 'weights'] satisfies RigPath[];

/** Reads how a document's animations move its meshes, as the nodes stand now. */
export class RigReader {
  private readonly rig: Rig | null;
  private readonly indices = new Map<Node, number>();
  /** Nodes that an animation moves, with all below them. */
  private readonly moved = new Set<Node>();
  private readonly weighted = new Set<Node>();

  constructor(document: Document) {
    const root = document.getRoot();
    const scene = root.getDefaultScene() ?? root.listScenes()[0];
    const nodes: RigNode[] = [];
    const visit = (node: Node, parent: number): void => {
      this.indices.set(node, nodes.length);
      const index = nodes.push(nodeOf(node, parent)) - 1;
      node.listChildren().forEach((child) => visit(child, index));
    };
    scene?.listChildren().forEach((node) => visit(node, -1));
    const animations = root
      .listAnimations()
      .map((animation) => animation.listChannels().flatMap((channel) => this.channel(channel) ?? []));
    this.rig = animations.some((channels) => channels.length > 0) ? { nodes, animations } : null;
  }

  /** How a primitive hangs on the nodes; undefined where no animation moves it. */
  of(primitive: Primitive, mesh: GltfMesh, node: Node): MeshRig | undefined {
    const index = this.indices.get(node);
    if (!this.rig || index === undefined) return undefined;
    const hung = node
      .getSkin()
      ?.listJoints()
      .some((joint) => this.moved.has(joint));
    const skin = hung ? this.skinOf(primitive, node) : null;
    const morphs = primitive.listTargets().length > 0 && this.weighted.has(node);
    if (!skin && !morphs && !this.moved.has(node)) return undefined;
    const rest = this.rig.nodes[index];
    // A node without weights has those of its mesh.
    if (rest.weights.length === 0) rest.weights = [...mesh.getWeights()];
    return {
      ...{ rig: this.rig, node: index, shift: [0, 0, 0] },
      ...((skin || morphs) && { base: baseOf(primitive) }),
      ...(skin && { skin }),
    };
  }

  private channel(channel: AnimationChannel): RigChannel | null {
    const [node, sampler, path] = [channel.getTargetNode(), channel.getSampler(), channel.getTargetPath()];
    const index = node ? this.indices.get(node) : undefined;
    if (!node || !sampler || index === undefined || !PATHS.includes(path ?? '')) return null;
    const numbers = samplerNumbers(sampler, path as RigPath);
    if (numbers.times.length === 0) return null;
    if (path === 'weights') this.weighted.add(node);
    else this.spread(node);
    return { node: index, ...numbers };
  }

  private spread(node: Node): void {
    if (this.moved.has(node)) return;
    this.moved.add(node);
    node.listChildren().forEach((child) => this.spread(child));
  }

  /** Where nodes are, in the order in which joints name them. */
  worlds(of: ReadonlyMap<Node, Mat4>): Mat4[] {
    return [...this.indices.keys()].map((node) => of.get(node) ?? identity());
  }

  /** The joints of a node's skin that a primitive's vertices hang on; null without any. */
  skinOf(primitive: Primitive, node: Node): RigSkin | null {
    const own = node.getSkin();
    const sets = jointSetsOf(primitive);
    const joints = own?.listJoints() ?? [];
    if (!own || sets.length === 0 || joints.length === 0) return null;
    const count = primitive.getAttribute('POSITION')!.getCount();
    const which = new Uint16Array(count * sets.length * 4);
    const shares = new Float32Array(count * sets.length * 4);
    const element: number[] = [];
    sets.forEach((set, s) => {
      for (let v = 0; v < count; v++) {
        const at = (v * sets.length + s) * 4;
        which.set(set.joints.getElement(v, element).slice(0, 4), at);
        shares.set(set.weights.getElement(v, element).slice(0, 4), at);
      }
    });
    const inverses = own.getInverseBindMatrices();
    return {
      joints: joints.map((joint) => this.indices.get(joint) ?? -1),
      inverses: inverses ? floats(inverses) : new Float32Array(0),
      ...{ sets: sets.length, which, shares },
    };
  }
}

/** A sampler's keys as numbers; none where something is missing. */
export function samplerNumbers(sampler: AnimationSampler, path: RigPath): Omit<RigChannel, 'node'> {
  const [input, output] = [sampler.getInput(), sampler.getOutput()];
  const none = new Float32Array(0);
  return {
    ...{ path, interpolation: sampler.getInterpolation() },
    times: input && output ? floats(input) : none,
    values: output ? floats(output) : none,
  };
}

function nodeOf(node: Node, parent: number): RigNode {
  const [translation, rotation, scale] = [node.getTranslation(), node.getRotation(), node.getScale()];
  return {
    parent,
    ...{ translation: [...translation], rotation: [...rotation], scale: [...scale], weights: [...node.getWeights()] },
  };
}

function jointSetsOf(primitive: Primitive): Array<{ joints: Accessor; weights: Accessor }> {
  const sets: Array<{ joints: Accessor; weights: Accessor }> = [];
  for (let i = 0; ; i++) {
    const [joints, weights] = [primitive.getAttribute(`JOINTS_${i}`), primitive.getAttribute(`WEIGHTS_${i}`)];
    if (!joints || !weights) return sets;
    sets.push({ joints, weights });
  }
}

/** The vertices as the file has them. */
export function baseOf(primitive: Primitive): RigBase {
  const of = (attributes: Pick<Primitive, 'getAttribute'>, size: number): Omit<RigBase, 'targets'> => {
    const [positions, normals, tangents] = ['POSITION', 'NORMAL', 'TANGENT'].map((name) => {
      const accessor = attributes.getAttribute(name);
      return accessor ? floats(accessor) : undefined;
    });
    return {
      positions: positions ?? new Float32Array(size),
      ...(normals && { normals }),
      ...(tangents && { tangents }),
    };
  };
  const base = of(primitive, 0);
  return { ...base, targets: primitive.listTargets().map((target) => of(target, base.positions.length)) };
}

/** An accessor's numbers as floats of its own. */
function floats(accessor: Accessor): Float32Array {
  const size = accessor.getElementSize();
  const out = new Float32Array(accessor.getCount() * size);
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    for (let c = 0; c < size; c++) out[i * size + c] = element[c];
  }
  return out;
}
