import type { Command } from '../edit.ts';
import { shortened } from '../../text/index.ts';
import { dropUnlinked } from './commands.ts';
import { layerProperties, newLayer, type Layer } from './layers/index.ts';
import { withHeld } from './looks.ts';
import type { LayerStack } from './types.ts';

type LayerCommand = Command<LayerStack>;

/** Puts a layer into the composite, above all others or so many from below. */
export function addLayer(layer: Layer, at = Infinity): LayerCommand {
  return {
    label: `Add ${layer.name}`,
    run: ({ layers }) => void layers.splice(Math.min(at, layers.length), 0, layer),
  };
}

export function changeLayer(id: string, label: string, values: Partial<Layer>): LayerCommand {
  return { label, run: (shot) => void Object.assign(shot.layers.find((l) => l.id === id) ?? {}, values) };
}

export function renameLayer(id: string, name: string): LayerCommand {
  return changeLayer(id, 'Rename layer', { name: shortened(name, 120) });
}

/** Brings a layer to another first frame, and its keys and all that it holds with it. */
export function shiftLayer(id: string, start: number): LayerCommand {
  return {
    label: 'Move layer',
    run: (stack) => {
      const moved = withHeld(stack.layers, id);
      const layers = stack.layers.filter((l) => moved.includes(l.id));
      const wanted = start - (layers.find((l) => l.id === id)?.start ?? start);
      // None begins before the first frame.
      const by = Math.max(wanted, -Math.min(...layers.map((l) => l.start)));
      for (const layer of layers) layer.start += by;
      for (const track of stack.tracks)
        if (moved.includes(track.thing)) track.keys = track.keys.map((key) => ({ ...key, frame: key.frame + by }));
    },
  };
}

/** Carries a layer to the place in the stack that another has now; 0 is the lowest. */
export function carryLayer(id: string, to: number): LayerCommand {
  return {
    label: 'Reorder layers',
    run: ({ layers }) => {
      const from = layers.findIndex((l) => l.id === id);
      if (from >= 0) layers.splice(to, 0, ...layers.splice(from, 1));
    },
  };
}

/** Puts some layers into another order, the lowest first, in the places in the stack that they have; all others stay. */
export function orderLayers(order: readonly string[]): LayerCommand {
  return {
    label: 'Reorder layers',
    run: ({ layers }) => {
      const byId = new Map(layers.map((l) => [l.id, l]));
      const moved = order.flatMap((id) => byId.get(id) ?? []);
      let next = 0;
      const now = layers.map((l) => (order.includes(l.id) ? moved[next++] : l));
      now.forEach((layer, to) => {
        // One at a time, so that what stays where it was is not touched.
        if (layers[to].id !== layer.id) {
          const from = layers.findIndex((l) => l.id === layer.id);
          layers.splice(to, 0, ...layers.splice(from, 1));
        }
      });
    },
  };
}

/** Takes a layer away with its keys, and all that it holds. What went along with it, or was cut out by it, stays where it is. */
export function deleteLayer(id: string): LayerCommand {
  return {
    label: 'Delete layer',
    run: (shot) => {
      const gone = withHeld(shot.layers, id);
      shot.layers = shot.layers.filter((l) => !gone.includes(l.id));
      shot.tracks = shot.tracks.filter((t) => !gone.includes(t.thing));
      for (const layer of shot.layers) {
        if (gone.includes(layer.parent)) layer.parent = '';
        if (gone.includes(layer.matteLayer)) Object.assign(layer, { matte: 'none', matteLayer: '' });
      }
      dropUnlinked(shot);
    },
  };
}

/** Puts layers into a new group that stands where the highest of them does. */
export function groupLayers(ids: readonly string[], group: Layer): LayerCommand {
  return {
    label: ids.length === 1 ? 'Group layer' : `Group ${ids.length} layers`,
    run: ({ layers }) => {
      const members = layers.filter((l) => ids.includes(l.id));
      const highest = members.at(-1);
      if (!highest) return;
      const at = layers.indexOf(highest);
      const below = layers.slice(0, at + 1).filter((l) => !ids.includes(l.id)).length;
      const rest = layers.filter((l) => !ids.includes(l.id));
      for (const member of members) member.group = group.id;
      const { group: outer, space } = highest;
      rest.splice(below, 0, ...members, { ...group, space, group: outer === group.id ? '' : outer });
      layers.splice(0, layers.length, ...rest);
    },
  };
}

