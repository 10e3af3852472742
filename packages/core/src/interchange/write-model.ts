import { Document, WebIO, type Material, type Primitive } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import type { Mesh } from '../geometry/index.ts';
import type { Model } from './model.ts';
import { storeRigs } from './rig-file.ts';
import { writeFinish } from './write-finish.ts';

/** A model as GLB (glTF 2.0) with its finishes and pictures. */
export async function writeModel(model: Model): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tender Orbit';
  document.createBuffer();
  const scene = document.createScene('Product');
  const images = model.images.map((i) =>
    document.createTexture(i.name).setImage(new Uint8Array(i.bytes)).setMimeType(i.mimeType),
  );
  const materials = model.finishes.map((finish) => writeFinish(document, finish, (use) => images[use.image] ?? null));
  for (const part of model.parts) {
    const primitive = writePrimitive(document, part.mesh, materials[part.finish]);
    scene.addChild(document.createNode(part.name).setMesh(document.createMesh(part.name).addPrimitive(primitive)));
  }
  storeRigs(
    document,
    model.parts.map(({ mesh }) => mesh),
  );
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
}

/** A mesh's triangles in the document's first buffer. */
export function writePrimitive(document: Document, mesh: Mesh, material: Material): Primitive {
  const { positions, normals, uvs, indices, colors, tangents } = mesh;
  const buffer = document.getRoot().listBuffers()[0];
  const attribute = (type: 'VEC2' | 'VEC3' | 'VEC4', array: Float32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', attribute('VEC3', positions))
    .setAttribute('NORMAL', attribute('VEC3', normals))
    .setAttribute('TEXCOORD_0', attribute('VEC2', uvs))
    .setIndices(
      document
        .createAccessor()
        .setType('SCALAR')
        .setArray(indices as Uint32Array<ArrayBuffer>)
        .setBuffer(buffer),
    )
    .setMaterial(material);
  if (colors) primitive.setAttribute('COLOR_0', attribute('VEC4', colors));
  if (tangents) primitive.setAttribute('TANGENT', attribute('VEC4', tangents));
  return primitive;
}
