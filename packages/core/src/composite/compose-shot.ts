import type { Layer, LayerOf, TakeComposite } from '../document/index.ts';
import type { Picture } from '../picture/index.ts';
import { framesToSeconds, type FrameRate } from '../time/index.ts';
import { compose, type TextDrawer } from './compose.ts';
import { compileLayers } from './layers-at.ts';
import type { LightFrame } from './light-frame.ts';

/** What the layers of a frame show, loaded beforehand. */
export interface CompositeSources {
  /** By the take's id; empty: the take that the composite is of. */
  takes: ReadonlyMap<string, LightFrame>;
  stills: ReadonlyMap<string, Picture>;
  text: TextDrawer;
}

/** Takes and stills that layers ask for. */
export function asked(layers: readonly Layer[]): { takes: Set<string>; stills: Set<string> } {
  const of = <K extends Layer['kind']>(kind: K): Array<LayerOf<K>> =>
    layers.filter((l): l is LayerOf<K> => l.kind === kind);
  return {
    takes: new Set(of('take').map((l) => l.take)),
    stills: new Set(of('still').flatMap((l) => (l.asset ? [l.asset] : []))),
  };
}

/** A frame of a shot's composite, in the size of the picture that is wanted. */
export function composeShot(
  { shot, view }: TakeComposite,
  frame: number,
  rate: FrameRate,
  { width, height }: { width: number; height: number },
  { takes, stills, text }: CompositeSources,
): Picture {
  return compose(compileLayers(shot).at(frame), {
    ...{ width, height, frame, view, text },
    seconds: framesToSeconds(frame, rate),
    take: (take) => takes.get(take) ?? null,
    still: (asset) => stills.get(asset) ?? null,
  });
}
