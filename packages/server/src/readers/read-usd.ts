import { resolveObjectURL } from 'node:buffer';
import {
  Color,
  ImageLoader,
  Matrix3,
  Mesh as ThreeMesh,
  MeshPhysicalMaterial,
  RepeatWrapping,
  MirroredRepeatWrapping,
  Vector3,
  type BufferAttribute,
  type BufferGeometry,
  type Group,
  type InterleavedBufferAttribute,
  type Material,
  type Texture,
} from 'three';
import { unzipSync } from 'three/examples/jsm/libs/fflate.module.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import type { Finish, TextureSlot, TextureWrap } from '@tender-orbit/core/finish';
import { makeFinish } from '@tender-orbit/core/finish';
import { smoothNormals, type Mesh } from '@tender-orbit/core/geometry';
import {
  checkCount,
  MODEL_LIMITS,
  resourceNamed,
  type FoundModel,
  type Model,
  type Resources,
} from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';

/** Bytes that an archive may unpack to. */
const MOST_UNPACKED = 1024 ** 3;

/** What stands for a picture until its bytes are fetched: there is no picture element here. */
interface Pending {
  url: string;
  /** What an address of an archive's own picture stands for: it is let go of as soon as the picture is there. */
  blob?: Blob;
}

/**
 * A USD file - text, binary or a package of both - by three's reader: meshes, preview surfaces and their pictures.
 *
 * @throws Problem `model/...` that names the file.
 */
export async function readUsd(fileName: string, bytes: Uint8Array, resources: Resources): Promise<FoundModel> {
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) checkArchive(fileName, bytes);
  const group = await parsed(fileName, bytes);
  const model: Model = { parts: [], finishes: [], images: [] };
  const collector = new Collector(model, resources);
  const leftOut = { points: 0, lines: 0 };
  let triangles = 0;
  group.updateMatrixWorld(true);
  const meshes: ThreeMesh[] = [];
  group.traverse((node) => {
    const { isPoints, isLine } = node as { isPoints?: boolean; isLine?: boolean };
    const count = (node as ThreeMesh).geometry?.attributes?.position?.count ?? 0;
    if (isPoints) leftOut.points += count;
    else if (isLine) leftOut.lines += Math.max(0, count - 1);
    else if ((node as ThreeMesh).isMesh && node.visible) meshes.push(node as ThreeMesh);
  });
  for (const mesh of meshes) {
    const { geometry } = mesh;
    const total = geometry.index?.count ?? geometry.attributes.position?.count ?? 0;
    triangles += total / 3;
    checkCount(fileName, 'triangles', Math.ceil(triangles));
    const groups =
      Array.isArray(mesh.material) && geometry.groups.length > 0 ? geometry.groups : [{ start: 0, count: total }];
    for (const { start, count, materialIndex = 0 } of groups as Array<{
      start: number;
      count: number;
      materialIndex?: number;
    }>) {
      const material = [mesh.material].flat()[materialIndex];
      const name = groups.length > 1 && material?.name ? `${mesh.name} ${material.name}` : mesh.name;
      const part = placed(mesh, meshOf(geometry, start, Math.min(count, total - start)));
      model.parts.push({
        name: name || 'Part',
        mesh: part,
        finish: await collector.finish(material, part.colors !== undefined),
      });
      checkCount(fileName, 'parts', model.parts.length);
    }
  }
  return { model, notes: collector.notes, leftOut, metres: 1 };
}

/** Names and sizes of an archive's entries are read before any is unpacked. */
function checkArchive(fileName: string, bytes: Uint8Array): void {
  let total = 0;
  try {
    unzipSync(bytes, {
      filter: ({ originalSize }) => {
        total += originalSize;
        return false;
      },
    });
  } catch {
    throw unreadable(fileName);
  }
  if (total > MOST_UNPACKED)
    throw new Problem(
      'model/too-heavy',
      `"${fileName}" would unpack to ${Math.round(total / 1024 / 1024).toLocaleString('en')} MB: simplify it.`,
      fileName,
    );
}

async function parsed(fileName: string, bytes: Uint8Array): Promise<Group> {
  // Pictures are only named here; what they hold is fetched when a finish wears them.
  ImageLoader.prototype.load = function (url, onLoad) {
    const blob = url.startsWith('blob:') ? (resolveObjectURL(url) as Blob | undefined) : undefined;
    const picture = { url, blob } satisfies Pending as unknown as HTMLImageElement;
    queueMicrotask(() => onLoad?.(picture));
    return picture;
  };
  try {
    const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
    return await new Promise<Group>((done, fail) => {
      new USDLoader().parse(buffer, '', done, fail);
    });
  } catch {
    throw unreadable(fileName);
  }
}

function unreadable(fileName: string): Problem {
  return new Problem(
    'model/broken',
    `"${fileName}" could not be read as USD: export it again as .usdz with everything in it.`,
    fileName,
  );
}

type Attribute = BufferAttribute | InterleavedBufferAttribute;

