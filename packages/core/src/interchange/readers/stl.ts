import { srgbToLinear } from '../../finish/index.ts';
import { brokenModel, checkCount, cutOff } from '../limits.ts';
import type { Model } from '../model.ts';
import { shortened, textOf } from '../../text/index.ts';
import { ByteReader } from './byte-reader.ts';
import { GrowingFloats } from './growing.ts';
import { plainFinish, type ReadModel } from './read.ts';
import { softened } from './soften.ts';

const HEADER = 84;
const FACET = 50;
/** Facets that meet at less than this are one surface, degrees. */
const CREASE = 30;

/**
 * An STL file, text or binary, set upright from Z. Facets that meet at a small angle are shaded as one surface. Colours of
 * facets are read in both ways that are in use: five bits each with bit 15 as "has one", or with a default in the header.
 */
export function readStl(fileName: string, bytes: Uint8Array): ReadModel {
  const solids = isText(bytes) ? readText(fileName, bytes) : [readBinary(fileName, bytes)];
  const model: Model = { parts: [], finishes: [], images: [] };
  for (const { name, corners, colours } of solids) {
    if (corners.length === 0) continue;
    setUpright(corners);
    const mesh = softened(corners, CREASE, colours);
    checkCount(fileName, 'parts', model.parts.length + 1);
    model.parts.push({ name: name || fileName.replace(/\.\w+$/, '') || 'Part', mesh, finish: 0 });
  }
  model.finishes.push(
    plainFinish(
      'Surface',
      solids.some((s) => s.colours),
    ),
  );
  return { model, notes: ['It was set upright from Z.'], leftOut: { points: 0, lines: 0 } };
}

interface Solid {
  name: string;
  /** Nine numbers a triangle. */
  corners: Float32Array;
  /** Linear RGB of each triangle. */
  colours?: Float32Array;
}

/** A binary file may begin with "solid" too; its length tells. */
function isText(bytes: Uint8Array): boolean {
  if (bytes.length >= HEADER) {
    const facets = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(80, true);
    if (HEADER + facets * FACET === bytes.length) return false;
  }
  return /^\s*solid\b/.test(textOf(bytes.subarray(0, 200))) && /facet|endsolid/.test(textOf(bytes.subarray(0, 2000)));
}

function readBinary(fileName: string, bytes: Uint8Array): Solid {
  if (bytes.length < HEADER) throw brokenModel(fileName, 'STL', 'it is too short to be one');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(80, true);
  if (HEADER + count * FACET > bytes.length) {
    const text = bytes.subarray(0, HEADER).every((byte) => byte >= 9 && byte < 127);
    if (text) throw brokenModel(fileName, 'STL', 'it holds no facets');
    throw cutOff(fileName, bytes.length, HEADER + count * FACET);
  }
  checkCount(fileName, 'triangles', count);
  const corners = new Float32Array(count * 9);
  const usual = usualColour(bytes);
  const colours = new Float32Array(count * 3).fill(1);
  let coloured = usual !== null;
  for (let f = 0; f < count; f++) {
    const at = HEADER + f * FACET;
    for (let i = 0; i < 9; i++) corners[f * 9 + i] = view.getFloat32(at + 12 + i * 4, true);
    const bits = view.getUint16(at + 48, true);
    const own = usual ? (bits & 0x8000) === 0 : (bits & 0x8000) !== 0;
    if (own) {
      coloured = true;
      const [low, mid, high] = [bits & 31, (bits >> 5) & 31, (bits >> 10) & 31].map((v) => srgbToLinear(v / 31));
      colours.set(usual ? [low, mid, high] : [high, mid, low], f * 3);
    } else if (usual) colours.set(usual, f * 3);
  }
  return { name: '', corners, ...(coloured && { colours }) };
}

/** The colour of facets that have none of their own, from a header that holds `COLOR=` and four bytes. */
function usualColour(bytes: Uint8Array): number[] | null {
  const mark = [0x43, 0x4f, 0x4c, 0x4f, 0x52, 0x3d];
  for (let i = 0; i < 80 - 10; i++)
    if (mark.every((byte, k) => bytes[i + k] === byte))
      return [...bytes.subarray(i + 6, i + 9)].map((v) => srgbToLinear(v / 255));
  return null;
}

function readText(fileName: string, bytes: Uint8Array): Solid[] {
  const reader = new ByteReader(bytes);
  const solids: Array<{ name: string; corners: GrowingFloats }> = [];
  for (; !reader.atEnd; reader.nextLine()) {
    const word = reader.word().toLowerCase();
    if (word === 'solid') solids.push({ name: shortened(reader.rest(), 120), corners: new GrowingFloats() });
    if (word !== 'vertex') continue;
    const { corners } = solids.at(-1)!;
    for (let c = 0; c < 3; c++) {
      const value = reader.number();
      if (Number.isNaN(value)) throw brokenModel(fileName, 'STL', 'a vertex has a place that is no number');
      corners.push(value);
    }
    if (corners.length % 9 === 0) checkCount(fileName, 'triangles', corners.length / 9);
  }
  return solids.map(({ name, corners }) => {
    const all = corners.done();
    return { name, corners: all.slice(0, all.length - (all.length % 9)) };
  });
}

/** Z up to Y up. */
function setUpright(vectors: Float32Array): void {
  for (let i = 0; i < vectors.length; i += 3) {
    const y = vectors[i + 1];
    vectors[i + 1] = vectors[i + 2];
    vectors[i + 2] = -y;
  }
}
