import { buildSweep, transformMesh, identity, type Mat4, type Mesh } from '@tender-orbit/core/geometry';
import { clayFinish, type Finish, type TextureUse } from '@tender-orbit/core/finish';
import { srgbD65Luminance, studioPanorama } from '@tender-orbit/core/light';
import type { Tableau } from '@tender-orbit/core/scene';
import { buildBvh } from './build-bvh.ts';
import { LIGHT, MATERIAL, TEXTURE, type PackedScene } from './layout.ts';

/** RGBA bytes, rows from the top, not premultiplied. */
export interface DecodedImage {
  width: number;
  height: number;
  data: Uint8Array | Uint8ClampedArray;
}

/** What the tracer needs of a model besides its finishes, which the tableau carries. */
export interface ModelData {
  meshes: readonly Mesh[];
  images: readonly DecodedImage[];
}

interface Piece {
  mesh: Mesh;
  material: number;
  thing: number;
}

/**
 * A tableau as flat arrays. `clay` gives every surface the one neutral finish.
 * Instances are flattened into world space; the hierarchy is built over all triangles.
 */
export function packScene(
  tableau: Tableau,
  models: ReadonlyMap<string, ModelData>,
  options: { clay?: boolean } = {},
): PackedScene {
  const texturePool = new TexturePool();
  const materials: number[][] = [];
  const pieces: Piece[] = [];
  const clay = options.clay ? clayFinish() : null;
  const addMaterial = (finish: Finish, images: readonly DecodedImage[], key: string): number => {
    materials.push(packMaterial(clay ?? finish, images, key, texturePool));
    return materials.length - 1;
  };
  tableau.surfaces.forEach((surface, thing) => {
    if (surface.shape.kind !== 'sweep') return;
    pieces.push({ mesh: buildSweep(surface.shape), material: addMaterial(surface.finish, [], surface.id), thing });
  });
  tableau.instances.forEach((instance, i) => {
    const model = models.get(instance.model);
    if (!model) return;
    const byFinish = new Map<Finish, number>();
    for (const part of instance.parts) {
      if (!byFinish.has(part.finish)) byFinish.set(part.finish, addMaterial(part.finish, model.images, instance.model));
      pieces.push({
        mesh: transformMesh(model.meshes[part.index], instance.matrix),
        material: byFinish.get(part.finish)!,
        thing: tableau.surfaces.length + i,
      });
    }
  });
  return {
    ...packTriangles(pieces),
    materials: Float32Array.from(materials.flat()),
    ...texturePool.pack(),
    ...packLighting(tableau),
  };
}

function packLighting(
  tableau: Tableau,
): ReturnType<typeof packEnvironment> & Pick<PackedScene, 'lights' | 'camera' | 'seed'> {
  return {
    lights: packLights(tableau, tableau.surfaces.length + tableau.instances.length),
    ...packEnvironment(tableau),
    camera: packCamera(tableau),
    seed: tableau.seed,
  };
}

type Triangles = Pick<
  PackedScene,
  'triangles' | 'normals' | 'uvs' | 'colors' | 'triangleMaterial' | 'triangleThing' | 'nodes'
>;

