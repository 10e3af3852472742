import { srgbToLinear } from '../../finish/index.ts';
import { smoothNormals } from '../../geometry/index.ts';
import { brokenModel, checkCount, cutOff } from '../limits.ts';
import { ByteReader } from './byte-reader.ts';
import { GrowingIndices } from './growing.ts';
import { plyHeader, type PlyElement, type PlyHeader } from './ply-header.ts';
import { polygonTriangles } from './polygon.ts';
import { plainFinish, type ReadModel } from './read.ts';

/** Gives the values of a file in turn, whether written as text or as bytes. */
interface Source {
  next: (type: string) => number;
}

/** What vertices hold, as far as it is drawn. */
interface Vertices {
  positions: Float32Array;
  normals?: Float32Array;
  uvs: Float32Array;
  colors?: Float32Array;
}

const X = ['x', 'y', 'z'];
const NORMAL = ['nx', 'ny', 'nz'];
const RGB = ['red', 'green', 'blue'];
const UV_NAMES = [
  ['s', 't'],
  ['u', 'v'],
  ['texture_u', 'texture_v'],
];

/**
 * A PLY file (text or binary of either byte order, Turk 1994): faces of any outline and strips become triangles, colours of
 * vertices become linear. Points without faces are counted as left out.
 */
export function readPly(fileName: string, bytes: Uint8Array): ReadModel {
  const header = plyHeader(fileName, bytes);
  checkLength(fileName, header, bytes.length);
  const source = header.format === 'ascii' ? textSource(fileName, header, bytes) : byteSource(fileName, header, bytes);
  let vertices: Vertices = { positions: new Float32Array(0), uvs: new Float32Array(0) };
  const indices = new GrowingIndices();
  let lines = 0;
  for (const element of header.elements) {
    if (element.name === 'vertex') vertices = readVertices(fileName, element, source);
    else if (element.name === 'face') readFaces(fileName, element, source, vertices.positions, indices);
    else if (element.name === 'tristrips') readStrips(fileName, element, source, indices);
    else {
      if (element.name === 'edge') lines = element.count;
      skip(element, source);
    }
  }
  const { positions, uvs, colors } = vertices;
  const triangles = indices.done();
  const normals = vertices.normals ?? smoothNormals(positions, inRange(triangles, positions.length / 3));
  const name = fileName.replace(/\.\w+$/, '') || 'Part';
  return {
    model: {
      parts: [{ name, mesh: { positions, normals, uvs, indices: triangles, ...(colors && { colors }) }, finish: 0 }],
      finishes: [plainFinish('Surface', colors !== undefined)],
      images: [],
    },
    notes: [],
    leftOut: { points: triangles.length === 0 ? positions.length / 3 : 0, lines },
  };
}

/** Declared counts are checked against what the file can hold before memory is taken for them. */
function checkLength(fileName: string, { elements, format, start }: PlyHeader, length: number): void {
  let needed = start;
  for (const { name, count, properties } of elements) {
    if (name === 'vertex') checkCount(fileName, 'vertices', count);
    if (name === 'face') checkCount(fileName, 'triangles', count);
    const least = properties.reduce(
      (sum, { count: counter, size }) => sum + (format === 'ascii' ? 2 : counter ? counter.size : size),
      0,
    );
    needed += count * least;
  }
  // A last line may lack its end.
  if (needed > length + 1) throw cutOff(fileName, length, needed);
}

function textSource(fileName: string, { start }: PlyHeader, bytes: Uint8Array): Source {
  const reader = new ByteReader(bytes);
  reader.at = start;
  return {
    next: () => {
      const value = reader.numberAnywhere();
      if (Number.isNaN(value) && reader.atEnd) throw brokenModel(fileName, 'PLY', 'it ends before all is told');
      return value;
    },
  };
}

function byteSource(fileName: string, { format, start }: PlyHeader, bytes: Uint8Array): Source {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = format === 'binary_little_endian';
  let at = start;
  const take = (size: number): number => {
    if (at + size > bytes.length) throw cutOff(fileName, bytes.length, at + size);
    at += size;
    return at - size;
  };
  const read: Record<string, () => number> = {
    int8: () => view.getInt8(take(1)),
    uint8: () => view.getUint8(take(1)),
    int16: () => view.getInt16(take(2), little),
    uint16: () => view.getUint16(take(2), little),
    int32: () => view.getInt32(take(4), little),
    uint32: () => view.getUint32(take(4), little),
    float32: () => view.getFloat32(take(4), little),
    float64: () => view.getFloat64(take(8), little),
  };
  return { next: (type) => read[type]() };
}

