import { layerProperties, type Layer, type LinkedEase, type ShotDocument, type Track } from '../document/index.ts';
import { compileCurve, type Curve } from '../motion/index.ts';

/** A layer at a frame, with what it takes from others. */
export type SeenLayer = Layer & {
  /** Layers that it goes along with, the outermost first. */
  carriers?: readonly Carrier[];
  /** The layer that is its matte. */
  matteFrom?: SeenLayer;
  /** The same as the shutter closes. */
  later?: Layer;
  /** Frames that it stands back behind the picture's, because it is held. */
  held?: number;
  /** As it was at earlier times, the latest first: what it trails behind it. */
  earlier?: readonly Layer[];
};

/** What carries a layer. */
export type Carrier = Layer & Pick<SeenLayer, 'later'>;

/** Layers of a shot made ready for any frame. */
export interface LayerProgram {
  /**
   * Those that are seen at a frame, keyed values at theirs; the lowest first. `group` names only groups that are there, and lights' faders
   * are there when they are off, since that is seen too.
   */
  at(frame: number): SeenLayer[];
}

/** A program, and what it was made from besides its layers. */
interface Known {
  tracks: readonly Track[];
  eases: readonly LinkedEase[];
  program: LayerProgram;
}
const programs = new WeakMap<readonly Layer[], Known>();

/** Compiles the composite of a shot; the same documents give the same program. */
export function compileLayers({
  layers,
  tracks,
  eases,
}: Pick<ShotDocument, 'layers' | 'tracks' | 'eases'>): LayerProgram {
  const known = programs.get(layers);
  if (known?.tracks === tracks && known.eases === eases) return known.program;
  const moving = layers.map((layer) => ({ layer, curves: curvesOf(layer, tracks, eases) }));
  const program: LayerProgram = {
    at: (frame) =>
      seen(
        moving.map(({ layer, curves }): SeenLayer => {
          const { hold, trail, trailStep } = layer;
          if (hold <= 1 && trail === 0) return valuesAt(layer, curves, frame);
          const own = hold > 1 ? layer.start + Math.floor((frame - layer.start) / hold) * hold : frame;
          const earlier = Array.from({ length: trail }, (_, k) => own - (k + 1) * trailStep)
            .filter((at) => at >= layer.start)
            .map((at) => valuesAt(layer, curves, at));
          return { ...valuesAt(layer, curves, own), held: frame - own, earlier };
        }),
        frame,
      ),
  };
  programs.set(layers, { tracks, eases, program });
  return program;
}

/** A layer with its keyed values at a frame. */
function valuesAt(layer: Layer, curves: ReadonlyArray<[string, Curve]>, frame: number): Layer {
  const now = curves.length === 0 ? layer : { ...layer };
  for (const [name, curve] of curves) (now as unknown as Record<string, unknown>)[name] = curve.at(frame);
  return now;
}

/** Of all layers at a frame those that are seen. */
function seen(all: readonly SeenLayer[], frame: number): SeenLayer[] {
  const byId = new Map(all.map((layer) => [layer.id, layer]));
  const holds = (id: string, kind: Layer['kind']): boolean => {
    const holding = byId.get(id)?.kind;
    if (kind === 'mask') return holding !== undefined && holding !== 'mask' && holding !== 'fader';
    return holding === (kind === 'fader' ? 'take' : 'group');
  };
  const holder = ({ id, kind, group }: Layer): string =>
    group && holds(group, kind) && !inRing(byId, id, 'group') ? group : '';
  const on = new Map<string, boolean>();
  const bases = new Map<string, Layer>();
  for (const layer of all) {
    const { start, length, visible, opacity, clip, kind } = layer;
    const during = frame >= start && (length === 0 || frame < start + length);
    let isOn = kind === 'fader' ? true : during && visible && opacity > 0;
    // What is clipped goes with the layer that it is clipped to.
    const rail = `${holder(layer)} ${layer.space}`;
    if (kind === 'fader' || kind === 'mask') isOn &&= holder(layer) !== '' || kind === 'fader';
    else if (!clip) bases.set(rail, layer);
    else if (bases.has(rail)) isOn &&= on.get(bases.get(rail)!.id)!;
    on.set(layer.id, isOn);
  }
  const reached = (layer: Layer): boolean => {
    if (!on.get(layer.id)) return false;
    const group = holder(layer);
    // A mask may cut a layer that is seen as another's matte alone.
    return group === '' || layer.kind === 'mask' || reached(byId.get(group)!);
  };
  const dressed = (layer: SeenLayer): SeenLayer => {
    const carriers = carriersOf(byId, layer);
    const group = holder(layer);
    if (carriers.length === 0 && group === layer.group) return layer;
    return { ...layer, group, carriers };
  };
  return all.filter(reached).map((layer): SeenLayer => {
    const wants = layer.matte !== 'none' || (layer.kind === 'filter' && layer.form === 'displace by layer');
    const matte = wants && layer.matteLayer !== layer.id ? byId.get(layer.matteLayer) : undefined;
    return matte ? { ...dressed(layer), matteFrom: dressed(matte) } : dressed(layer);
  });
}

/** What a layer goes along with, the outermost first; none in a ring. */
function carriersOf(byId: ReadonlyMap<string, Layer>, layer: Layer): Layer[] {
  if (!layer.parent || inRing(byId, layer.id, 'parent')) return [];
  const parent = byId.get(layer.parent);
  return parent ? [...carriersOf(byId, parent), parent] : [];
}

/** Whether a layer leads back to itself. */
function inRing(byId: ReadonlyMap<string, Layer>, id: string, by: 'group' | 'parent'): boolean {
  const met = new Set<string>();
  for (let at = byId.get(byId.get(id)?.[by] ?? ''); at && !met.has(at.id); at = byId.get(at[by])) {
    if (at.id === id) return true;
    met.add(at.id);
  }
  return false;
}

/** The layers that one is drawn from: itself, what it holds, holds it, carries it, is its matte, or lies right below when it is clipped. */
export function drawnWith(layers: readonly Layer[], id: string): Layer[] {
  const byId = new Map(layers.map((layer) => [layer.id, layer]));
  const wanted = new Set<string>();
  const take = (layer: Layer | undefined): void => {
    if (!layer || wanted.has(layer.id)) return;
    wanted.add(layer.id);
    for (const mask of layers) if (mask.kind === 'mask' && mask.group === layer.id) wanted.add(mask.id);
    for (const other of [layer.group, layer.parent, layer.matteLayer]) take(byId.get(other));
    if (!layer.clip) return;
    const below = layers.slice(0, layers.indexOf(layer)).reverse();
    take(below.find((l) => l.group === layer.group && l.space === layer.space && !l.clip));
  };
  const held = (of: string): void => {
    for (const layer of layers) {
      if (layer.group !== of || wanted.has(layer.id)) continue;
      take(layer);
      held(layer.id);
    }
  };
  take(byId.get(id));
  if (byId.has(id)) held(id);
  return layers.filter((layer) => wanted.has(layer.id));
}

function curvesOf(layer: Layer, tracks: readonly Track[], eases: readonly LinkedEase[]): Array<[string, Curve]> {
  const properties = layerProperties(layer.kind);
  return tracks.flatMap((track): Array<[string, Curve]> => {
    const property = track.thing === layer.id ? properties[track.path] : undefined;
    const curve = property && compileCurve(track, property, eases);
    return curve ? [[track.path, curve]] : [];
  });
}
