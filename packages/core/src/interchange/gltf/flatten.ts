import type { Document, Material, Mesh as GltfMesh, Node, Primitive, Texture, TextureInfo } from '@gltf-transform/core';
import type {
  Anisotropy,
  Clearcoat,
  EmissiveStrength,
  InstancedMesh,
  IOR,
  Iridescence,
  PBRSpecularGlossiness,
  Sheen,
  Specular,
  Transform,
  Transmission,
  Visibility,
  Volume,
} from '@gltf-transform/extensions';
import { convertPrimitiveToTriangles } from '@gltf-transform/functions';
import { mat4, type quat, type vec3 } from 'gl-matrix';
import {
  identity,
  mergeMeshes,
  morphed,
  moveByJoints,
  multiply,
  smoothNormals,
  transformMesh,
  type Mat4,
  type Mesh,
  type MeshRig,
} from '../../geometry/index.ts';
import { makeFinish, type Finish, type TextureSlot, type TextureUse, type TextureWrap } from '../../finish/index.ts';
import { checkCount } from '../limits.ts';
import type { Model } from '../model.ts';
import type { LeftOut } from '../readers/index.ts';
import { baseOf, RigReader } from './read-rig.ts';
import { fileCamera, fileLight, type FileCamera, type FileLight } from './file-lights.ts';

const WRAP: Record<number, TextureWrap> = { 10497: 'repeat', 33648: 'mirror', 33071: 'clamp' };
/** Modes of primitives, as WebGL numbers them. */
const POINTS = 0;
const LINE_KINDS = [1, 2, 3];
const TRIANGLES = 4;

/** What a document's default scene holds. */
export interface FlatScene {
  model: Model;
  leftOut: LeftOut;
  lights: FileLight[];
  cameras: FileCamera[];
}

/**
 * Flattens a document's default scene as it stands: node transforms applied, skins and morph targets at their pose,
 * instances expanded, hidden nodes left out, normals made where missing.
 */
export function flatten(document: Document, fileName: string): FlatScene {
  const root = document.getRoot();
  const flattener = new Flattener(document, fileName);
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  scene?.listChildren().forEach((node) => flattener.measure(node, identity()));
  scene?.listChildren().forEach((node) => flattener.visit(node));
  return flattener.flat;
}

class Flattener {
  readonly flat: FlatScene;
  private readonly materials: Material[];
  private readonly worlds = new Map<Node, Mat4>();
  private readonly rigs: RigReader;
  private plain = -1;
  private triangles = 0;

  constructor(
    document: Document,
    private readonly fileName: string,
  ) {
    this.rigs = new RigReader(document);
    const root = document.getRoot();
    const textures = root.listTextures();
    this.materials = root.listMaterials();
    const model: Model = {
      parts: [],
      finishes: this.materials.map((m, i) => finishOf(m, textures, i)),
      images: textures.map((t, i) => ({
        name: t.getName() || `Image ${i + 1}`,
        mimeType: t.getMimeType(),
        bytes: t.getImage() ?? new Uint8Array(),
      })),
    };
    this.flat = { model, leftOut: { points: 0, lines: 0 }, lights: [], cameras: [] };
  }

  /** Finds where every node is: joints may lie anywhere in the tree. */
  measure(node: Node, parent: Mat4): void {
    const world = multiply(parent, [...node.getMatrix()]);
    this.worlds.set(node, world);
    node.listChildren().forEach((child) => this.measure(child, world));
  }

  visit(node: Node): void {
    if (node.getExtension<Visibility>('KHR_node_visibility')?.getVisible() === false) return;
    const world = this.worlds.get(node)!;
    const light = fileLight(node, world);
    if (light) this.flat.lights.push(light);
    const camera = fileCamera(node, world);
    if (camera) this.flat.cameras.push(camera);
    const mesh = node.getMesh();
    if (mesh) this.addMesh(node, mesh, world);
    node.listChildren().forEach((child) => this.visit(child));
  }

  private addMesh(node: Node, mesh: GltfMesh, world: Mat4): void {
    const { model } = this.flat;
    const primitives = mesh.listPrimitives().filter((primitive) => this.isSurface(primitive));
    const places = instancesOf(node, world);
    primitives.forEach((primitive, i) => {
      const made = meshOf(primitive, mesh, node, this.rigs, this.worlds);
      if (!made || made.mesh.indices.length === 0) return;
      this.triangles += (made.mesh.indices.length / 3) * places.length;
      checkCount(this.fileName, 'triangles', this.triangles);
      const placed = made.skinned ? [made.mesh] : places.map((place) => transformMesh(made.mesh, place));
      const rig = this.rigs.of(primitive, mesh, node);
      const whole = placed.length === 1 ? placed[0] : mergeMeshes(placed);
      // Instances that each deform are not followed: together they move as a whole.
      const { base: _base, ...rigid } = rig ?? {};
      const own = rig && placed.length > 1 ? (rigid as MeshRig) : rig;
      const base = node.getName() || mesh.getName() || `Part ${model.parts.length + 1}`;
      model.parts.push({
        name: primitives.length > 1 ? `${base} ${i + 1}` : base,
        mesh: own ? { ...whole, rig: own } : whole,
        finish: this.finishIndex(primitive.getMaterial()),
      });
      checkCount(this.fileName, 'parts', model.parts.length);
    });
  }

