import { TextureInfo, type Document, type ExtensionProperty, type Material, type Texture } from '@gltf-transform/core';
import {
  KHRMaterialsAnisotropy,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsIridescence,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMaterialsVolume,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import type { Finish, TextureUse } from '../finish/index.ts';

const WRAP = { repeat: 10497, mirror: 33648, clamp: 33071 } as const;

/** Finds the file's texture for a use of an image; none when it has no bytes. */
export type TextureLookup = (use: TextureUse) => Texture | null;

/** A finish as a glTF material with the ratified KHR extensions it needs; defaults are left out. */
export function writeFinish(document: Document, finish: Finish, texture: TextureLookup): Material {
  const material = document
    .createMaterial(finish.name)
    .setBaseColorFactor([...finish.baseColor, finish.alpha])
    .setAlphaMode(finish.alphaMode.toUpperCase() as 'OPAQUE' | 'MASK' | 'BLEND')
    .setMetallicFactor(finish.metallic)
    .setRoughnessFactor(finish.roughness)
    .setEmissiveFactor(finish.emissive.map((v) => Math.min(1, v)) as Finish['emissive'])
    .setDoubleSided(finish.doubleSided);
  if (finish.alphaMode === 'mask') material.setAlphaCutoff(finish.alphaCutoff);
  const put = (use: TextureUse | undefined, set: (t: Texture) => void, info: () => TextureInfo | null): void => {
    const image = use && texture(use);
    if (!image) return;
    set(image);
    placeTexture(document, info()!, use);
  };
  const { baseColor, metallicRoughness, normal, emissive } = finish.textures;
  put(
    baseColor,
    (t) => material.setBaseColorTexture(t),
    () => material.getBaseColorTextureInfo(),
  );
  put(
    metallicRoughness,
    (t) => material.setMetallicRoughnessTexture(t),
    () => material.getMetallicRoughnessTextureInfo(),
  );
  put(
    emissive,
    (t) => material.setEmissiveTexture(t),
    () => material.getEmissiveTextureInfo(),
  );
  put(
    normal,
    (t) => material.setNormalTexture(t).setNormalScale(normal!.strength),
    () => material.getNormalTextureInfo(),
  );
  extend(document, material, finish, put);
  return material;
}

type Put = (use: TextureUse | undefined, set: (t: Texture) => void, info: () => TextureInfo | null) => void;

function extend(document: Document, material: Material, finish: Finish, put: Put): void {
  const add = (name: string, property: ExtensionProperty): void => void material.setExtension(name, property);
  const { textures } = finish;
  if (finish.unlit) add('KHR_materials_unlit', document.createExtension(KHRMaterialsUnlit).createUnlit());
  if (finish.clearcoat > 0) {
    const coat = document.createExtension(KHRMaterialsClearcoat).createClearcoat();
    coat.setClearcoatFactor(finish.clearcoat).setClearcoatRoughnessFactor(finish.clearcoatRoughness);
    put(
      textures.clearcoat,
      (t) => coat.setClearcoatTexture(t),
      () => coat.getClearcoatTextureInfo(),
    );
    add('KHR_materials_clearcoat', coat);
  }
  if (finish.transmission > 0) {
    const transmission = document.createExtension(KHRMaterialsTransmission).createTransmission();
    transmission.setTransmissionFactor(finish.transmission);
    put(
      textures.transmission,
      (t) => transmission.setTransmissionTexture(t),
      () => transmission.getTransmissionTextureInfo(),
    );
    add('KHR_materials_transmission', transmission);
    const volume = document.createExtension(KHRMaterialsVolume).createVolume().setThicknessFactor(finish.thickness);
    if (finish.attenuationDistance > 0)
      volume.setAttenuationColor(finish.attenuationColor).setAttenuationDistance(finish.attenuationDistance);
    add('KHR_materials_volume', volume);
  }
  if (finish.ior !== 1.5)
    add('KHR_materials_ior', document.createExtension(KHRMaterialsIOR).createIOR().setIOR(finish.ior));
  if (finish.specular !== 1 || finish.specularColor.some((c) => c !== 1)) {
    const specular = document.createExtension(KHRMaterialsSpecular).createSpecular();
    specular.setSpecularFactor(finish.specular).setSpecularColorFactor(finish.specularColor);
    add('KHR_materials_specular', specular);
  }
  if (finish.sheenColor.some((c) => c > 0)) {
    const sheen = document.createExtension(KHRMaterialsSheen).createSheen();
    add(
      'KHR_materials_sheen',
      sheen.setSheenColorFactor(finish.sheenColor).setSheenRoughnessFactor(finish.sheenRoughness),
    );
  }
  if (finish.iridescence > 0) {
    const [least, most] = finish.iridescenceThickness;
    const film = document.createExtension(KHRMaterialsIridescence).createIridescence();
    film.setIridescenceFactor(finish.iridescence).setIridescenceIOR(finish.iridescenceIor);
    add('KHR_materials_iridescence', film.setIridescenceThicknessMinimum(least).setIridescenceThicknessMaximum(most));
  }
  if (finish.anisotropy > 0) {
    const brushed = document.createExtension(KHRMaterialsAnisotropy).createAnisotropy();
    brushed.setAnisotropyStrength(finish.anisotropy).setAnisotropyRotation(finish.anisotropyRotation);
    add('KHR_materials_anisotropy', brushed);
  }
  if (finish.emissiveStrength !== 1 && finish.emissive.some((c) => c > 0)) {
    const strength = document.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength();
    add('KHR_materials_emissive_strength', strength.setEmissiveStrength(finish.emissiveStrength));
  }
}

function placeTexture(document: Document, info: TextureInfo, use: TextureUse): void {
  info.setWrapS(WRAP[use.wrap[0]]).setWrapT(WRAP[use.wrap[1]]);
  const moved = use.offset.some((v) => v !== 0) || use.rotation !== 0 || use.scale.some((v) => v !== 1);
  if (!moved) return;
  const transform = document.createExtension(KHRTextureTransform).createTransform();
  transform.setOffset(use.offset).setRotation(use.rotation).setScale(use.scale);
  info.setExtension('KHR_texture_transform', transform);
}