/** The triangles of a stretch of a geometry, with only the vertices that they use. */
function meshOf({ index, attributes }: BufferGeometry, start: number, count: number): Mesh {
  const whole = Math.max(0, count - (count % 3));
  const known = new Map<number, number>();
  const used: number[] = [];
  const indices = new Uint32Array(whole);
  for (let i = 0; i < whole; i++) {
    const vertex = index ? index.getX(start + i) : start + i;
    let at = known.get(vertex);
    if (at === undefined) {
      known.set(vertex, (at = used.length));
      used.push(vertex);
    }
    indices[i] = at;
  }
  const pick = (attribute: Attribute | undefined, size: number, fill = 0): Float32Array | undefined => {
    if (!attribute) return undefined;
    const out = new Float32Array(used.length * size).fill(fill);
    for (const [i, vertex] of used.entries())
      for (let c = 0; c < Math.min(size, attribute.itemSize); c++)
        out[i * size + c] = attribute.getComponent(vertex, c);
    return out;
  };
  const positions = pick(attributes.position as Attribute, 3) ?? new Float32Array(0);
  const uvs = pick(attributes.uv as Attribute, 2) ?? new Float32Array(used.length * 2);
  // Rows of pictures count from the bottom there, from the top here.
  for (let i = 1; i < uvs.length; i += 2) uvs[i] = 1 - uvs[i];
  const colors = pick(attributes.color as Attribute, 4, 1);
  const normals = pick(attributes.normal as Attribute, 3) ?? smoothNormals(positions, indices);
  return { positions, normals, uvs, indices, ...(colors && { colors }) };
}

function placed(node: ThreeMesh, mesh: Mesh): Mesh {
  const turn = new Matrix3().getNormalMatrix(node.matrixWorld);
  const v = new Vector3();
  for (let i = 0; i < mesh.positions.length; i += 3) {
    v.fromArray(mesh.positions, i).applyMatrix4(node.matrixWorld).toArray(mesh.positions, i);
    v.fromArray(mesh.normals, i).applyMatrix3(turn).normalize().toArray(mesh.normals, i);
  }
  if (node.matrixWorld.determinant() < 0) {
    const { indices } = mesh;
    for (let t = 0; t < indices.length; t += 3) [indices[t + 1], indices[t + 2]] = [indices[t + 2], indices[t + 1]];
  }
  return mesh;
}

/** Makes finishes of three's materials, each once, with the pictures that they wear. */
class Collector {
  readonly notes: string[] = [];
  private readonly finishes = new Map<Material | undefined, number>();
  private readonly images = new Map<string, number>();

  constructor(
    private readonly model: Model,
    private readonly resources: Resources,
  ) {}

  async finish(material: Material | undefined, coloured: boolean): Promise<number> {
    const known = this.finishes.get(material);
    if (known !== undefined) return known;
    const finish =
      material instanceof MeshPhysicalMaterial ? finishOf(material) : makeFinish('Surface', { roughness: 0.5 });
    if (!(material instanceof MeshPhysicalMaterial) && !coloured) finish.baseColor = [0.6, 0.6, 0.6];
    if (material instanceof MeshPhysicalMaterial) {
      const { map, normalMap, emissiveMap, roughnessMap, metalnessMap } = material;
      await this.wear(finish, 'baseColor', map);
      await this.wear(finish, 'normal', normalMap, material.normalScale.x);
      await this.wear(finish, 'emissive', emissiveMap);
      if (roughnessMap && roughnessMap === metalnessMap) await this.wear(finish, 'metallicRoughness', roughnessMap);
      else if (roughnessMap || metalnessMap)
        this.notes.push(`Pictures of roughness and metal on "${finish.name}" were left out: they are apart.`);
    }
    const index = this.model.finishes.push(finish) - 1;
    this.finishes.set(material, index);
    return index;
  }

  private async wear(finish: Finish, slot: TextureSlot, texture: Texture | null, strength = 1): Promise<void> {
    const pending = texture?.image as Pending | undefined;
    if (!texture || !pending) return;
    let image = this.images.get(pending.url);
    if (image === undefined) {
      const bytes = await this.bytesOf(pending);
      if (!bytes || this.model.images.length >= MODEL_LIMITS.images) {
        this.notes.push(`A picture of "${finish.name}" was not with it.`);
        return;
      }
      const mimeType = bytes[0] === 0x89 ? 'image/png' : 'image/jpeg';
      image = this.model.images.push({ name: `${finish.name} ${slot}`, mimeType, bytes }) - 1;
      this.images.set(pending.url, image);
    }
    const { offset, repeat, rotation, wrapS, wrapT } = texture;
    const wrap = (mode: number): TextureWrap =>
      mode === RepeatWrapping ? 'repeat' : mode === MirroredRepeatWrapping ? 'mirror' : 'clamp';
    finish.textures[slot] = {
      ...{ image, strength, rotation, scale: [repeat.x, repeat.y], wrap: [wrap(wrapS), wrap(wrapT)] },
      offset: [offset.x, 1 - repeat.y - offset.y],
    };
  }

  private async bytesOf({ url, blob }: Pending): Promise<Uint8Array | null> {
    if (blob) return new Uint8Array(await blob.arrayBuffer());
    return resourceNamed(this.resources, url) ?? null;
  }
}

function finishOf(material: MeshPhysicalMaterial): Finish {
  const rgb = (colour: Color): Finish['baseColor'] => [colour.r, colour.g, colour.b];
  return makeFinish(material.name || 'Surface', {
    baseColor: rgb(material.color),
    roughness: material.roughness,
    metallic: material.metalness,
    alpha: material.opacity,
    alphaMode: material.alphaTest > 0 ? 'mask' : material.transparent && material.opacity < 1 ? 'blend' : 'opaque',
    alphaCutoff: material.alphaTest || 0.5,
    clearcoat: material.clearcoat,
    clearcoatRoughness: material.clearcoatRoughness,
    ior: Math.min(4, Math.max(1, material.ior)),
    emissive: rgb(material.emissive),
    emissiveStrength: material.emissiveIntensity,
    doubleSided: true,
  });
}
