import { WebIO, type Document, type GLTF } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { convertPrimitiveToTriangles, dequantize, prune } from '@gltf-transform/functions';
import { Problem } from '../problem/index.ts';
import { boundsOf, boundsSize, triangleCount } from '../geometry/index.ts';
import { plainProduct, productFinishes, type ProductDocument } from '../document/index.ts';
import type { Model } from './model.ts';
import { modelOf } from './read-model.ts';

/** Decoders for compressed geometry, passed in because each host loads its WebAssembly in its own way. */
export interface GeometryDecoders {
  draco: unknown;
  meshopt: unknown;
}

export interface ImportedModel {
  /** Normalised GLB: no compression, no quantisation, no skins, animations or cameras. */
  glb: Uint8Array;
  model: Model;
  triangles: number;
}

export const MODEL_LIMITS = { triangles: 4_000_000, parts: 5000, images: 256 };

/** Encodings that only pack geometry; a normalised model has none of them. */
const PACKING = ['KHR_draco_mesh_compression', 'EXT_meshopt_compression', 'KHR_mesh_quantization'];
const POINTS_AND_LINES = new Set([0, 1, 2, 3]);
const TRIANGLES = 4;
const IMAGE_TYPES = new Set(['image/png', 'image/jpeg', 'image/webp']);

/**
 * Reads a .glb or .gltf (glTF 2.0) that a person brought and makes it ours. `resources` holds the files a .gltf
 * refers to, by the URI written in it.
 *
 * @throws Problem `model/...` in one sentence for anything that is not a usable model; the input is never changed.
 */
export async function importModel(
  fileName: string,
  bytes: Uint8Array,
  resources: Record<string, Uint8Array>,
  decoders: GeometryDecoders,
): Promise<ImportedModel> {
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({
    'draco3d.decoder': decoders.draco,
    'meshopt.decoder': decoders.meshopt,
  });
  let document: Document;
  try {
    document = await parse(io, fileName, bytes, resources);
    await normalise(document);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem(
      'model/broken',
      `"${fileName}" could not be read as glTF 2.0 (${reason(error)}): export it again and retry.`,
      fileName,
    );
  }
  const model = modelOf(document);
  const triangles = check(fileName, model);
  return { glb: await io.writeBinary(document), model, triangles };
}

async function parse(
  io: WebIO,
  fileName: string,
  bytes: Uint8Array,
  resources: Record<string, Uint8Array>,
): Promise<Document> {
  if (bytes.length >= 20 && bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46) {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    if (view.getUint32(4, true) !== 2) {
      throw new Problem(
        'model/version',
        `"${fileName}" is glTF version ${view.getUint32(4, true)}: export it as glTF 2.0.`,
        fileName,
      );
    }
    if (view.getUint32(8, true) > bytes.length) {
      throw new Problem(
        'model/cut-off',
        `"${fileName}" is cut off: ${bytes.length} of ${view.getUint32(8, true)} bytes are there. Copy it again.`,
        fileName,
      );
    }
    return io.readBinary(bytes);
  }
  let json: GLTF.IGLTF;
  try {
    json = JSON.parse(decodeUtf8(bytes)) as GLTF.IGLTF;
  } catch {
    throw new Problem('model/not-gltf', `"${fileName}" is not a glTF model: bring a .glb or .gltf file.`, fileName);
  }
  if (json?.asset?.version !== '2.0') {
    throw new Problem('model/version', `"${fileName}" is not glTF 2.0: export it as glTF 2.0.`, fileName);
  }
  const wanted = [...(json.buffers ?? []), ...(json.images ?? [])]
    .map((b) => b.uri)
    .filter((uri) => uri && !uri.startsWith('data:'));
  const missing = wanted.find((uri) => !resources[uri!]);
  if (missing) {
    throw new Problem(
      'model/missing-file',
      `"${fileName}" needs the file "${missing}": drop both together, or export one .glb.`,
      fileName,
    );
  }
  const files = Object.fromEntries(Object.entries(resources).map(([uri, data]) => [uri, new Uint8Array(data)]));
  return io.readJSON({ json, resources: files });
}

