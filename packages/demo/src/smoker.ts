import { Document, WebIO, type Material, type Node, type Primitive } from '@gltf-transform/core';
import {
  buildBox,
  buildTurned,
  filletProfile,
  mergeMeshes,
  smoothNormals,
  transformMesh,
  type Mesh,
  type ProfileCorner,
} from '@tender-orbit/core/geometry';

/** Where the moving board hangs, and how far it stands open; metres, degrees. */
const HINGE = { y: 0.012, z: -0.068 };
const OPEN = 16;
const BOARD = { width: 0.075, height: 0.1, thick: 0.006 };
/** Rows of the leather from the fixed board to the moving one, and points round each. */
const [ROWS, ROUND] = [10, 48];

const radians = (degrees: number): number => (degrees * Math.PI) / 180;
/** A turn about X as a quaternion. */
const aboutX = (degrees: number): [number, number, number, number] => [
  Math.sin(radians(degrees) / 2),
  0,
  0,
  Math.cos(radians(degrees) / 2),
];

/**
 * A beekeeper's smoker as a glTF file: a tin can with a funnel lid on a hinge, and bellows behind it. Its animations are its own:
 * the lid opens by its hinge, and the bellows puff, their leather carried by two joints.
 */
export async function makeSmoker(): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tender Orbit';
  document.createBuffer();
  const scene = document.createScene('Smoker');
  const material = (name: string, colour: [number, number, number], metallic: number, roughness: number): Material =>
    document
      .createMaterial(name)
      .setBaseColorFactor([...colour, 1])
      .setMetallicFactor(metallic)
      .setRoughnessFactor(roughness);
  const tin = material('Brushed tin', [0.72, 0.7, 0.66], 1, 0.34);
  const wood = material('Oiled oak', [0.36, 0.2, 0.095], 0, 0.5);
  const leather = material('Dark leather', [0.075, 0.035, 0.022], 0, 0.62);
  const node = (name: string, mesh: Mesh, of: Material): Node => {
    const primitive = primitiveOf(document, mesh, of);
    return document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive));
  };

  scene.addChild(node('Can', can(), tin));
  // The lid's mesh is in the space of its hinge, at the back of the rim.
  const hinge = document.createNode('Lid hinge').setTranslation([0, 0.112, -0.044]);
  const moved = transformMesh(funnel(), [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -0.112, 0.044, 1]);
  scene.addChild(hinge.addChild(node('Lid', moved, tin)));
  scene.addChild(node('Fixed board', board(), wood));
  const swing = document.createNode('Bellows').setTranslation([0, HINGE.y, HINGE.z]).setRotation(aboutX(-OPEN));
  const own = transformMesh(board(), [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -HINGE.y, -HINGE.z, 1]);
  scene.addChild(swing.addChild(node('Moving board', own, wood)));
  const still = document.createNode('Bellows root');
  scene.addChild(still);
  scene.addChild(leatherNode(document, leather, [still, swing]));

  animate(document, 'Open the lid', hinge, [0, 0.9], [aboutX(0), aboutX(-78)]);
  const puff = [0, 0.22, 0.34, 1].map((t) => t * 1.2);
  animate(document, 'Puff', swing, puff, [-OPEN, -4, -4, -OPEN].map(aboutX));
  return new WebIO().writeBinary(document);
}

function can(): Mesh {
  const corners: ProfileCorner[] = [
    [0, 0],
    [0.048, 0, 0.003],
    [0.048, 0.004, 0.001],
    [0.046, 0.006, 0.001],
    [0.046, 0.108, 0.001],
    [0.048, 0.11, 0.0008],
    [0.048, 0.112, 0.0008],
    [0.044, 0.112, 0.0006],
    [0.044, 0.004, 0.002],
    [0, 0.004],
  ];
  return buildTurned({ profile: filletProfile(corners, 3), segments: 72 });
}

function funnel(): Mesh {
  const corners: ProfileCorner[] = [
    [0.0475, 0.1122, 0.0005],
    [0.0482, 0.1205, 0.002],
    [0.012, 0.166, 0.004],
    [0.0105, 0.179, 0.0006],
    [0.0092, 0.179, 0.0006],
    [0.0105, 0.165, 0.003],
    [0.0462, 0.1195, 0.001],
    [0.0457, 0.1122, 0.0005],
  ];
  return buildTurned({ profile: filletProfile([...corners, corners[0]], 3), segments: 72 });
}

