import { Logger, Verbosity, WebIO, type Document, type GLTF } from '@gltf-transform/core';
import { ALL_EXTENSIONS, KHRTextureBasisu } from '@gltf-transform/extensions';
import { Problem } from '../../problem/index.ts';
import { brokenModel, checkCount, cutOff } from '../limits.ts';
import { shortened, textOf } from '../../text/index.ts';
import { resourceNamed, type Resources } from '../readers/index.ts';

/** Decoders for compressed geometry, passed in because each host loads its WebAssembly in its own way. */
export interface GeometryDecoders {
  draco: unknown;
  meshopt: unknown;
}

const MAGIC = [0x67, 0x6c, 0x54, 0x46];
const CHUNK_JSON = 0x4e4f534a;
const CHUNK_BINARY = 0x004e4942;

/** Extensions that can be read. Supercompressed textures cannot: a file that offers another picture beside them gives that. */
const EXTENSIONS = ALL_EXTENSIONS.filter((extension) => extension !== (KHRTextureBasisu as unknown));

/** What does not change how a still model looks may be required by a file and is passed over all the same. */
const NOT_FOR_LOOKS =
  /^(EXT_mesh_features|EXT_instance_features|EXT_structural_metadata|EXT_feature_metadata|KHR_xmp(_json_ld)?|KHR_animation_pointer|KHR_node_visibility|KHR_node_selectability|KHR_node_hoverability|KHR_interactivity|KHR_audio_.*|KHR_physics_.*|KHR_implicit_shapes|KHR_mesh_primitive_restart)$/;

/** Looks that a newer file may ask for and that are read here in part. */
const OLDER_LOOKS = ['KHR_materials_pbrSpecularGlossiness'];

const COMPONENTS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
/** Numbers that all accessors of a file may hold together. */
const MOST_NUMBERS = 240_000_000;
/** Depth that a tree of nodes may have. */
const DEEPEST = 512;

/**
 * Reads a .glb or .gltf (glTF 2.0) as a document that can be edited. What it declares is checked before it is unpacked.
 *
 * @throws Problem `model/...` in one sentence.
 */
export async function parseGltf(
  fileName: string,
  bytes: Uint8Array,
  resources: Resources,
  decoders?: GeometryDecoders,
): Promise<Document> {
  const { json, binary } = isGlb(bytes)
    ? splitGlb(fileName, bytes)
    : { json: jsonOf(fileName, bytes), binary: undefined };
  checkVersion(fileName, json);
  checkDeclared(fileName, json);
  checkTree(fileName, json);
  honour(fileName, json);
  const files = filesOf(fileName, json, resources);
  if (binary) files['@glb.bin'] = binary;
  const io = new WebIO().registerExtensions(EXTENSIONS).setLogger(new Logger(Verbosity.SILENT));
  if (decoders) io.registerDependencies({ 'draco3d.decoder': decoders.draco, 'meshopt.decoder': decoders.meshopt });
  return io.readJSON({ json, resources: files });
}

function isGlb(bytes: Uint8Array): boolean {
  return bytes.length >= 12 && MAGIC.every((byte, i) => bytes[i] === byte);
}

interface Parts {
  json: GLTF.IGLTF;
  binary?: Uint8Array<ArrayBuffer>;
}

/** The chunks of a GLB: JSON first, then what the first buffer holds; chunks of other kinds are passed over. */
function splitGlb(fileName: string, bytes: Uint8Array): Parts {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const version = view.getUint32(4, true);
  if (version !== 2) {
    throw new Problem('model/version', `"${fileName}" is glTF version ${version}: export it as glTF 2.0.`, fileName);
  }
  const length = view.getUint32(8, true);
  if (length > bytes.length) throw cutOff(fileName, bytes.length, length);
  let json: GLTF.IGLTF | undefined;
  let binary: Uint8Array<ArrayBuffer> | undefined;
  for (let at = 12; at + 8 <= length;) {
    const size = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    if (at + 8 + size > bytes.length) throw cutOff(fileName, bytes.length, at + 8 + size);
    const chunk = bytes.subarray(at + 8, at + 8 + size);
    if (kind === CHUNK_JSON && !json) json = jsonOf(fileName, chunk);
    else if (kind === CHUNK_BINARY && !binary) binary = chunk as Uint8Array<ArrayBuffer>;
    at += 8 + size + ((4 - (size % 4)) % 4);
  }
  if (!json) throw brokenModel(fileName, 'glTF 2.0', 'it describes no scene');
  return { json, binary };
}

