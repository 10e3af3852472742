import { srgbToLinear } from '../../finish/index.ts';
import { smoothNormals, type Mesh } from '../../geometry/index.ts';
import { checkCount, MODEL_LIMITS } from '../limits.ts';
import type { Model } from '../model.ts';
import { ByteReader } from './byte-reader.ts';
import { CornerTable } from './corner-table.ts';
import { GrowingFloats, GrowingIndices } from './growing.ts';
import { readMtl, type MtlFinish } from './mtl.ts';
import { polygonTriangles } from './polygon.ts';
import { plainFinish, type ReadModel, type Resources } from './read.ts';

/** More groups than this are joined by finish: a list of thousands of parts is of no use. */
const MOST_GROUPS = 1000;

/** One part in the making: its corners, and the triangles between them. */
interface Part {
  name: string;
  material: string;
  corners: CornerTable;
  /** Position, texture coordinate and normal of each vertex. */
  vertices: GrowingIndices;
  indices: GrowingIndices;
  normals: boolean;
  uvs: boolean;
}

/**
 * An OBJ file with its MTL libraries and pictures. Parts are its groups and objects by finish; polygons of any outline are
 * triangulated in their plane; v of texture coordinates is turned to glTF's, from the top.
 */
export function readObj(fileName: string, bytes: Uint8Array, resources: Resources): ReadModel {
  const notes: string[] = [];
  const joined = groupsOf(bytes) > MOST_GROUPS;
  const state = new ObjState(fileName, joined);
  const reader = new ByteReader(bytes);
  for (; !reader.atEnd; reader.nextLine()) state.line(reader);
  if (joined) notes.push(`It has more than ${MOST_GROUPS.toLocaleString('en')} groups: they were joined by finish.`);
  const libraries = state.libraries.map((name) => readMtl(name, resources, notes));
  const library = new Map(libraries.flatMap((finishes) => [...finishes]));
  return { model: state.model(library), notes, leftOut: state.leftOut };
}

class ObjState {
  readonly libraries: string[] = [];
  readonly leftOut = { points: 0, lines: 0 };
  private readonly positions = new GrowingFloats();
  private readonly colours = new GrowingFloats();
  private readonly uvs = new GrowingFloats();
  private readonly normals = new GrowingFloats();
  private readonly parts = new Map<string, Part>();
  private part: Part | null = null;
  private group = '';
  private material = '';
  private triangles = 0;
  private readonly corner = {
    position: [] as number[],
    uv: [] as number[],
    normal: [] as number[],
    at: [] as number[],
  };

  constructor(
    private readonly fileName: string,
    private readonly joined: boolean,
  ) {}

  line(reader: ByteReader): void {
    switch (reader.word()) {
      case 'v':
        return this.vertex(reader);
      case 'vt':
        return this.numbers(reader, this.uvs, 2);
      case 'vn':
        return this.numbers(reader, this.normals, 3);
      case 'f':
        return this.face(reader);
      case 'l':
        this.leftOut.lines++;
        return;
      case 'p':
        this.leftOut.points++;
        return;
      case 'g':
      case 'o':
        this.group = reader.rest();
        this.part = null;
        return;
      case 'usemtl':
        this.material = reader.rest();
        this.part = null;
        return;
      case 'mtllib':
        this.libraries.push(reader.rest());
        return;
    }
  }

  private vertex(reader: ByteReader): void {
    this.numbers(reader, this.positions, 3);
    checkCount(this.fileName, 'vertices', this.positions.length / 3);
    const [red, green, blue] = [reader.number(), reader.number(), reader.number()];
    // Four numbers are a place with its weight, six a place with its colour.
    if (Number.isNaN(blue)) return;
    while (this.colours.length < this.positions.length - 3) this.colours.push(1);
    for (const value of [red, green, blue]) this.colours.push(srgbToLinear(value));
  }

  private numbers(reader: ByteReader, to: GrowingFloats, count: number): void {
    for (let i = 0; i < count; i++) {
      const value = reader.number();
      to.push(Number.isNaN(value) ? 0 : value);
    }
  }

