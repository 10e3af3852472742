import {
  WebIO,
  type Document,
  type Material,
  type Node,
  type Primitive,
  type Texture,
  type TextureInfo,
} from '@gltf-transform/core';
import {
  ALL_EXTENSIONS,
  type Anisotropy,
  type Clearcoat,
  type EmissiveStrength,
  type IOR,
  type Iridescence,
  type Sheen,
  type Specular,
  type Transform,
  type Transmission,
  type Volume,
} from '@gltf-transform/extensions';
import { identity, multiply, smoothNormals, transformMesh, type Mat4, type Mesh } from '../geometry/index.ts';
import { makeFinish, type Finish, type TextureSlot, type TextureUse, type TextureWrap } from '../finish/index.ts';
import type { Model } from './model.ts';

const TRIANGLES = 4;
const WRAP: Record<number, TextureWrap> = { 10497: 'repeat', 33648: 'mirror', 33071: 'clamp' };

/**
 * A model from the normalised GLB that importModel() wrote (uncompressed, triangles only): node transforms applied,
 * normals made where missing. Part and image numbers are stable: the same bytes give the same numbers.
 */
export async function readModel(glb: Uint8Array): Promise<Model> {
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
  return modelOf(await io.readBinary(glb));
}

/** Flattens a document's default scene. Skins are ignored: vertices stay in their bind pose. */
export function modelOf(document: Document): Model {
  const root = document.getRoot();
  const textures = root.listTextures();
  const materials = root.listMaterials();
  const finishes = materials.map((m, i) => finishOf(m, textures, i));
  const model: Model = {
    parts: [],
    finishes,
    images: textures.map((t, i) => ({
      name: t.getName() || `Image ${i + 1}`,
      mimeType: t.getMimeType(),
      bytes: t.getImage() ?? new Uint8Array(),
    })),
  };
  let plain = -1;
  const visit = (node: Node, parent: Mat4): void => {
    const world = multiply(parent, [...node.getMatrix()]);
    const mesh = node.getMesh();
    const primitives = mesh?.listPrimitives().filter((p) => p.getMode() === TRIANGLES) ?? [];
    primitives.forEach((primitive, i) => {
      const part = meshOf(primitive);
      if (!part || part.indices.length === 0) return;
      const material = primitive.getMaterial();
      if (!material && plain < 0) plain = finishes.push(makeFinish('Plain', { roughness: 0.6 })) - 1;
      const base = node.getName() || mesh?.getName() || `Part ${model.parts.length + 1}`;
      model.parts.push({
        name: primitives.length > 1 ? `${base} ${i + 1}` : base,
        mesh: transformMesh(part, world),
        finish: material ? materials.indexOf(material) : plain,
      });
    });
    node.listChildren().forEach((child) => visit(child, world));
  };
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  scene?.listChildren().forEach((node) => visit(node, identity()));
  return model;
}

function meshOf(primitive: Primitive): Mesh | null {
  const position = primitive.getAttribute('POSITION');
  if (!position) return null;
  const floats = (semantic: string, size: number): Float32Array | undefined => {
    const accessor = primitive.getAttribute(semantic);
    if (!accessor) return undefined;
    const out = new Float32Array(accessor.getCount() * size);
    const element: number[] = [];
    for (let i = 0; i < accessor.getCount(); i++) {
      accessor.getElement(i, element);
      for (let c = 0; c < size; c++) out[i * size + c] = c < accessor.getElementSize() ? element[c] : 1;
    }
    return out;
  };
  const positions = floats('POSITION', 3)!;
  const count = positions.length / 3;
  const source = primitive.getIndices();
  const indices = source ? Uint32Array.from(source.getArray()!) : Uint32Array.from({ length: count }, (_, i) => i);
  const uvSet = primitive.getMaterial()?.getBaseColorTextureInfo()?.getTexCoord() ?? 0;
  return {
    positions,
    normals: floats('NORMAL', 3) ?? smoothNormals(positions, indices),
    uvs: floats(`TEXCOORD_${uvSet}`, 2) ?? floats('TEXCOORD_0', 2) ?? new Float32Array(count * 2),
    indices: indices.subarray(0, indices.length - (indices.length % 3)),
    colors: floats('COLOR_0', 4),
    tangents: floats('TANGENT', 4),
  };
}