function jsonOf(fileName: string, bytes: Uint8Array): GLTF.IGLTF {
  try {
    const json: unknown = JSON.parse(textOf(bytes));
    if (typeof json === 'object' && json !== null && !Array.isArray(json)) return json as GLTF.IGLTF;
  } catch {
    // Said below: it is no JSON.
  }
  throw new Problem('model/not-gltf', `"${fileName}" is not a glTF model: bring a .glb or .gltf file.`, fileName);
}

function checkVersion(fileName: string, json: GLTF.IGLTF): void {
  if (json.asset?.version === '2.0') return;
  const newer = /^2\.\d+$/.test(String(json.asset?.version)) && (json.asset.minVersion ?? '2.0') === '2.0';
  if (!newer) throw new Problem('model/version', `"${fileName}" is not glTF 2.0: export it as glTF 2.0.`, fileName);
  json.asset.version = '2.0';
}

const list = <T>(value: T[] | undefined): T[] => (Array.isArray(value) ? value : []);

function checkDeclared(fileName: string, json: GLTF.IGLTF): void {
  checkCount(fileName, 'nodes', list(json.nodes).length);
  checkCount(fileName, 'images', list(json.images).length);
  const places = new Set<number>();
  for (const mesh of list(json.meshes)) for (const p of list(mesh?.primitives)) places.add(p?.attributes?.POSITION);
  let [vertices, numbers] = [0, 0];
  for (const [i, accessor] of list(json.accessors).entries()) {
    const count = Number(accessor?.count);
    if (!Number.isSafeInteger(count) || count < 0)
      throw brokenModel(fileName, 'glTF 2.0', `accessor ${i} has no whole count`);
    if (places.has(i)) vertices += count;
    numbers += count * (COMPONENTS[accessor.type] ?? 16);
  }
  checkCount(fileName, 'vertices', vertices);
  if (numbers > MOST_NUMBERS) checkCount(fileName, 'vertices', Math.ceil(numbers / 8));
}

/** Nodes must form trees: a circle would never come to an end. */
function checkTree(fileName: string, json: GLTF.IGLTF): void {
  const nodes = list(json.nodes);
  const depths = new Map<number, number>();
  const open = new Set<number>();
  const visit = (index: number): number => {
    const known = depths.get(index);
    if (known !== undefined) return known;
    if (open.has(index)) throw brokenModel(fileName, 'glTF 2.0', `node ${index} is among its own children`);
    if (open.size > DEEPEST) throw brokenModel(fileName, 'glTF 2.0', `its nodes lie more than ${DEEPEST} deep`);
    open.add(index);
    let depth = 0;
    for (const child of list(nodes[index]?.children)) depth = Math.max(depth, 1 + visit(child));
    open.delete(index);
    depths.set(index, depth);
    return depth;
  };
  nodes.forEach((_, i) => visit(i));
}

/** Refuses a required extension that cannot be honoured; drops those that a still model looks the same without. */
function honour(fileName: string, json: GLTF.IGLTF): void {
  const known = new Set<string>([...EXTENSIONS.map((e) => e.EXTENSION_NAME), ...OLDER_LOOKS]);
  const required = list(json.extensionsRequired).map(String);
  const refused = required.find((name) => !known.has(name) && !NOT_FOR_LOOKS.test(name));
  if (refused !== undefined) {
    throw new Problem(
      'model/extension',
      `"${fileName}" cannot be drawn without ${shortened(refused, 80)}, which is not read here: export it without.`,
      fileName,
    );
  }
  json.extensionsRequired = required.filter((name) => known.has(name) && !OLDER_LOOKS.includes(name));
  json.extensionsUsed = list(json.extensionsUsed).map(String);
}

/** The files that buffers and pictures refer to, under the names that the document calls them. */
function filesOf(fileName: string, json: GLTF.IGLTF, resources: Resources): Record<string, Uint8Array<ArrayBuffer>> {
  const files: Record<string, Uint8Array<ArrayBuffer>> = {};
  for (const { uri } of [...list(json.buffers), ...list(json.images)]) {
    if (typeof uri !== 'string' || uri.startsWith('data:')) continue;
    const found = resourceNamed(resources, uri) ?? resourceNamed(resources, decoded(uri));
    if (!found) {
      throw new Problem(
        'model/missing-file',
        `"${fileName}" needs the file "${shortened(uri, 120)}": drop both together, or export one .glb.`,
        fileName,
      );
    }
    files[uri] = new Uint8Array(found);
  }
  return files;
}

function decoded(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}
