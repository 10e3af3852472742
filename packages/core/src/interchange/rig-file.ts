import type { Document } from '@gltf-transform/core';
import type { Mesh, MeshRig } from '../geometry/index.ts';
import { textOf } from '../text/index.ts';

/** The accessor that holds rigs in a normalised GLB. */
const NAME = 'Rig';
const ARRAYS = { f: Float32Array, u: Uint16Array } as const;

/** Numbers in the packed bytes, in a header of JSON. */
interface Stored {
  array: keyof typeof ARRAYS;
  at: number;
  length: number;
}

/** What moves each of a model's meshes, put into a document of its own form: a header of JSON, then the numbers. */
export function storeRigs(document: Document, meshes: readonly Mesh[]): void {
  const rigs = meshes.map((mesh) => mesh.rig);
  const shared = rigs.find((rig) => rig)?.rig;
  if (!shared) return;
  const chunks: Uint8Array[] = [];
  let size = 0;
  const pack = (value: unknown): unknown => {
    if (!ArrayBuffer.isView(value)) return value;
    const array = value instanceof Uint16Array ? 'u' : 'f';
    const bytes = new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
    const stored: Stored = { array, at: size, length: (value as Float32Array).length };
    // Numbers begin at a multiple of four.
    chunks.push(bytes, new Uint8Array(-bytes.length & 3));
    size += bytes.length + (-bytes.length & 3);
    return stored;
  };
  const parts = rigs.map((rig) => (rig ? { ...rig, rig: null } : null));
  // Plain ASCII: nothing in it has a name.
  const text = JSON.stringify({ rig: shared, parts }, (_, value: unknown) => pack(value));
  const header = Uint8Array.from(text, (letter) => letter.charCodeAt(0));
  const bytes = new Uint8Array(4 + header.length + (-header.length & 3) + size);
  new DataView(bytes.buffer).setUint32(0, header.length, true);
  bytes.set(header, 4);
  let at = bytes.length - size;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  document.createAccessor(NAME).setType('SCALAR').setArray(bytes).setBuffer(document.getRoot().listBuffers()[0]);
}

/** Hangs the meshes of a document that storeRigs() wrote on their rig again. */
export function takeRigs(document: Document, meshes: readonly Mesh[]): void {
  const bytes = document
    .getRoot()
    .listAccessors()
    .find((accessor) => accessor.getName() === NAME)
    ?.getArray();
  if (!(bytes instanceof Uint8Array)) return;
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const start = 4 + length + (-length & 3);
  const revive = (_: string, value: unknown): unknown => {
    const { array, at, length: count } = (value ?? {}) as Partial<Stored>;
    if (typeof array !== 'string' || typeof at !== 'number') return value;
    const kind = ARRAYS[array];
    // A copy lies at its own beginning, whatever the file's alignment is.
    return new kind(bytes.slice(start + at, start + at + count! * kind.BYTES_PER_ELEMENT).buffer);
  };
  const text = textOf(bytes.subarray(4, 4 + length));
  const { rig, parts } = JSON.parse(text, revive) as { rig: MeshRig['rig']; parts: Array<MeshRig | null> };
  parts.forEach((part, i) => {
    if (part && meshes[i]) meshes[i].rig = { ...part, rig };
  });
}