/** Takes a group away, and leaves what it held in its place. */
export function ungroupLayer(id: string): LayerCommand {
  return {
    label: 'Ungroup',
    run: (shot) => {
      const outer = shot.layers.find((l) => l.id === id)?.group ?? '';
      for (const layer of shot.layers) {
        if (layer.group === id) layer.group = outer;
        if (layer.parent === id) layer.parent = '';
      }
      shot.layers = shot.layers.filter((l) => l.id !== id);
      shot.tracks = shot.tracks.filter((t) => t.thing !== id);
      dropUnlinked(shot);
    },
  };
}

/**
 * A copy of a layer with its keys, above it, and of all that it holds.
 * @param copy its id; what it holds is called after it.
 * @param later frames, from 0 on, by which span and keys are later, so that copies make a staircase.
 */
export function duplicateLayer(id: string, copy: string, name: string, later = 0): LayerCommand {
  return {
    label: 'Duplicate layer',
    run: (shot) => {
      const at = shot.layers.findIndex((l) => l.id === id);
      if (at < 0) return;
      const copied = withHeld(shot.layers, id);
      const named = new Map(copied.map((of, i) => [of, i === 0 ? copy : `${copy}-${i}`]));
      const copies = shot.layers
        .filter((l) => named.has(l.id))
        .map(({ order: _, ...source }): Layer => {
          const made = structuredCopy(source as Layer);
          for (const link of ['group', 'parent', 'matteLayer'] as const)
            made[link] = named.get(made[link]) ?? made[link];
          const own = source.id === id ? { name } : {};
          return { ...made, ...own, id: named.get(source.id)!, start: source.start + later };
        });
      shot.layers.splice(at + 1, 0, ...copies);
      const tracks = shot.tracks.filter((t) => named.has(t.thing)).map((t) => structuredCopy(t));
      for (const { thing, path, keys } of tracks)
        shot.tracks.push({
          ...{ thing: named.get(thing)!, path },
          keys: keys.map((k) => ({ ...k, frame: k.frame + later })),
        });
    },
  };
}

const structuredCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/**
 * Gives layers some of the values of another: which, by their names; keys of those go along.
 * @param later frames by which the span and the keys that come are later in each than in the one before, so that they make a staircase.
 */
export function copyLayerValues(
  from: string,
  to: readonly string[],
  names: readonly string[],
  later = 0,
): LayerCommand {
  return {
    label: to.length > 1 ? `Copy values to ${to.length} layers` : 'Copy values to layer',
    run: (shot) => {
      const source = shot.layers.find((l) => l.id === from) as Record<string, unknown> | undefined;
      if (!source) return;
      for (const layer of shot.layers as unknown as Array<Record<string, unknown>>) {
        if (!to.includes(layer.id as string)) continue;
        const shared = names.filter((name) => name in layer && name in source);
        for (const name of shared) layer[name] = source[name];
        const by = later * (to.indexOf(layer.id as string) + 1);
        if (by > 0) layer.start = (source.start as number) + by;
        shot.tracks = shot.tracks.filter((t) => t.thing !== layer.id || !shared.includes(t.path));
        for (const track of shot.tracks.filter((t) => t.thing === from && shared.includes(t.path)))
          shot.tracks.push({
            ...{ thing: layer.id as string, path: track.path },
            keys: structuredCopy(track.keys).map((key) => ({ ...key, frame: key.frame + by })),
          });
      }
    },
  };
}

/** Gives values of layers, by their names, what they usually are, and takes their keys away. */
export function clearLayerValues(ids: readonly string[], names: readonly string[]): LayerCommand {
  return {
    label: ids.length > 1 ? `Clear values of ${ids.length} layers` : 'Clear values of layer',
    run: (shot) => {
      for (const layer of shot.layers.filter((l) => ids.includes(l.id))) {
        const properties = layerProperties(layer.kind);
        const cleared = names.filter((name) => name in properties);
        const usual = newLayer(layer.kind, layer.id, layer.name) as unknown as Record<string, unknown>;
        Object.assign(layer, Object.fromEntries(cleared.map((name) => [name, usual[name]])));
        shot.tracks = shot.tracks.filter((t) => t.thing !== layer.id || !cleared.includes(t.path));
      }
      dropUnlinked(shot);
    },
  };
}