function packTriangles(pieces: Piece[]): Triangles {
  const count = pieces.reduce((n, p) => n + p.mesh.indices.length / 3, 0);
  const source = { piece: new Uint32Array(count), first: new Uint32Array(count) };
  const boxes = new Float32Array(count * 6);
  let t = 0;
  pieces.forEach(({ mesh }, piece) => {
    for (let first = 0; first < mesh.indices.length; first += 3, t++) {
      source.piece[t] = piece;
      source.first[t] = first;
      for (let a = 0; a < 3; a++) {
        const v0 = mesh.positions[mesh.indices[first] * 3 + a];
        const v1 = mesh.positions[mesh.indices[first + 1] * 3 + a];
        const v2 = mesh.positions[mesh.indices[first + 2] * 3 + a];
        boxes[t * 6 + a] = Math.min(v0, v1, v2);
        boxes[t * 6 + 3 + a] = Math.max(v0, v1, v2);
      }
    }
  });
  const { nodes, order } = buildBvh(boxes);
  const coloured = pieces.some((p) => p.mesh.colors);
  const out: Triangles = {
    nodes,
    triangles: new Float32Array(count * 9),
    normals: new Float32Array(count * 9),
    uvs: new Float32Array(count * 6),
    colors: new Float32Array(coloured ? count * 12 : 0).fill(1),
    triangleMaterial: new Uint16Array(count),
    triangleThing: new Uint16Array(count),
  };
  for (let i = 0; i < count; i++) {
    const piece = pieces[source.piece[order[i]]];
    const first = source.first[order[i]];
    const { positions, normals, uvs, colors, indices } = piece.mesh;
    for (let k = 0; k < 3; k++) {
      const v = indices[first + k];
      for (let a = 0; a < 3; a++) {
        const origin = k === 0 ? 0 : positions[indices[first] * 3 + a];
        out.triangles[i * 9 + k * 3 + a] = positions[v * 3 + a] - origin;
        out.normals[i * 9 + k * 3 + a] = normals[v * 3 + a];
      }
      out.uvs[i * 6 + k * 2] = uvs[v * 2];
      out.uvs[i * 6 + k * 2 + 1] = uvs[v * 2 + 1];
      if (colors) for (let c = 0; c < 4; c++) out.colors[i * 12 + k * 4 + c] = colors[v * 4 + c];
    }
    out.triangleMaterial[i] = piece.material;
    out.triangleThing[i] = piece.thing;
  }
  return out;
}

function packMaterial(finish: Finish, images: readonly DecodedImage[], key: string, pool: TexturePool): number[] {
  const m = new Array<number>(MATERIAL.stride).fill(0);
  const put = (at: number, values: readonly number[]): void => values.forEach((v, i) => (m[at + i] = v));
  put(MATERIAL.baseColor, finish.baseColor);
  m[MATERIAL.alpha] = finish.alpha;
  m[MATERIAL.metallic] = finish.metallic;
  m[MATERIAL.roughness] = finish.roughness;
  m[MATERIAL.ior] = finish.ior;
  m[MATERIAL.specular] = finish.specular;
  put(MATERIAL.specularColor, finish.specularColor);
  m[MATERIAL.transmission] = finish.transmission;
  m[MATERIAL.volume] = finish.thickness > 0 ? 1 : 0;
  if (finish.attenuationDistance > 0) {
    put(
      MATERIAL.absorption,
      finish.attenuationColor.map((c) => -Math.log(Math.max(1e-4, c)) / finish.attenuationDistance),
    );
    // A coloured filling inside a clear vessel is modelled slightly larger than the cavity; it wins the overlap.
    m[MATERIAL.priority] = 1;
  }
  m[MATERIAL.clearcoat] = finish.clearcoat;
  m[MATERIAL.clearcoatRoughness] = finish.clearcoatRoughness;
  put(
    MATERIAL.emission,
    finish.emissive.map((e) => e * finish.emissiveStrength),
  );
  m[MATERIAL.alphaMode] = ['opaque', 'mask', 'blend'].indexOf(finish.alphaMode);
  m[MATERIAL.alphaCutoff] = finish.alphaCutoff;
  const texture = (use: TextureUse | undefined, srgb: boolean): number =>
    use ? pool.add(key, use, images[use.image], srgb) : -1;
  m[MATERIAL.baseTexture] = texture(finish.textures.baseColor, true);
  m[MATERIAL.ormTexture] = texture(finish.textures.metallicRoughness, false);
  m[MATERIAL.normalTexture] = texture(finish.textures.normal, false);
  m[MATERIAL.normalStrength] = finish.textures.normal?.strength ?? 1;
  m[MATERIAL.emissiveTexture] = texture(finish.textures.emissive, true);
  m[MATERIAL.transmissionTexture] = texture(finish.textures.transmission, false);
  if (finish.unlit) makeUnlit(m);
  return m;
}

/** KHR_materials_unlit: the base colour with its art is shown as it is and reflects nothing. */
function makeUnlit(m: number[]): void {
  for (let c = 0; c < 3; c++) {
    m[MATERIAL.emission + c] = m[MATERIAL.baseColor + c];
    m[MATERIAL.baseColor + c] = 0;
  }
  m[MATERIAL.emissiveTexture] = m[MATERIAL.baseTexture];
  for (const part of [MATERIAL.metallic, MATERIAL.specular, MATERIAL.transmission, MATERIAL.clearcoat]) m[part] = 0;
}

