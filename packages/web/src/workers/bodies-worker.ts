import engine from '@dimforge/rapier3d-compat';
import type { ProductDocument, SetDocument, ShotDocument, Track } from '@tender-orbit/core/document';
import type { Mesh } from '@tender-orbit/core/geometry';
import { modelKey } from '@tender-orbit/core/product';
import { compile } from '@tender-orbit/core/scene';
import { bodiesOf, dropBodies, dropTracks, type DropSettings } from '@tender-orbit/core/simulate';
import { readModelByKey } from './read-model.ts';

/** Drops products of a set and lets them settle. */
export interface BodiesRequest {
  id: number;
  set: SetDocument;
  shot: ShotDocument;
  products: ReadonlyMap<string, ProductDocument>;
  /** Ids of products on the set, in the order in which they fall. */
  falling: readonly string[];
  settings: DropSettings;
  /** Frame at which all of them rest; null: they begin to fall at `start`. */
  restAt: number | null;
  start: number;
}

export type BodiesReply =
  | { id: number; tracks: Track[]; /** Frames in which they begin to fall and rest. */ start: number; rests: number }
  | { id: number; failed: true };

const ready = engine.init();

async function drop(data: BodiesRequest): Promise<BodiesReply> {
  const { id, set, shot, products, falling, settings, restAt, start } = data;
  await ready;
  const meshes = new Map<string, readonly Mesh[]>();
  for (const product of products.values()) {
    const key = modelKey(product);
    meshes.set(key, (await readModelByKey(key)).meshes);
  }
  const context = { products, aspect: 16 / 9, meshes: (key: string) => meshes.get(key) };
  // They fall to where they stand in the set, whatever moves they had.
  const resting = { ...shot, tracks: shot.tracks.filter((t) => !falling.includes(t.thing)) };
  const bodies = bodiesOf(compile(set, resting), restAt ?? start, context, falling);
  const dropped = dropBodies(engine, bodies.falling, bodies.still, settings);
  const from = restAt === null ? start : restAt - dropped.rests;
  return { id, tracks: dropTracks(dropped, from, shot), start: from, rests: from + dropped.rests };
}

self.onmessage = ({ data }: MessageEvent<BodiesRequest>) => {
  drop(data).then(
    (reply) => self.postMessage(reply),
    () => self.postMessage({ id: data.id, failed: true } satisfies BodiesReply),
  );
};
