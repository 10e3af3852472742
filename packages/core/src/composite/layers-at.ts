import { layerProperties, type Layer, type LinkedEase, type ShotDocument, type Track } from '../document/index.ts';
import { compileCurve, type Curve } from '../motion/index.ts';

/** Layers of a shot made ready for any frame. */
export interface LayerProgram {
  /** Those that are seen at a frame, keyed values at theirs; the lowest first. */
  at(frame: number): Layer[];
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
      moving.flatMap(({ layer, curves }) => {
        const { start, length } = layer;
        if (frame < start || (length > 0 && frame >= start + length)) return [];
        const now = curves.length === 0 ? layer : { ...layer };
        for (const [name, curve] of curves) (now as unknown as Record<string, unknown>)[name] = curve.at(frame);
        return now.visible && now.opacity > 0 ? [now] : [];
      }),
  };
  programs.set(layers, { tracks, eases, program });
  return program;
}

function curvesOf(layer: Layer, tracks: readonly Track[], eases: readonly LinkedEase[]): Array<[string, Curve]> {
  const properties = layerProperties(layer.kind);
  return tracks.flatMap((track): Array<[string, Curve]> => {
    const property = track.thing === layer.id ? properties[track.path] : undefined;
    const curve = property && compileCurve(track, property, eases);
    return curve ? [[track.path, curve]] : [];
  });
}
