import {
  deformed,
  identity,
  inverse,
  multiply,
  sampleChannel,
  smoothNormals,
  unitQuaternion,
  type Mat4,
  type Mesh,
  type MeshRig,
  type Rig,
  type RigChannel,
  type RigNode,
} from '../geometry/index.ts';

/** One of a model's own animations at a time, in seconds, and how much it counts beside others. */
export interface RigClip {
  animation: number;
  seconds: number;
  weight: number;
}

/** A model as its animations have it. */
export interface RiggedModel {
  /** Those that deform are new; the others are the very meshes. */
  meshes: readonly Mesh[];
  /** Of meshes that move as a whole: from where they rest, in the model. */
  places: ReadonlyMap<number, Mat4>;
}

/**
 * Poses a model by its own animations (glTF 2.0, appendix C and section 3.7): several are mixed by their weights, and what
 * they lack of one is filled by the pose at rest. A time outside an animation holds its end.
 */
export function poseRig(meshes: readonly Mesh[], clips: readonly RigClip[]): RiggedModel {
  const places = new Map<number, Mat4>();
  const rig = meshes.find((mesh) => mesh.rig)?.rig?.rig;
  const acting = clips.filter(({ animation, weight }) => weight > 0 && rig?.animations[animation]);
  if (!rig || acting.length === 0) return { meshes, places };
  const nodes = mixed(rig, acting);
  const [rest, now] = [worldsOf(rig.nodes), worldsOf(nodes)];
  const posed = meshes.map((mesh, index) => {
    const own = mesh.rig;
    if (!own) return mesh;
    if (own.base) return deformedMesh(mesh, own, nodes[own.node], now);
    const moved = multiply(now[own.node], inverse(rest[own.node]));
    const place = about(own.shift, moved);
    if (place.some((v, i) => Math.abs(v - IDENTITY[i]) > 1e-12)) places.set(index, place);
    return mesh;
  });
  return { meshes: posed, places };
}

const IDENTITY = identity();

/** A move in the file's space as one in the space that preparation has shifted it to. */
function about([x, y, z]: readonly number[], m: Mat4): Mat4 {
  const there = multiply(m, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -x, -y, -z, 1]);
  return multiply([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1], there);
}

function deformedMesh(mesh: Mesh, rig: MeshRig, node: RigNode, worlds: readonly Mat4[]): Mesh {
  const made = deformed(rig, node.weights, worlds);
  const { rig: _rig, tangents, ...rest } = mesh;
  return {
    ...rest,
    positions: made.positions,
    normals: made.normals ?? smoothNormals(made.positions, mesh.indices),
    ...(tangents && { tangents: made.tangents ?? tangents }),
  };
}

/** Where nodes are in their scene; parents come first. */
function worldsOf(nodes: readonly RigNode[]): Mat4[] {
  const worlds: Mat4[] = [];
  for (const node of nodes) {
    const local = localOf(node);
    worlds.push(node.parent < 0 ? local : multiply(worlds[node.parent], local));
  }
  return worlds;
}

function localOf({ translation: t, rotation, scale: s }: RigNode): Mat4 {
  const [x, y, z, w] = rotation;
  return [
    ...[(1 - 2 * (y * y + z * z)) * s[0], 2 * (x * y + z * w) * s[0], 2 * (x * z - y * w) * s[0], 0],
    ...[2 * (x * y - z * w) * s[1], (1 - 2 * (x * x + z * z)) * s[1], 2 * (y * z + x * w) * s[1], 0],
    ...[2 * (x * z + y * w) * s[2], 2 * (y * z - x * w) * s[2], (1 - 2 * (x * x + y * y)) * s[2], 0],
    ...[t[0], t[1], t[2], 1],
  ];
}

/** The nodes with their values mixed from clips. */
function mixed(rig: Rig, clips: readonly RigClip[]): RigNode[] {
  const total = clips.reduce((sum, { weight }) => sum + weight, 0);
  const shares = clips.map(({ weight }) => weight / Math.max(1, total));
  const nodes = rig.nodes.map((node) => ({ ...node }));
  const sums = new Map<string, { channel: RigChannel; sum: number[]; share: number }>();
  clips.forEach(({ animation, seconds }, i) => {
    for (const channel of rig.animations[animation]) {
      const value = sampleChannel(channel, seconds);
      if (!value) continue;
      const name = `${channel.node} ${channel.path}`;
      const there = sums.get(name) ?? { channel, sum: value.map(() => 0), share: 0 };
      sums.set(name, there);
      add(there.sum, value, shares[i], channel.path === 'rotation');
      there.share += shares[i];
    }
  });
  for (const { channel, sum, share } of sums.values()) {
    const rest = rig.nodes[channel.node][channel.path];
    const resting = sum.map((_, i) => rest[i] ?? 0);
    if (share < 1) add(sum, resting, 1 - share, channel.path === 'rotation');
    nodes[channel.node][channel.path] = channel.path === 'rotation' ? unitQuaternion(sum) : sum;
  }
  return nodes;
}

/** Adds so much of a value; of a rotation on the side of what is there already (normalised mix of quaternions). */
function add(sum: number[], value: readonly number[], share: number, turns: boolean): void {
  const sign = turns && sum.reduce((dot, v, i) => dot + v * value[i], 0) < 0 ? -1 : 1;
  for (let i = 0; i < sum.length; i++) sum[i] += value[i] * share * sign;
}
