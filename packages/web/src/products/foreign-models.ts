import type { BufferGeometry, Mesh as ThreeMesh } from 'three';
import { makeFinish, srgbToLinear, type Finish } from '@tender-orbit/core/finish';
import { smoothNormals, type Mesh } from '@tender-orbit/core/geometry';
import { writeModel, type Model, type ModelImage } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';

/** A file as the browser or a test has it. */
export interface NamedFile {
  name: string;
  arrayBuffer(): Promise<ArrayBuffer>;
}

/** What a model became, and what a person should know of it. */
export interface Converted {
  glb: Uint8Array;
  /** Sentences for the person: what was assumed. */
  notes: string[];
}

/** Files larger than this many metres across were surely drawn in millimetres. */
const LARGEST = 5;

/**
 * An OBJ (with its MTL and pictures), STL or PLY file as GLB. STL files stand on Z and are set upright; whatever is larger
 * than 5 m is taken to be in millimetres. Missing normals are made smooth.
 *
 * @param files everything that was dropped together. @throws Problem when the file holds no triangles.
 */
export async function toGlb(file: NamedFile, files: readonly NamedFile[]): Promise<Converted> {
  const kind = file.name.split('.').pop()!.toLowerCase();
  const notes: string[] = [];
  const bytes = await file.arrayBuffer();
  const model =
    kind === 'obj' ? await readObj(bytes, files, notes) : await readPlain(kind as 'stl' | 'ply', file.name, bytes);
  const parts = model.parts.filter((p) => p.mesh.indices.length > 0);
  if (parts.length === 0)
    throw new Problem('model/empty', `"${file.name}" holds no triangles: export it again as a mesh.`, file.name);
  if (kind === 'stl') {
    parts.forEach(({ mesh }) => [mesh.positions, mesh.normals].forEach(setUpright));
    notes.push('It was set upright from Z.');
  }
  const extent = extentOf(parts.map((p) => p.mesh));
  if (!Number.isFinite(extent))
    throw new Problem('model/broken', `"${file.name}" has points that are no numbers: export it again.`, file.name);
  if (extent > LARGEST) {
    for (const { mesh } of parts) for (let i = 0; i < mesh.positions.length; i++) mesh.positions[i] /= 1000;
    notes.push('Its numbers were taken as millimetres.');
  }
  return { glb: await writeModel({ ...model, parts }), notes };
}

async function readPlain(kind: 'stl' | 'ply', name: string, bytes: ArrayBuffer): Promise<Model> {
  const geometry = await parse(kind, name, bytes);
  const mesh = await meshOf(geometry);
  const finish = makeFinish('Surface', { roughness: 0.5, baseColor: mesh.colors ? [1, 1, 1] : [0.6, 0.6, 0.6] });
  return { parts: [{ name: name.replace(/\.\w+$/, ''), mesh, finish: 0 }], finishes: [finish], images: [] };
}

async function parse(kind: 'stl' | 'ply', name: string, bytes: ArrayBuffer): Promise<BufferGeometry> {
  try {
    if (kind === 'ply') {
      const { PLYLoader } = await import('three/examples/jsm/loaders/PLYLoader.js');
      return new PLYLoader().parse(bytes);
    }
    const { STLLoader } = await import('three/examples/jsm/loaders/STLLoader.js');
    return new STLLoader().parse(bytes);
  } catch (error) {
    throw new Problem('model/broken', `"${name}" cannot be read (${(error as Error).message}): export it again.`, name);
  }
}

async function readObj(bytes: ArrayBuffer, files: readonly NamedFile[], notes: string[]): Promise<Model> {
  const { OBJLoader } = await import('three/examples/jsm/loaders/OBJLoader.js');
  const text = new TextDecoder().decode(bytes);
  const library = await readMtl(text, files, notes);
  const object = new OBJLoader().parse(text);
  const model: Model = { parts: [], finishes: [], images: library.images };
  const known = new Map<string, number>();
  const finishOf = (name: string): number => {
    if (!known.has(name)) {
      known.set(name, model.finishes.length);
      model.finishes.push(library.finishes.get(name) ?? makeFinish(name || 'Surface', { baseColor: [0.6, 0.6, 0.6] }));
    }
    return known.get(name)!;
  };
  for (const child of object.children as ThreeMesh[]) {
    if (!child.isMesh) continue;
    const materials = [child.material].flat();
    const groups = child.geometry.groups.length > 0 ? child.geometry.groups : [{ start: 0, count: Infinity }];
    for (const { start, count, materialIndex = 0 } of groups as Array<{
      start: number;
      count: number;
      materialIndex?: number;
    }>) {
      const mesh = await meshOf(child.geometry, start, count);
      const finish = materials[materialIndex]?.name ?? '';
      const name = groups.length > 1 ? `${child.name} ${finish}` : child.name;
      model.parts.push({ name: name.trim() || 'Part', mesh, finish: finishOf(finish) });
    }
  }
  return model;
}

interface Library {
  finishes: Map<string, Finish>;
  images: ModelImage[];
}