/** Collects textures once each, however many finishes use them. */
class TexturePool {
  private readonly table: number[][] = [];
  private readonly pixels = new Map<DecodedImage, number>();
  private readonly known = new Map<string, number>();
  private size = 0;

  add(key: string, use: TextureUse, image: DecodedImage | undefined, srgb: boolean): number {
    if (!image) return -1;
    const name = JSON.stringify([key, use, srgb]);
    const existing = this.known.get(name);
    if (existing !== undefined) return existing;
    if (!this.pixels.has(image)) {
      this.pixels.set(image, this.size);
      this.size += image.width * image.height * 4;
    }
    const wrap = { repeat: TEXTURE.wrapRepeat, mirror: TEXTURE.wrapMirror, clamp: TEXTURE.wrapClamp };
    const c = Math.cos(use.rotation);
    const s = Math.sin(use.rotation);
    // KHR_texture_transform: offset + rotation * scale * uv, rotation counter-clockwise in a v-down space.
    const matrix = [
      c * use.scale[0],
      s * use.scale[1],
      use.offset[0],
      -s * use.scale[0],
      c * use.scale[1],
      use.offset[1],
    ];
    const bits = new Int32Array(Float32Array.from(matrix).buffer);
    this.table.push([
      this.pixels.get(image)!,
      image.width,
      image.height,
      wrap[use.wrap[0]],
      wrap[use.wrap[1]],
      srgb ? 1 : 0,
      ...bits,
    ]);
    this.known.set(name, this.table.length - 1);
    return this.table.length - 1;
  }

  pack(): Pick<PackedScene, 'textures' | 'texels'> {
    const texels = new Uint8Array(this.size);
    for (const [image, at] of this.pixels) texels.set(image.data, at);
    return { textures: Int32Array.from(this.table.flat()), texels };
  }
}

function packLights(tableau: Tableau, firstThing: number): Float32Array {
  const out = new Float32Array(tableau.lights.length * LIGHT.stride);
  tableau.lights.forEach((light, i) => {
    const m: Mat4 = light.matrix ?? identity();
    const at = i * LIGHT.stride;
    for (let a = 0; a < 3; a++) {
      out[at + a] = m[12 + a];
      out[at + LIGHT.u + a] = (m[a] * light.width) / 2;
      out[at + LIGHT.v + a] = (m[4 + a] * light.height) / 2;
      out[at + LIGHT.normal + a] = -m[8 + a];
      out[at + LIGHT.radiance + a] = light.radiance[a];
    }
    out[at + LIGHT.area] = light.width * light.height;
    out[at + LIGHT.seen] = light.seen ? 1 : 0;
    out[at + LIGHT.thing] = firstThing + i;
  });
  return out;
}

function packEnvironment(
  tableau: Tableau,
): Pick<
  PackedScene,
  'environment' | 'environmentWidth' | 'environmentHeight' | 'environmentCdf' | 'environmentRotation'
> {
  const { width, height, data } = studioPanorama();
  const environment = data.map((v) => v * tableau.environment.intensity);
  const cdf = new Float32Array(height + 1 + height * (width + 1));
  for (let row = 0; row < height; row++) {
    const weight = Math.sin(((row + 0.5) / height) * Math.PI);
    const at = height + 1 + row * (width + 1);
    let sum = 0;
    for (let column = 0; column < width; column++) {
      const p = (row * width + column) * 3;
      sum += srgbD65Luminance([environment[p], environment[p + 1], environment[p + 2]]);
      cdf[at + column + 1] = sum;
    }
    for (let column = 1; column <= width; column++) cdf[at + column] /= sum || 1;
    cdf[row + 1] = cdf[row] + sum * weight;
  }
  const total = cdf[height];
  for (let row = 1; row <= height; row++) cdf[row] /= total || 1;
  return {
    environment,
    environmentWidth: width,
    environmentHeight: height,
    environmentCdf: cdf,
    environmentRotation: tableau.environment.rotation,
  };
}

function packCamera(tableau: Tableau): Float32Array {
  const { matrix: m, verticalFov, aspect, apertureRadius, focusDistance } = tableau.camera;
  return Float32Array.from([
    ...[m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10], m[12], m[13], m[14]],
    ...[Math.tan(verticalFov / 2), aspect, apertureRadius, focusDistance],
  ]);
}