  private face(reader: ByteReader): void {
    const { position, uv, normal, at } = this.corner;
    let count = 0;
    while (reader.more()) {
      const p = this.index(reader.integer(), this.positions.length / 3);
      if (reader.bytes[reader.at] === 47) reader.at++;
      const t = this.index(reader.integer(), this.uvs.length / 2);
      if (reader.bytes[reader.at] === 47) reader.at++;
      const n = this.index(reader.integer(), this.normals.length / 3);
      // Whatever else the word holds is not ours to read.
      while (!reader.atEnd && reader.bytes[reader.at] > 32) reader.at++;
      if (p < 0) continue;
      position[count] = p;
      uv[count] = t;
      normal[count] = n;
      for (let c = 0; c < 3; c++) at[count * 3 + c] = this.positions.at(p * 3 + c);
      count++;
    }
    if (count === 1) this.leftOut.points++;
    if (count === 2) this.leftOut.lines++;
    if (count < 3) return;
    at.length = count * 3;
    const cut = polygonTriangles(at);
    this.triangles += cut.length / 3;
    checkCount(this.fileName, 'triangles', this.triangles);
    const part = (this.part ??= this.partHere());
    for (const i of cut) {
      const fresh = (): void => {
        part.vertices.push(position[i]);
        part.vertices.push(uv[i] + 1);
        part.vertices.push(normal[i] + 1);
      };
      part.indices.push(part.corners.vertex(position[i], uv[i], normal[i], fresh));
      part.uvs &&= uv[i] >= 0;
      part.normals &&= normal[i] >= 0;
    }
  }

  /** A place in a list of `count`, counted from 1, or back from the end; -1 when there is none. */
  private index(written: number, count: number): number {
    if (Number.isNaN(written) || written === 0) return -1;
    const at = written < 0 ? count + written : written - 1;
    return at >= 0 && at < count ? at : -1;
  }

  private partHere(): Part {
    const group = this.joined ? '' : this.group;
    const key = `${group}\n${this.material}`;
    let part = this.parts.get(key);
    if (!part) {
      const { material } = this;
      part = {
        ...{ name: group || material, material, corners: new CornerTable() },
        ...{ vertices: new GrowingIndices(), indices: new GrowingIndices(), normals: true, uvs: true },
      };
      this.parts.set(key, part);
      checkCount(this.fileName, 'parts', this.parts.size);
    }
    return part;
  }

  model(library: ReadonlyMap<string, MtlFinish>): Model {
    const model: Model = { parts: [], finishes: [], images: [] };
    const known = new Map<string, number>();
    const images = new Map<string, number>();
    const finishOf = (name: string): number => {
      const at = known.get(name);
      if (at !== undefined) return at;
      const made = library.get(name);
      const finish = made?.finish ?? plainFinish(name || 'Surface', this.colours.length > 0);
      for (const { slot, image, use } of made?.pictures ?? []) {
        if (!images.has(image.name)) images.set(image.name, model.images.push(image) - 1);
        finish.textures[slot] = { ...use, image: images.get(image.name)! };
      }
      known.set(name, model.finishes.push(finish) - 1);
      return known.get(name)!;
    };
    const objects = [...this.parts.values()];
    for (const part of objects) {
      const several = objects.filter((p) => p.name === part.name).length > 1 && objects.length < MODEL_LIMITS.parts / 5;
      const name = several && part.material ? `${part.name} ${part.material}` : part.name;
      model.parts.push({ name: name || 'Part', mesh: this.mesh(part), finish: finishOf(part.material) });
    }
    return model;
  }

  private mesh(part: Part): Mesh {
    const count = part.vertices.length / 3;
    const positions = new Float32Array(count * 3);
    const normals = part.normals ? new Float32Array(count * 3) : null;
    const uvs = new Float32Array(count * 2);
    const colors = this.colours.length > 0 ? new Float32Array(count * 4).fill(1) : undefined;
    for (let i = 0; i < count; i++) {
      const [p, t, n] = [part.vertices.at(i * 3), part.vertices.at(i * 3 + 1) - 1, part.vertices.at(i * 3 + 2) - 1];
      for (let c = 0; c < 3; c++) {
        positions[i * 3 + c] = this.positions.at(p * 3 + c);
        if (normals) normals[i * 3 + c] = this.normals.at(n * 3 + c);
        if (colors && p * 3 + c < this.colours.length) colors[i * 4 + c] = this.colours.at(p * 3 + c);
      }
      if (!part.uvs) continue;
      uvs[i * 2] = this.uvs.at(t * 2);
      uvs[i * 2 + 1] = 1 - this.uvs.at(t * 2 + 1);
    }
    const indices = part.indices.done();
    return {
      positions,
      normals: normals ?? smoothNormals(positions, indices),
      uvs,
      indices,
      ...(colors && { colors }),
    };
  }
}

/** How often a group, an object or a finish begins. */
function groupsOf(bytes: Uint8Array): number {
  let groups = 0;
  for (let i = 0, start = true; i < bytes.length; i++) {
    const byte = bytes[i];
    if (start && (byte === 103 || byte === 111) && bytes[i + 1] <= 32) groups++;
    start = byte === 10;
  }
  return groups;
}