async function normalise(document: Document): Promise<void> {
  const root = document.getRoot();
  root.listAnimations().forEach((a) => a.dispose());
  root.listSkins().forEach((s) => s.dispose());
  root.listCameras().forEach((c) => c.dispose());
  for (const mesh of root.listMeshes()) {
    for (const primitive of mesh.listPrimitives()) {
      if (POINTS_AND_LINES.has(primitive.getMode())) primitive.dispose();
      else if (primitive.getMode() !== TRIANGLES) convertPrimitiveToTriangles(primitive);
      primitive.listTargets().forEach((target) => target.dispose());
    }
  }
  await document.transform(dequantize(), prune({ keepAttributes: true, keepLeaves: false, keepSolidTextures: true }));
  for (const extension of root.listExtensionsUsed()) {
    if (PACKING.includes(extension.extensionName)) extension.dispose();
  }
}

function check(fileName: string, model: Model): number {
  const triangles = model.parts.reduce((n, p) => n + triangleCount(p.mesh), 0);
  if (triangles === 0) {
    throw new Problem(
      'model/no-triangles',
      `"${fileName}" holds no triangles: export meshes, not curves or an empty scene.`,
      fileName,
    );
  }
  if (
    triangles > MODEL_LIMITS.triangles ||
    model.parts.length > MODEL_LIMITS.parts ||
    model.images.length > MODEL_LIMITS.images
  ) {
    throw new Problem(
      'model/too-heavy',
      `"${fileName}" has ${triangles} triangles in ${model.parts.length} parts with ${model.images.length} pictures; the limit is ${MODEL_LIMITS.triangles}, ${MODEL_LIMITS.parts} and ${MODEL_LIMITS.images}: simplify it.`,
      fileName,
    );
  }
  for (const part of model.parts) {
    const count = part.mesh.positions.length / 3;
    for (let i = 0; i < part.mesh.indices.length; i++) {
      if (part.mesh.indices[i] >= count) {
        throw new Problem(
          'model/bad-index',
          `Part "${part.name}" of "${fileName}" points at vertices that are not there: export it again.`,
          fileName,
        );
      }
    }
    if (!part.mesh.positions.every(Number.isFinite)) {
      throw new Problem(
        'model/bad-number',
        `Part "${part.name}" of "${fileName}" has a position that is not a number: export it again.`,
        fileName,
      );
    }
  }
  const image = model.images.find((i) => !IMAGE_TYPES.has(i.mimeType));
  if (image) {
    throw new Problem(
      'model/image-type',
      `Picture "${image.name}" in "${fileName}" is ${image.mimeType || 'of no known type'}: use PNG, JPEG or WebP.`,
      fileName,
    );
  }
  if (Math.max(...boundsSize(boundsOf(model.parts.map((p) => p.mesh)))) === 0) {
    throw new Problem('model/no-size', `"${fileName}" has no size: all of its points are in one place.`, fileName);
  }
  return triangles;
}

/** The product document an imported model starts with. Scale 1: glTF's unit is the metre. */
export function productOf(
  name: string,
  fileName: string,
  source: string,
  modelHash: string,
  model: Model,
): ProductDocument {
  const finishes = productFinishes(model.finishes.map((f) => ({ ...f, name: f.name.slice(0, 200) })));
  return {
    ...plainProduct(),
    version: 3,
    name: name.slice(0, 120),
    fileName: fileName.slice(0, 255),
    source,
    model: modelHash,
    scale: 1,
    extent: boundsSize(boundsOf(model.parts.map((p) => p.mesh))),
    parts: model.parts.map((p, index) => ({
      index,
      name: p.name.slice(0, 200),
      finish: finishes[p.finish].id,
      triangles: triangleCount(p.mesh),
      visible: true,
    })),
    finishes,
  };
}

function reason(error: unknown): string {
  const message = error instanceof Error ? error.message : String(error);
  return message.split('\n')[0].slice(0, 140) || 'unknown fault';
}

/** Core has no host objects, so UTF-8 is decoded here; malformed bytes become U+FFFD and then fail as JSON. */
function decodeUtf8(bytes: Uint8Array): string {
  const start = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  let out = '';
  const chunk: number[] = [];
  for (let i = start; i < bytes.length;) {
    const b = bytes[i++];
    let code = b;
    const extra = b >= 0xf0 ? 3 : b >= 0xe0 ? 2 : b >= 0xc0 ? 1 : 0;
    if (extra > 0) {
      code = b & (0x3f >> extra);
      for (let k = 0; k < extra; k++) code = (code << 6) | (bytes[i++] & 0x3f);
    } else if (b >= 0x80) code = 0xfffd;
    chunk.push(code > 0x10ffff ? 0xfffd : code);
    if (chunk.length >= 8192) out += String.fromCodePoint(...chunk.splice(0));
  }
  return out + String.fromCodePoint(...chunk);
}
