import { Document, NodeIO, type Material } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import draco3d from 'draco3dgltf';
import { MeshoptDecoder, MeshoptEncoder } from 'meshoptimizer';
import type { GeometryDecoders } from '@tender-orbit/core/interchange';

/** glTF files for tests, made here so that every property of theirs is known. */
export async function decoders(): Promise<GeometryDecoders> {
  await MeshoptDecoder.ready;
  return { draco: await draco3d.createDecoderModule(), meshopt: MeshoptDecoder };
}

/** Reads and writes with every extension and encoder. */
export async function testIo(): Promise<NodeIO> {
  await MeshoptEncoder.ready;
  return new NodeIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({
    'draco3d.decoder': await draco3d.createDecoderModule(),
    'draco3d.encoder': await draco3d.createEncoderModule(),
    'meshopt.decoder': MeshoptDecoder,
    'meshopt.encoder': MeshoptEncoder,
  });
}

/** A 1 x 1 PNG, red. */
export const RED_PNG = Uint8Array.from(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGP4z8DwHwAFAAH/iZk9HQAAAABJRU5ErkJggg==',
    'base64',
  ),
);

export interface QuadOptions {
  /** Cells along a side; more make something to compress. */
  cells?: number;
  normals?: boolean;
  edit?: (document: Document, material: Material) => void;
}

/** A flat square 2 x 2 in x and y, its node turned and lifted, with a named material. */
export function quadDocument({ cells = 1, normals = true, edit }: QuadOptions = {}): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const side = cells + 1;
  const position = new Float32Array(side * side * 3);
  const normal = new Float32Array(side * side * 3);
  const uv = new Float32Array(side * side * 2);
  for (let j = 0; j < side; j++) {
    for (let i = 0; i < side; i++) {
      const at = j * side + i;
      position.set([(i / cells) * 2 - 1, (j / cells) * 2 - 1, 0], at * 3);
      normal.set([0, 0, 1], at * 3);
      uv.set([i / cells, 1 - j / cells], at * 2);
    }
  }
  const indices: number[] = [];
  for (let j = 0; j < cells; j++) {
    for (let i = 0; i < cells; i++) {
      const a = j * side + i;
      indices.push(a, a + 1, a + side + 1, a, a + side + 1, a + side);
    }
  }
  const accessor = (type: 'VEC2' | 'VEC3' | 'SCALAR', array: Float32Array | Uint16Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const material = document
    .createMaterial('Paper')
    .setBaseColorFactor([0.5, 0.25, 0.125, 1])
    .setRoughnessFactor(0.7)
    .setMetallicFactor(0);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', position))
    .setAttribute('TEXCOORD_0', accessor('VEC2', uv))
    .setIndices(accessor('SCALAR', Uint16Array.from(indices)))
    .setMaterial(material);
  if (normals) primitive.setAttribute('NORMAL', accessor('VEC3', normal));
  const node = document
    .createNode('Quad')
    .setMesh(document.createMesh('Quad').addPrimitive(primitive))
    .setTranslation([0, 3, 0]);
  const parent = document.createNode('Turned').setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]).addChild(node);
  document.getRoot().setDefaultScene(document.createScene('Scene').addChild(parent));
  edit?.(document, material);
  return document;
}