/** Finishes of the OBJ's MTL files, with their pictures, as far as those were dropped with it. */
async function readMtl(obj: string, files: readonly NamedFile[], notes: string[]): Promise<Library> {
  const library: Library = { finishes: new Map(), images: [] };
  const base = (path: string): string => path.trim().split(/[\\/]/).pop()!;
  const find = (path: string): NamedFile | undefined => files.find((f) => f.name === base(path));
  const named = [...obj.matchAll(/^mtllib\s+(.+)$/gm)].map(([, name]) => name);
  for (const name of named) {
    const file = find(name);
    if (!file) {
      notes.push(`"${base(name)}" was not with it: its finishes are plain.`);
      continue;
    }
    const { MTLLoader } = await import('three/examples/jsm/loaders/MTLLoader.js');
    const { materialsInfo } = new MTLLoader().parse(new TextDecoder().decode(await file.arrayBuffer()), '');
    for (const [material, info] of Object.entries(materialsInfo)) {
      const values = info as Record<string, unknown>;
      const finish = finishFrom(material, values);
      const picture = typeof values.map_kd === 'string' ? values.map_kd.split(/\s+/).pop()! : '';
      if (picture) await addPicture(finish, picture, find(picture), library.images, notes);
      library.finishes.set(material, finish);
    }
  }
  return library;
}

const MIME: Record<string, string> = { png: 'image/png', jpg: 'image/jpeg', jpeg: 'image/jpeg', webp: 'image/webp' };

async function addPicture(
  finish: Finish,
  path: string,
  file: NamedFile | undefined,
  images: ModelImage[],
  notes: string[],
): Promise<void> {
  const mimeType = MIME[path.split('.').pop()!.toLowerCase()];
  if (!file || !mimeType) {
    notes.push(`The picture "${path}" was ${file ? 'of a kind that is not read' : 'not with it'}.`);
    return;
  }
  finish.textures.baseColor = {
    ...{ image: images.length, offset: [0, 0], rotation: 0, scale: [1, 1], strength: 1, wrap: ['repeat', 'repeat'] },
  };
  images.push({ name: file.name, mimeType, bytes: new Uint8Array(await file.arrayBuffer()) });
}

/** A material of the Wavefront library as a finish: its Phong exponent as roughness, or the PBR extension's own values. */
function finishFrom(name: string, values: Record<string, unknown>): Finish {
  const number = (key: string): number | undefined =>
    values[key] === undefined ? undefined : Number(String(values[key]).split(/\s+/)[0]);
  const colour = (values.kd as number[] | undefined)?.map((v) => srgbToLinear(Number(v))) ?? [0.6, 0.6, 0.6];
  const exponent = number('ns');
  const alpha = number('d') ?? 1 - (number('tr') ?? 0);
  return makeFinish(name, {
    baseColor: colour as [number, number, number],
    roughness: number('pr') ?? (exponent === undefined ? 0.5 : Math.sqrt(2 / (exponent + 2))),
    metallic: number('pm') ?? 0,
    alpha,
    alphaMode: alpha < 1 ? 'blend' : 'opaque',
  });
}

/** Vertices `start` to `start + count` of a geometry as a mesh; equal corners become one vertex. */
async function meshOf(geometry: BufferGeometry, start = 0, count = Infinity): Promise<Mesh> {
  const { mergeVertices } = await import('three/examples/jsm/utils/BufferGeometryUtils.js');
  const { BufferAttribute, BufferGeometry: Geometry } = await import('three');
  const flat = geometry.index ? geometry.toNonIndexed() : geometry;
  const end = Math.min(flat.attributes.position?.count ?? 0, start + count);
  const part = new Geometry();
  for (const name of ['position', 'normal', 'uv', 'color']) {
    const from = flat.attributes[name];
    if (!from) continue;
    // Whole numbers are kept as shares of their range.
    const values = new Float32Array(Math.max(0, end - start) * from.itemSize);
    for (let i = start; i < end; i++)
      for (let c = 0; c < from.itemSize; c++) values[(i - start) * from.itemSize + c] = from.getComponent(i, c);
    part.setAttribute(name, new BufferAttribute(values, from.itemSize));
  }
  const merged = end > start ? mergeVertices(part, 1e-9) : part;
  const array = (name: string): Float32Array | undefined => merged.attributes[name]?.array as Float32Array | undefined;
  const positions = array('position') ?? new Float32Array(0);
  const indices = Uint32Array.from(merged.index?.array ?? []);
  const rgb = array('color');
  return {
    positions,
    indices,
    normals: array('normal') ?? smoothNormals(positions, indices),
    uvs: array('uv') ?? new Float32Array((positions.length / 3) * 2),
    ...(rgb && {
      colors: Float32Array.from({ length: (positions.length / 3) * 4 }, (_, i) =>
        i % 4 === 3 ? 1 : rgb[(i >> 2) * 3 + (i % 4)],
      ),
    }),
  };
}

/** Z up to Y up. */
function setUpright(vectors: Float32Array): void {
  for (let i = 0; i < vectors.length; i += 3) {
    const y = vectors[i + 1];
    vectors[i + 1] = vectors[i + 2];
    vectors[i + 2] = -y;
  }
}

function extentOf(meshes: readonly Mesh[]): number {
  const [min, max] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const { positions } of meshes) {
    for (let i = 0; i < positions.length; i++) {
      min[i % 3] = Math.min(min[i % 3], positions[i]);
      max[i % 3] = Math.max(max[i % 3], positions[i]);
    }
  }
  return Math.max(...max.map((v, a) => v - min[a]));
}