  /** Strips and fans become triangles; points and lines are counted. */
  private isSurface(primitive: Primitive): boolean {
    const mode = primitive.getMode();
    const count = (primitive.getIndices() ?? primitive.getAttribute('POSITION'))?.getCount() ?? 0;
    if (mode === POINTS) this.flat.leftOut.points += count;
    else if (LINE_KINDS.includes(mode)) this.flat.leftOut.lines += mode === 1 ? count >> 1 : Math.max(0, count - 1);
    else {
      if (mode !== TRIANGLES) convertPrimitiveToTriangles(primitive);
      return true;
    }
    return false;
  }

  private finishIndex(material: Material | null): number {
    if (material) return this.materials.indexOf(material);
    const { finishes } = this.flat.model;
    if (this.plain < 0) this.plain = finishes.push(makeFinish('Plain', { roughness: 0.6 })) - 1;
    return this.plain;
  }
}

/** Where a node's mesh stands: once, or as often as its instances say (EXT_mesh_gpu_instancing). */
function instancesOf(node: Node, world: Mat4): Mat4[] {
  const instances = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
  if (!instances) return [world];
  const [translation, rotation, scale] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) =>
    instances.getAttribute(name),
  );
  const count = (translation ?? rotation ?? scale)?.getCount() ?? 0;
  return Array.from({ length: count }, (_, i) => {
    const place = mat4.fromRotationTranslationScale(
      identity() as mat4,
      (rotation?.getElement(i, []) ?? [0, 0, 0, 1]) as quat,
      (translation?.getElement(i, []) ?? [0, 0, 0]) as vec3,
      (scale?.getElement(i, []) ?? [1, 1, 1]) as vec3,
    );
    return multiply(world, [...place]);
  });
}

function meshOf(
  primitive: Primitive,
  owner: GltfMesh,
  node: Node,
  rigs: RigReader,
  worlds: ReadonlyMap<Node, Mat4>,
): { mesh: Mesh; skinned: boolean } | null {
  if (!primitive.getAttribute('POSITION')) return null;
  const shape = morphed(baseOf(primitive), node.getWeights().length > 0 ? node.getWeights() : owner.getWeights());
  const skin = rigs.skinOf(primitive, node);
  if (skin) moveByJoints(shape, skin, rigs.worlds(worlds));
  const { positions } = shape;
  const count = positions.length / 3;
  const source = primitive.getIndices();
  const indices = source ? Uint32Array.from(source.getArray()!) : Uint32Array.from({ length: count }, (_, i) => i);
  const uvSet = primitive.getMaterial()?.getBaseColorTextureInfo()?.getTexCoord() ?? 0;
  const whole = indices.subarray(0, indices.length - (indices.length % 3));
  const mesh: Mesh = {
    positions,
    normals: shape.normals ?? smoothNormals(positions, whole.every((i) => i < count) ? whole : new Uint32Array(0)),
    uvs:
      floatsOf(primitive, `TEXCOORD_${uvSet}`, 2) ??
      floatsOf(primitive, 'TEXCOORD_0', 2) ??
      new Float32Array(count * 2),
    indices: whole,
    colors: floatsOf(primitive, 'COLOR_0', 4),
    tangents: shape.tangents,
  };
  return { mesh, skinned: skin !== null };
}

/** An attribute's numbers, `size` a vertex, of its own; the fourth is 1 where the file has three. */
function floatsOf(primitive: Primitive, semantic: string, size: number): Float32Array | undefined {
  const accessor = primitive.getAttribute(semantic);
  if (!accessor) return undefined;
  const array = accessor.getArray();
  if (array instanceof Float32Array && accessor.getElementSize() === size) return new Float32Array(array);
  const out = new Float32Array(accessor.getCount() * size);
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    for (let c = 0; c < size; c++) out[i * size + c] = c < accessor.getElementSize() ? element[c] : 1;
  }
  return out;
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
  const glossiness = material.getExtension<PBRSpecularGlossiness>('KHR_materials_pbrSpecularGlossiness');
  if (glossiness) {
    Object.assign(values, metallicOf(glossiness));
    use('baseColor', glossiness.getDiffuseTexture(), glossiness.getDiffuseTextureInfo());
  }
  values.unlit = material.getExtension('KHR_materials_unlit') !== null;
  return makeFinish(material.getName() || `Finish ${index + 1}`, values);
}

/** The older specular-glossiness look in the terms of metallic and roughness: a strong reflection is a metal's. */
function metallicOf(look: PBRSpecularGlossiness): Partial<Finish> {
  const specular = [...look.getSpecularFactor()] as Finish['baseColor'];
  const metallic = Math.max(...specular) > 0.25;
  return {
    metallic: metallic ? 1 : 0,
    baseColor: metallic ? specular : (look.getDiffuseFactor().slice(0, 3) as Finish['baseColor']),
    alpha: look.getDiffuseFactor()[3],
    roughness: 1 - look.getGlossinessFactor(),
  };
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