/** A board of the bellows, upright at the place of the fixed one. */
function board(): Mesh {
  const { panels, edges } = buildBox({ size: [BOARD.width, BOARD.height, BOARD.thick], bevel: 0.0022 });
  return transformMesh(mergeMeshes([...panels, edges]), [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, HINGE.y, HINGE.z, 1]);
}

/** Pleats between the boards; each row hangs on both by its share, so that they fold as the boards close. */
function leatherNode(document: Document, of: Material, [still, swing]: [Node, Node]): Node {
  const positions: number[] = [];
  const [uvs, joints, weights, indices]: number[][] = [[], [], [], []];
  for (let row = 0; row <= ROWS; row++) {
    const share = row / ROWS;
    // Every second row lies further in.
    const inset = row % 2 === 0 ? 0.0015 : 0.0075;
    for (let i = 0; i <= ROUND; i++) {
      const angle = (i / ROUND) * 2 * Math.PI;
      const [x, y] = onRound(angle, BOARD.width / 2 - inset, BOARD.height / 2 - inset);
      positions.push(...between(share, [x, y + BOARD.height / 2 + HINGE.y, HINGE.z]));
      uvs.push(i / ROUND, share);
      joints.push(0, 1, 0, 0);
      weights.push(1 - share, share, 0, 0);
      if (row === ROWS || i === ROUND) continue;
      const a = row * (ROUND + 1) + i;
      const b = a + ROUND + 1;
      indices.push(a, b, a + 1, a + 1, b, b + 1);
    }
  }
  const mesh: Mesh = {
    positions: Float32Array.from(positions),
    normals: smoothNormals(Float32Array.from(positions), Uint32Array.from(indices)),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
  };
  const [buffer] = document.getRoot().listBuffers();
  const accessor = (type: 'VEC4' | 'MAT4', array: Float32Array | Uint8Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const primitive = primitiveOf(document, mesh, of.setDoubleSided(true))
    .setAttribute('JOINTS_0', accessor('VEC4', Uint8Array.from(joints)))
    .setAttribute('WEIGHTS_0', accessor('VEC4', Float32Array.from(weights)));
  const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const skin = document
    .createSkin('Leather')
    .addJoint(still)
    .addJoint(swing)
    .setInverseBindMatrices(accessor('MAT4', Float32Array.from([...identity, ...inverseOf(swing)])));
  return document.createNode('Leather').setMesh(document.createMesh('Leather').addPrimitive(primitive)).setSkin(skin);
}

/** A point of the fixed board's outline, turned about the hinge by its share of how far the bellows stand open. */
function between(share: number, [x, y, z]: [number, number, number]): [number, number, number] {
  const angle = radians(-OPEN * share);
  const [up, back] = [y - HINGE.y, z - HINGE.z];
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return [x, HINGE.y + up * c - back * s, HINGE.z + up * s + back * c];
}

/** A rectangle with round corners, by an angle. */
function onRound(angle: number, halfWidth: number, halfHeight: number): [number, number] {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const soft = (v: number): number => Math.sign(v) * Math.abs(v) ** 0.35;
  return [halfWidth * soft(c), halfHeight * soft(s)];
}

/** What undoes the place of a node that is turned about X. */
function inverseOf(node: Node): number[] {
  const [, ty, tz] = node.getTranslation();
  const [c, s] = [Math.cos(radians(OPEN)), Math.sin(radians(OPEN))];
  return [1, 0, 0, 0, 0, c, s, 0, 0, -s, c, 0, 0, -(c * ty - s * tz), -(s * ty + c * tz), 1];
}

function primitiveOf(document: Document, mesh: Mesh, material: Material): Primitive {
  const [buffer] = document.getRoot().listBuffers();
  const accessor = (type: 'SCALAR' | 'VEC2' | 'VEC3', array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  return document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', mesh.positions))
    .setAttribute('NORMAL', accessor('VEC3', mesh.normals))
    .setAttribute('TEXCOORD_0', accessor('VEC2', mesh.uvs))
    .setIndices(accessor('SCALAR', mesh.indices))
    .setMaterial(material);
}

function animate(document: Document, name: string, node: Node, times: number[], turns: number[][]): void {
  const [buffer] = document.getRoot().listBuffers();
  const input = document.createAccessor().setType('SCALAR').setArray(Float32Array.from(times)).setBuffer(buffer);
  const output = document.createAccessor().setType('VEC4').setArray(Float32Array.from(turns.flat())).setBuffer(buffer);
  const sampler = document.createAnimationSampler().setInput(input).setOutput(output);
  const channel = document.createAnimationChannel().setTargetNode(node).setTargetPath('rotation').setSampler(sampler);
  document.createAnimation(name).addSampler(sampler).addChannel(channel);
}
