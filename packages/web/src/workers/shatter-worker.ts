import engine from '@dimforge/rapier3d-simd-compat';
import type { ProductDocument, SetDocument, SetProduct, ShotDocument, Track } from '@tender-orbit/core/document';
import { makeFinish } from '@tender-orbit/core/finish';
import type { Mesh } from '@tender-orbit/core/geometry';
import { writeModel } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { modelKey } from '@tender-orbit/core/product';
import { compile } from '@tender-orbit/core/scene';
import { shatter, type ShatterSettings } from '@tender-orbit/core/simulate';
import { readImagesByKey, readModelByKey } from './read-model.ts';

/** Breaks a product of a set and lets its pieces fall. */
export interface ShatterRequest {
  id: number;
  set: SetDocument;
  shot: ShotDocument;
  products: ReadonlyMap<string, ProductDocument>;
  /** Id of what breaks, and the one that its pieces get, on the set. */
  whole: string;
  broken: string;
  settings: ShatterSettings;
}

export type ShatterReply =
  | {
      id: number;
      /** The product in pieces, and its model, which is to be stored. */
      product: ProductDocument;
      glb: Uint8Array;
      thing: SetProduct;
      tracks: Track[];
      rests: number;
    }
  | { id: number; failed: string };

const ready = engine.init();

async function run({ id, set, shot, products, whole, broken, settings }: ShatterRequest): Promise<ShatterReply> {
  await ready;
  const meshes = new Map<string, readonly Mesh[]>();
  for (const product of products.values()) {
    const key = modelKey(product);
    meshes.set(key, (await readModelByKey(key)).meshes);
  }
  const context = { products, aspect: 16 / 9, meshes: (key: string) => meshes.get(key) };
  const item = set.products.find((p) => p.id === whole)!;
  const made = shatter(engine, compile(set, shot), context, item, broken, shot, settings);
  const { product, meshes: pieces } = made.broken;
  const glb = await writeModel({
    parts: product.parts.map(({ name, index }) => ({ name, mesh: pieces[index], finish: 0 })),
    finishes: [makeFinish('Pieces')],
    // Textures of its finishes are pictures of the file it came from, by their numbers.
    images: await readImagesByKey(modelKey(products.get(item.product)!)),
  });
  return { id, product, glb, thing: made.thing, tracks: made.tracks, rests: made.rests };
}

self.onmessage = ({ data }: MessageEvent<ShatterRequest>) => {
  run(data).then(
    (reply) => self.postMessage(reply),
    (error: unknown) =>
      self.postMessage({
        id: data.id,
        failed:
          error instanceof Problem
            ? error.message
            : 'The product could not be broken: its model did not come. Try again.',
      } satisfies ShatterReply),
  );
};
