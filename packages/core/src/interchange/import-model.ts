import type { FilePose } from '../document/index.ts';
import { Problem } from '../problem/index.ts';
import { boundsOf, boundsSize, triangleCount, type LengthUnit, type Vec3 } from '../geometry/index.ts';
import {
  animationsOf,
  flatten,
  parseGltf,
  pose,
  type FileAnimation,
  type FileCamera,
  type FileLight,
  type GeometryDecoders,
} from './gltf/index.ts';
import { brokenModel, checkCount } from './limits.ts';
import type { Model } from './model.ts';
import { likelyUnits } from './units.ts';
import { readObj, readPly, readStl, type LeftOut, type ReadModel, type Resources } from './readers/index.ts';
import { writeModel } from './write-model.ts';

/** What a person should know of a model that was brought. */
export interface ModelReport {
  triangles: number;
  /** Size in the numbers of the file: width, height, depth. */
  size: Vec3;
  /** What one of the file's numbers was taken to be, and what else it may well be, likeliest first. */
  unit: LengthUnit;
  units: LengthUnit[];
  /** Sentences: what was assumed or left out. */
  notes: string[];
  animations: FileAnimation[];
  lights: FileLight[];
  cameras: FileCamera[];
}

export interface ImportedModel {
  /** Normalised GLB: one node a part, no compression, skins, animations, lights or cameras. */
  glb: Uint8Array;
  model: Model;
  report: ModelReport;
}

/** A file that was read, before it is checked. */
export interface FoundModel extends ReadModel {
  animations?: FileAnimation[];
  lights?: FileLight[];
  cameras?: FileCamera[];
  /** Metres in one of the file's numbers, where the format says it. */
  metres?: number;
}

export interface ImportOptions {
  /** Skins and morph targets stand as they do then; without, as the file's nodes stand. */
  pose?: FilePose;
  /** Checks the pictures and makes them plain in place; each host decodes in its own way. */
  textures?: (model: Model) => Promise<void>;
}

const IMAGE_TYPES = new Set(['image/png', 'image/jpeg', 'image/webp']);

/** Formats that this module reads, by the end of the file's name; other names are read as glTF, which says what it is not. */
const READERS: Record<string, (fileName: string, bytes: Uint8Array, resources: Resources) => ReadModel> = {
  obj: readObj,
  ply: readPly,
  stl: readStl,
};

export const extensionOf = (fileName: string): string => /\.([a-z0-9]+)$/i.exec(fileName)?.[1].toLowerCase() ?? '';

/**
 * Reads a model file that a person brought - glTF 2.0, OBJ, PLY or STL - and makes it ours. `resources` holds the files
 * that it refers to, by the names written in it.
 *
 * @throws Problem `model/...` in one sentence for anything that is not a usable model; the input is never changed.
 */
export async function importModel(
  fileName: string,
  bytes: Uint8Array,
  resources: Resources,
  decoders: GeometryDecoders,
  options: ImportOptions = {},
): Promise<ImportedModel> {
  const extension = extensionOf(fileName);
  const read = Object.hasOwn(READERS, extension) ? READERS[extension] : null;
  const found = await guarded(fileName, read ? extension.toUpperCase() : 'glTF 2.0', () =>
    read ? read(fileName, bytes, resources) : readGltf(fileName, bytes, resources, decoders, options),
  );
  return finishImport(fileName, found, options.textures);
}

async function readGltf(
  fileName: string,
  bytes: Uint8Array,
  resources: Resources,
  decoders: GeometryDecoders,
  options: ImportOptions,
): Promise<FoundModel> {
  const document = await parseGltf(fileName, bytes, resources, decoders);
  const animations = animationsOf(document);
  if (options.pose) pose(document, options.pose);
  return { ...flatten(document, fileName), notes: [], animations, metres: 1 };
}

/** Whatever a reader throws that is not for a person becomes one sentence that is. */
async function guarded(
  fileName: string,
  format: string,
  read: () => ReadModel | Promise<FoundModel>,
): Promise<FoundModel> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw brokenModel(fileName, format, 'its contents do not fit together');
  }
}

/**
 * Checks a model that was read and writes it in the form that is drawn from.
 *
 * @throws Problem `model/...` that names the part or picture concerned.
 */
export async function finishImport(
  fileName: string,
  found: FoundModel,
  textures?: ImportOptions['textures'],
): Promise<ImportedModel> {
  const { model, leftOut } = found;
  model.parts = model.parts.filter((part) => part.mesh.indices.length > 0);
  checkCount(fileName, 'images', model.images.length);
  await textures?.(model);
  const left = leftOutSentence(leftOut);
  const triangles = check(fileName, model, leftOut);
  const size = boundsSize(boundsOf(model.parts.map((p) => p.mesh)));
  if (Math.max(...size) === 0)
    throw new Problem('model/no-size', `"${fileName}" has no size: all of its points are in one place.`, fileName);
  const { unit, units } = likelyUnits(Math.max(...size), found.metres);
  const report: ModelReport = {
    ...{ triangles, size, unit, units },
    notes: left ? [...found.notes, left] : found.notes,
    animations: found.animations ?? [],
    lights: found.lights ?? [],
    cameras: found.cameras ?? [],
  };
  return { glb: await writeModel(model), model, report };
}

function leftOutSentence({ points, lines }: LeftOut): string {
  const some = [
    points > 0 ? `${points.toLocaleString('en')} ${points === 1 ? 'point' : 'points'}` : '',
    lines > 0 ? `${lines.toLocaleString('en')} ${lines === 1 ? 'line' : 'lines'}` : '',
  ].filter((text) => text !== '');
  return some.length > 0 ? `${some.join(' and ')} ${points + lines === 1 ? 'was' : 'were'} left out.` : '';
}

function check(fileName: string, model: Model, leftOut: LeftOut): number {
  const triangles = model.parts.reduce((n, p) => n + triangleCount(p.mesh), 0);
  if (triangles === 0) {
    const only = leftOut.points + leftOut.lines > 0 ? 'only points and lines' : 'no triangles';
    throw new Problem(
      'model/no-triangles',
      `"${fileName}" holds ${only}: export meshes, not curves, scans or an empty scene.`,
      fileName,
    );
  }
  checkCount(fileName, 'triangles', triangles);
  checkCount(fileName, 'parts', model.parts.length);
  for (const part of model.parts) {
    const count = part.mesh.positions.length / 3;
    if (part.mesh.indices.some((i) => i >= count)) {
      throw new Problem(
        'model/bad-index',
        `Part "${part.name}" of "${fileName}" points at vertices that are not there: export it again.`,
        fileName,
      );
    }
    if (!part.mesh.positions.every(Number.isFinite)) {
      throw new Problem(
        'model/bad-number',
        `Part "${part.name}" of "${fileName}" has a position that is not a number: export it again.`,
        fileName,
      );
    }
    mend(part.mesh.normals);
    mend(part.mesh.uvs);
    if (part.mesh.colors) mend(part.mesh.colors);
  }
  const image = model.images.find((i) => !IMAGE_TYPES.has(i.mimeType));
  if (image) {
    throw new Problem(
      'model/image-type',
      `Picture "${image.name}" in "${fileName}" is ${image.mimeType || 'of no known type'}: use PNG, JPEG or WebP.`,
      fileName,
    );
  }
  return triangles;
}

/** What is no number in normals, texture coordinates or colours would spread over the picture: it becomes 0. */
function mend(values: Float32Array): void {
  for (let i = 0; i < values.length; i++) if (!Number.isFinite(values[i])) values[i] = 0;
}
