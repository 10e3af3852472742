import { Document, WebIO, type Material } from '@gltf-transform/core';
import {
  ALL_EXTENSIONS,
  KHRMaterialsClearcoat,
  KHRMaterialsIOR,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsVolume,
} from '@gltf-transform/extensions';
import type { Finish } from '../finish/index.ts';
import type { Model } from './model.ts';

/**
 * A model as GLB (glTF 2.0). Writes base, metallic-roughness and normal textures and the clearcoat, transmission,
 * volume, ior, specular and sheen extensions; does not write iridescence, anisotropy or texture transforms.
 */
export async function writeModel(model: Model): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tender Orbit';
  const buffer = document.createBuffer();
  const scene = document.createScene('Product');
  const images = model.images.map((i) =>
    document.createTexture(i.name).setImage(new Uint8Array(i.bytes)).setMimeType(i.mimeType),
  );
  const materials = model.finishes.map((finish) => {
    const material = writeFinish(document, finish);
    const { baseColor, metallicRoughness, normal } = finish.textures;
    if (baseColor) material.setBaseColorTexture(images[baseColor.image]);
    if (metallicRoughness) material.setMetallicRoughnessTexture(images[metallicRoughness.image]);
    if (normal) material.setNormalTexture(images[normal.image]).setNormalScale(normal.strength);
    return material;
  });
  for (const part of model.parts) {
    const { positions, normals, uvs, indices, colors } = part.mesh;
    const attribute = (type: 'VEC2' | 'VEC3' | 'VEC4', array: Float32Array) =>
      document.createAccessor().setType(type).setArray(new Float32Array(array)).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', attribute('VEC3', positions))
      .setAttribute('NORMAL', attribute('VEC3', normals))
      .setAttribute('TEXCOORD_0', attribute('VEC2', uvs))
      .setIndices(document.createAccessor().setType('SCALAR').setArray(new Uint32Array(indices)).setBuffer(buffer))
      .setMaterial(materials[part.finish]);
    if (colors) primitive.setAttribute('COLOR_0', attribute('VEC4', colors));
    scene.addChild(document.createNode(part.name).setMesh(document.createMesh(part.name).addPrimitive(primitive)));
  }
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
}

function writeFinish(document: Document, finish: Finish): Material {
  const material = document
    .createMaterial(finish.name)
    .setBaseColorFactor([...finish.baseColor, finish.alpha])
    .setAlphaMode(finish.alphaMode.toUpperCase() as 'OPAQUE' | 'MASK' | 'BLEND')
    .setMetallicFactor(finish.metallic)
    .setRoughnessFactor(finish.roughness)
    .setDoubleSided(finish.doubleSided);
  if (finish.clearcoat > 0) {
    const coat = document.createExtension(KHRMaterialsClearcoat).createClearcoat();
    material.setExtension(
      'KHR_materials_clearcoat',
      coat.setClearcoatFactor(finish.clearcoat).setClearcoatRoughnessFactor(finish.clearcoatRoughness),
    );
  }
  if (finish.transmission > 0) {
    const transmission = document.createExtension(KHRMaterialsTransmission).createTransmission();
    material.setExtension('KHR_materials_transmission', transmission.setTransmissionFactor(finish.transmission));
    const volume = document.createExtension(KHRMaterialsVolume).createVolume().setThicknessFactor(finish.thickness);
    if (finish.attenuationDistance > 0)
      volume.setAttenuationColor(finish.attenuationColor).setAttenuationDistance(finish.attenuationDistance);
    material.setExtension('KHR_materials_volume', volume);
  }
  if (finish.ior !== 1.5)
    material.setExtension(
      'KHR_materials_ior',
      document.createExtension(KHRMaterialsIOR).createIOR().setIOR(finish.ior),
    );
  if (finish.specular !== 1) {
    const specular = document.createExtension(KHRMaterialsSpecular).createSpecular();
    material.setExtension('KHR_materials_specular', specular.setSpecularFactor(finish.specular));
  }
  if (finish.sheenColor.some((c) => c > 0)) {
    const sheen = document.createExtension(KHRMaterialsSheen).createSheen();
    material.setExtension(
      'KHR_materials_sheen',
      sheen.setSheenColorFactor(finish.sheenColor).setSheenRoughnessFactor(finish.sheenRoughness),
    );
  }
  return material;
}