function readVertices(fileName: string, { count, properties }: PlyElement, source: Source): Vertices {
  const at = (names: readonly string[]): number[] => names.map((name) => properties.findIndex((p) => p.name === name));
  const has = (places: readonly number[]): boolean => places.every((i) => i >= 0);
  const [position, normal, rgb] = [at(X), at(NORMAL), at(RGB)];
  if (!has(position)) throw brokenModel(fileName, 'PLY', 'its vertices have no x, y and z');
  const uv = UV_NAMES.map(at).find(has);
  const alpha = properties.findIndex((p) => p.name === 'alpha');
  const out: Vertices = {
    positions: new Float32Array(count * 3),
    normals: has(normal) ? new Float32Array(count * 3) : undefined,
    uvs: new Float32Array(count * 2),
    colors: has(rgb) ? new Float32Array(count * 4).fill(1) : undefined,
  };
  const values = new Float64Array(properties.length);
  for (let i = 0; i < count; i++) {
    properties.forEach((property, p) => {
      values[p] = property.count ? skipList(property.count.type, property.type, source) : source.next(property.type);
    });
    for (let c = 0; c < 3; c++) {
      out.positions[i * 3 + c] = values[position[c]];
      if (out.normals) out.normals[i * 3 + c] = values[normal[c]];
      if (out.colors) out.colors[i * 4 + c] = srgbToLinear(values[rgb[c]] / (RANGE[properties[rgb[c]].type] ?? 1));
    }
    if (out.colors && alpha >= 0) out.colors[i * 4 + 3] = values[alpha] / (RANGE[properties[alpha].type] ?? 1);
    // Rows of pictures count from the bottom there, from the top here.
    if (uv) out.uvs.set([values[uv[0]], 1 - values[uv[1]]], i * 2);
  }
  return out;
}

/** Corners that a face may have. */
const MOST_CORNERS = 100_000;
/** What full strength is in whole numbers. */
const RANGE: Record<string, number> = { uint8: 255, int8: 127, uint16: 65535, int16: 32767 };

function readFaces(
  fileName: string,
  { count, properties }: PlyElement,
  source: Source,
  positions: Float32Array,
  out: GrowingIndices,
): void {
  const list = properties.findIndex((p) => p.count && /^vertex_ind(ex|ices)$/.test(p.name));
  if (list < 0) throw brokenModel(fileName, 'PLY', 'its faces name no vertices');
  const corners: number[] = [];
  const places: number[] = [];
  for (let f = 0; f < count; f++) {
    for (const [p, property] of properties.entries()) {
      if (p !== list) {
        if (property.count) skipList(property.count.type, property.type, source);
        else source.next(property.type);
        continue;
      }
      const length = source.next(property.count!.type);
      if (!(length >= 0 && length <= MOST_CORNERS))
        throw brokenModel(fileName, 'PLY', `face ${f + 1} has an odd number of corners`);
      corners.length = Math.floor(length);
      for (let i = 0; i < corners.length; i++) corners[i] = source.next(property.type);
      if (corners.some((v) => !(v >= 0 && v < positions.length / 3)))
        throw brokenModel(fileName, 'PLY', `face ${f + 1} names a vertex that is not there`);
      if (corners.length === 3) corners.forEach((v) => out.push(v));
      else {
        places.length = corners.length * 3;
        corners.forEach((v, i) => {
          for (let c = 0; c < 3; c++) places[i * 3 + c] = positions[v * 3 + c];
        });
        for (const i of polygonTriangles(places)) out.push(corners[i]);
      }
    }
    checkCount(fileName, 'triangles', out.length / 3);
  }
}

/** Strips of triangles, one list of them, each ended by -1. */
function readStrips(fileName: string, { count, properties }: PlyElement, source: Source, out: GrowingIndices): void {
  if (properties.length === 0) return;
  for (let i = 0; i < count; i++) {
    for (const { count: counter, type } of properties) {
      let [a, b, turned] = [-1, -1, false];
      for (let left = counter ? source.next(counter.type) : 1; left > 0; left--) {
        const c = source.next(type);
        if (c < 0) [a, b, turned] = [-1, -1, false];
        else {
          if (a >= 0 && a !== b && b !== c && a !== c) for (const v of turned ? [b, a, c] : [a, b, c]) out.push(v);
          if (a >= 0) turned = !turned;
          [a, b] = [b, c];
        }
      }
      checkCount(fileName, 'triangles', out.length / 3);
    }
  }
}

function skip({ count, properties }: PlyElement, source: Source): void {
  // What has no values takes no room in the file, however many of it there are.
  if (properties.length === 0) return;
  for (let i = 0; i < count; i++)
    for (const { count: counter, type } of properties) {
      if (counter) skipList(counter.type, type, source);
      else source.next(type);
    }
}

function skipList(counter: string, type: string, source: Source): number {
  for (let left = source.next(counter); left > 0; left--) source.next(type);
  return 0;
}

/** Indices that name vertices; the others are refused later, by name. */
function inRange(indices: Uint32Array, count: number): Uint32Array {
  return indices.every((i) => i < count) ? indices : new Uint32Array(0);
}
