import type { Command } from '../edit.ts';
import { newShot } from './defaults.ts';
import type { Layer } from './layers/index.ts';
import type { LayerStack, ShotDocument } from './types.ts';

/** What the set and the camera of a look are called: it stands in none. */
const NONE = 'none';
const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** A layer's id and those of all that it holds, and what they hold. */
export function withHeld(layers: readonly Layer[], id: string): string[] {
  const all = [id];
  // Grows while it is gone through; each is in it once, so a ring ends.
  for (const of of all)
    for (const layer of layers) if (layer.group === of && !all.includes(layer.id)) all.push(layer.id);
  return all;
}

/**
 * A layer with its keys and all that it holds, to be put on the rack of any shot or promo: a shot of nothing else, so many frames long.
 * What it goes along with or is cut by, and its take, are not part of it.
 */
export function lookFrom(shot: LayerStack, id: string, name: string, length: number): ShotDocument {
  const kept = withHeld(shot.layers, id);
  const own = (other: string): string => (kept.includes(other) ? other : '');
  const layers = copyOf(shot.layers.filter((l) => kept.includes(l.id))).map(({ order: _, ...layer }): Layer => {
    const { parent, matteLayer } = layer;
    const matte = own(matteLayer) === '' ? { matte: 'none' as const, matteLayer: '' } : {};
    const take = layer.kind === 'take' || layer.kind === 'composite' ? { take: '' } : {};
    return { ...layer, parent: own(parent), group: own(layer.group), locked: false, ...matte, ...take } as Layer;
  });
  const tracks = copyOf(shot.tracks.filter((t) => kept.includes(t.thing)));
  const used = new Set(
    tracks.flatMap((t) =>
      t.keys.flatMap(({ ease }) => (typeof ease === 'object' && ease.kind === 'linked' ? [ease.id] : [])),
    ),
  );
  const eases = copyOf(shot.eases.filter((e) => used.has(e.id)));
  return { ...newShot(name, NONE, NONE, length), layers, tracks, eases };
}

/**
 * Puts a look on the rack: what is light in the scene below all that stands on the glass, the rest above all others.
 * @param fresh gives ids that nothing has yet. @param things of the set: what stood at others stands by itself.
 * @param group that it is put into; empty: none.
 */
export function putLook(
  look: ShotDocument,
  fresh: () => string,
  things: ReadonlySet<string>,
  group = '',
): { command: Command<LayerStack>; id: string } {
  const ids = new Map([...look.layers, ...look.eases].map(({ id }) => [id, fresh()]));
  const named = (id: string): string => ids.get(id) ?? '';
  const known = (thing: string): string => (things.has(thing) ? thing : '');
  const layers = copyOf(look.layers).map((layer): Layer => {
    const links = {
      parent: named(layer.parent),
      matteLayer: named(layer.matteLayer),
      group: named(layer.group) || group,
    };
    const stands = { thing: known(layer.thing), maskThing: known(layer.maskThing) };
    return { ...layer, ...links, ...stands, id: named(layer.id) } as Layer;
  });
  const root = layers.find((_, i) => look.layers[i].group === '') ?? layers[0];
  const command: Command<LayerStack> = {
    label: `Put ${look.name} on the rack`,
    run: (shot) => {
      const firstGlass = shot.layers.findIndex((l) => l.space === 'glass');
      shot.layers.splice(root.space === 'scene' && firstGlass >= 0 ? firstGlass : shot.layers.length, 0, ...layers);
      shot.eases.push(...copyOf(look.eases).map((e) => ({ ...e, id: named(e.id) })));
      for (const track of copyOf(look.tracks))
        shot.tracks.push({
          ...track,
          thing: named(track.thing),
          keys: track.keys.map((key) =>
            typeof key.ease === 'object' && key.ease.kind === 'linked'
              ? { ...key, ease: { ...key.ease, id: named(key.ease.id) } }
              : key,
          ),
        });
    },
  };
  return { command, id: root.id };
}
