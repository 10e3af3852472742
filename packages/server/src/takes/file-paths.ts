import type { TakeSnapshot } from '@tender-orbit/core/document';
import type { AssetStore } from '../assets/index.ts';

/** Paths of the files that a set needs, models, art and panorama, by hash. */
export function filePaths(
  assets: AssetStore,
  { set, products }: Pick<TakeSnapshot, 'set' | 'products'>,
): Record<string, string> {
  const hashes = Object.values(products).flatMap((p) => [
    p.model,
    ...p.sheets.flatMap((s) => [s.picture.asset, ...(s.film ?? [])]),
    ...p.finishes.flatMap((f) => Object.values(f.textures).map((use) => use?.picture?.asset ?? '')),
  ]);
  const onSurfaces = set.surfaces.flatMap((s) =>
    Object.values(s.finish?.textures ?? {}).map((use) => use?.picture?.asset ?? ''),
  );
  return Object.fromEntries(
    [...hashes, ...onSurfaces, set.environment.room.asset].filter(Boolean).map((hash) => [hash, assets.path(hash)]),
  );
}