function finishOf(material: Material, images: Texture[], index: number): Finish {
  const textures: Finish['textures'] = {};
  const use = (slot: TextureSlot, texture: Texture | null, info: TextureInfo | null, strength = 1): void => {
    if (texture && info) textures[slot] = textureUse(images.indexOf(texture), info, strength);
  };
  use('baseColor', material.getBaseColorTexture(), material.getBaseColorTextureInfo());
  use('metallicRoughness', material.getMetallicRoughnessTexture(), material.getMetallicRoughnessTextureInfo());
  use('normal', material.getNormalTexture(), material.getNormalTextureInfo(), material.getNormalScale());
  use('emissive', material.getEmissiveTexture(), material.getEmissiveTextureInfo());
  const values: Partial<Finish> = {
    baseColor: material.getBaseColorFactor().slice(0, 3) as Finish['baseColor'],
    alpha: material.getAlpha(),
    alphaMode: material.getAlphaMode().toLowerCase() as Finish['alphaMode'],
    alphaCutoff: Math.min(1, material.getAlphaCutoff()),
    metallic: material.getMetallicFactor(),
    roughness: material.getRoughnessFactor(),
    emissive: [...material.getEmissiveFactor()],
    doubleSided: material.getDoubleSided(),
    textures,
  };
  const clearcoat = material.getExtension<Clearcoat>('KHR_materials_clearcoat');
  if (clearcoat) {
    Object.assign(values, {
      clearcoat: clearcoat.getClearcoatFactor(),
      clearcoatRoughness: clearcoat.getClearcoatRoughnessFactor(),
    });
    use('clearcoat', clearcoat.getClearcoatTexture(), clearcoat.getClearcoatTextureInfo());
  }
  const transmission = material.getExtension<Transmission>('KHR_materials_transmission');
  if (transmission) {
    values.transmission = transmission.getTransmissionFactor();
    use('transmission', transmission.getTransmissionTexture(), transmission.getTransmissionTextureInfo());
  }
  const ior = material.getExtension<IOR>('KHR_materials_ior');
  // An index of 0 is the standard's switch for the old specular-glossiness look; 1.5 is its nearest physical reading.
  if (ior) values.ior = ior.getIOR() >= 1 ? Math.min(4, ior.getIOR()) : 1.5;
  const volume = material.getExtension<Volume>('KHR_materials_volume');
  if (volume) {
    const distance = volume.getAttenuationDistance();
    Object.assign(values, {
      thickness: volume.getThicknessFactor(),
      attenuationColor: [...volume.getAttenuationColor()],
      attenuationDistance: Number.isFinite(distance) ? Math.min(1e6, distance) : 0,
    });
  }
  const specular = material.getExtension<Specular>('KHR_materials_specular');
  if (specular)
    Object.assign(values, {
      specular: specular.getSpecularFactor(),
      specularColor: [...specular.getSpecularColorFactor()],
    });
  const sheen = material.getExtension<Sheen>('KHR_materials_sheen');
  if (sheen)
    Object.assign(values, {
      sheenColor: [...sheen.getSheenColorFactor()],
      sheenRoughness: sheen.getSheenRoughnessFactor(),
    });
  const iridescence = material.getExtension<Iridescence>('KHR_materials_iridescence');
  if (iridescence) {
    Object.assign(values, {
      iridescence: iridescence.getIridescenceFactor(),
      iridescenceIor: iridescence.getIridescenceIOR(),
      iridescenceThickness: [
        iridescence.getIridescenceThicknessMinimum(),
        iridescence.getIridescenceThicknessMaximum(),
      ],
    });
  }
  const anisotropy = material.getExtension<Anisotropy>('KHR_materials_anisotropy');
  if (anisotropy) {
    Object.assign(values, {
      anisotropy: anisotropy.getAnisotropyStrength(),
      anisotropyRotation: anisotropy.getAnisotropyRotation(),
    });
  }
  const strength = material.getExtension<EmissiveStrength>('KHR_materials_emissive_strength');
  if (strength) values.emissiveStrength = strength.getEmissiveStrength();
  values.unlit = material.getExtension('KHR_materials_unlit') !== null;
  return makeFinish(material.getName() || `Finish ${index + 1}`, values);
}

function textureUse(image: number, info: TextureInfo, strength: number): TextureUse {
  const transform = info.getExtension<Transform>('KHR_texture_transform');
  return {
    image,
    strength,
    offset: transform ? ([...transform.getOffset()] as [number, number]) : [0, 0],
    rotation: transform?.getRotation() ?? 0,
    scale: transform ? ([...transform.getScale()] as [number, number]) : [1, 1],
    wrap: [WRAP[info.getWrapS()] ?? 'repeat', WRAP[info.getWrapT()] ?? 'repeat'],
  };
}
