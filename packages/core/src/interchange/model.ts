import type { Finish } from '../finish/index.ts';
import type { Mesh } from '../geometry/index.ts';

/** One drawable piece: the triangles of one primitive, in the model's own units and space. */
export interface ModelPart {
  name: string;
  mesh: Mesh;
  /** Index into the model's finishes. */
  finish: number;
}

export interface ModelImage {
  name: string;
  mimeType: string;
  /** The encoded file: PNG, JPEG or WebP. */
  bytes: Uint8Array;
}

export interface Model {
  parts: ModelPart[];
  finishes: Finish[];
  images: ModelImage[];
}
