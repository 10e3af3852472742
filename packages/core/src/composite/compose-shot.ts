import {
  newLayer,
  newShot,
  shotTime,
  takeLength,
  type Layer,
  type LayerOf,
  type LayerStack,
  type TakeComposite,
} from '../document/index.ts';
import type { Picture } from '../picture/index.ts';
import { framesToSeconds, type FrameRate } from '../time/index.ts';
import { lightAt, partsAt } from './between-frames.ts';
import { compose } from './compose.ts';
import type { ComposeInput, TextDrawer } from './input.ts';
import { compileLayers } from './layers-at.ts';
import type { Cube } from './cube.ts';
import { filmFrame, filmKey } from './footage.ts';
import type { SeenLayer } from './layers-at.ts';
import { lightOfPicture, type LightFrame, type LightParts } from './light-frame.ts';
import type { PictureCache } from './picture-cache.ts';
import type { Plates } from './plate.ts';
import { withLater } from './shutter.ts';
import { smallLight } from './small-light.ts';
import type { StackCache } from './stack-cache.ts';
import type { VectorPicture } from './vector.ts';

/** What the layers of a frame show, loaded beforehand. */
export interface CompositeSources {
  /** By the take's id; empty: the take that the composite is of. */
  takes: ReadonlyMap<string, LightFrame>;
  /** Light by light, of takes whose lights are set otherwise. */
  parts?: ReadonlyMap<string, LightParts>;
  stills: ReadonlyMap<string, Picture>;
  /** Frames of films by filmKey(). */
  films: ReadonlyMap<string, Picture>;
  cubes: ReadonlyMap<string, Cube>;
  vectors?: ReadonlyMap<string, VectorPicture>;
  /** Pictures of other composites, by the ids of the layers that show them. */
  nested?: ReadonlyMap<string, Picture>;
  text: TextDrawer;
}

/** What files layers ask for, those of their mattes among it. */
export function asked(
  layers: readonly SeenLayer[],
): Record<'takes' | 'composites' | 'parts' | 'stills' | 'films' | 'cubes' | 'vectors', Set<string>> {
  const all = withMattes(layers);
  const of = <K extends Layer['kind']>(kind: K): Array<LayerOf<K>> =>
    all.filter((l): l is SeenLayer & LayerOf<K> => l.kind === kind);
  const mixed = new Set(of('fader').map((l) => l.group));
  return {
    takes: new Set(of('take').map((l) => l.take)),
    composites: new Set(of('composite').map((l) => l.take)),
    parts: new Set(of('take').flatMap((l) => (mixed.has(l.id) ? [l.take] : []))),
    stills: new Set(of('still').flatMap((l) => (l.asset ? [l.asset] : []))),
    films: new Set(of('footage').flatMap((l) => (l.film ? [l.film.list] : []))),
    cubes: new Set(of('lut').flatMap((l) => (l.asset ? [l.asset] : []))),
    vectors: new Set(of('logo').flatMap((l) => (l.asset ? [l.asset] : []))),
  };
}

/** Layers, and those that are their mattes. */
const withMattes = (layers: readonly SeenLayer[]): SeenLayer[] =>
  layers.flatMap((l) => (l.matteFrom ? [l, l.matteFrom] : [l]));

/** A composite that has no layers shows its take. */
const withTake = ({ shot, ...rest }: TakeComposite): TakeComposite => ({
  ...rest,
  shot: shot.layers.length > 0 ? shot : { ...shot, layers: [newLayer('take', 'take', 'Take')] },
});

/** Where a host has the pictures that a composite is made of. */
export interface CompositeReader {
  readonly plates: Plates;
  /** The light of a take's frame, or about it where a take has none; null when the frame is not there. */
  light(take: string, frame: number, view: TakeComposite['view']): Promise<LightFrame | null>;
  /** A frame of a take light by light; null when the take does not keep its lights. */
  parts(take: string, frame: number): Promise<LightParts | null>;
  /** A picture file by its hash; null when it is not there. */
  still(asset: string): Promise<Picture | null>;
  /** A table of colours by its file's hash; null when it is not there. */
  cube(asset: string): Promise<Cube | null>;
  /** A vector picture by its file's hash; null when it is not there. */
  vector(asset: string): Promise<VectorPicture | null>;
  /** A frame of a film by the hash of its list; null when it is not there. */
  film(list: string, frame: number): Promise<Picture | null>;
  text: TextDrawer;
  /** Keeps what lies below a change of the composite that is worked on. */
  readonly cache?: StackCache;
  /** Keeps pictures of other composites that layers show. */
  readonly pictures?: PictureCache;
}

/**
 * A frame of a take with the composite of its shot, all that its layers ask for read first; null when the take's frame is not there. A
 * part of a frame is carried along the motion between two.
 * Other takes and stills that are not there leave a gap.
 * @param width of the picture, at most the take's own; 0: the take's.
 */
export function composeTake(
  take: string,
  composite: TakeComposite,
  frame: number,
  rate: FrameRate,
  reader: CompositeReader,
  width = 0,
): Promise<Picture | null> {
  return composeWithin([], take, withTake(composite), frame, rate, reader, width);
}

/** How deep composites may lie in each other. */
const DEEPEST = 8;

/** @param within takes whose composites this one is shown in. */
async function composeWithin(
  within: readonly string[],
  take: string,
  composite: TakeComposite,
  frame: number,
  rate: FrameRate,
  reader: CompositeReader,
  width: number,
): Promise<Picture | null> {
  const own = await lightAt(reader, take, frame, composite.view);
  if (!own) return null;
  const time = shotTime(composite, frame);
  const sources = await readSources(within, take, composite, own, frame, rate, reader, width);
  const wide = width > 0 ? Math.min(width, own.width) : own.width;
  const size = { width: wide, height: Math.max(1, Math.round((wide * own.height) / own.width)) };
  // What is shown within another has no changes of its own to wait for.
  const cache = within.length === 0 ? reader.cache : null;
  return composeShot(
    reader.plates,
    composite,
    time,
    rate,
    size,
    wide < own.width ? small(sources, size) : sources,
    cache,
  );
}

/** Light as large as the picture that is made of it. Takes that are wanted light by light stay as they are, like their lights. */
function small(sources: CompositeSources, { width, height }: { width: number; height: number }): CompositeSources {
  const own = sources.takes.get('');
  const takes = [...sources.takes].map(([take, frame]): [string, LightFrame] => {
    const alike = frame.width === own?.width && frame.height === own.height;
    return [take, alike && !sources.parts?.has(take) ? smallLight(frame, width, height) : frame];
  });
  return { ...sources, takes: new Map(takes) };
}

/** Reads all that the layers of a frame ask for. @param own the light that they lie over. */
async function readSources(
  within: readonly string[],
  take: string,
  composite: TakeComposite,
  own: LightFrame,
  takeFrame: number,
  rate: FrameRate,
  reader: CompositeReader,
  width: number,
): Promise<CompositeSources> {
  const { view } = composite;
  const frame = shotTime(composite, takeFrame);
  const layers = withLater(compileLayers(composite.shot), frame, shutterOf(own));
  const wanted = asked(layers);
  const takes = new Map([['', own]]);
  for (const other of wanted.takes) {
    // Other takes show their whole frames.
    const light = other ? await reader.light(other, Math.round(frame), view) : null;
    if (light) takes.set(other, light);
  }
  const stills = new Map<string, Picture>();
  for (const asset of wanted.stills) {
    const picture = await reader.still(asset);
    if (picture) stills.set(asset, picture);
  }
  const films = new Map<string, Picture>();
  for (const layer of withMattes(layers)) {
    const at =
      layer.kind === 'footage'
        ? filmFrame(layer, framesToSeconds(frame - (layer.held ?? 0) - layer.start, rate))
        : null;
    if (!at) continue;
    const picture = await reader.film(at.list, at.frame);
    if (picture) films.set(filmKey(at), picture);
  }
  const cubes = new Map<string, Cube>();
  for (const asset of wanted.cubes) {
    const cube = await reader.cube(asset);
    if (cube) cubes.set(asset, cube);
  }
  const parts = new Map<string, LightParts>();
  for (const other of wanted.parts) {
    const found = await (other ? reader.parts(other, Math.round(frame)) : partsAt(reader, take, takeFrame, view));
    if (found) parts.set(other, found);
  }
  const vectors = new Map<string, VectorPicture>();
  for (const asset of wanted.vectors) {
    const vector = await reader.vector(asset);
    if (vector) vectors.set(asset, vector);
  }
  const nested = new Map<string, Picture>();
  const { others = {} } = composite;
  for (const layer of withMattes(layers)) {
    if (layer.kind !== 'composite' || within.length >= DEEPEST || [...within, take].includes(layer.take)) continue;
    const other = others[layer.take];
    if (!other) continue;
    const at = Math.floor(layer.skip + (frame - (layer.held ?? 0) - layer.start) * layer.pace);
    const shown = Math.min(takeLength(other) - 1, Math.max(0, at));
    const whole = { ...withTake(other), others };
    const make = (): Promise<Picture | null> =>
      composeWithin([...within, take], layer.take, whole, shown, rate, reader, width);
    const picture = reader.pictures
      ? await reader.pictures.get(JSON.stringify([within, take, layer.take, whole, shown, width]), make)
      : await make();
    if (picture) nested.set(layer.id, picture);
  }
  return { takes, parts, stills, films, cubes, vectors, nested, text: reader.text };
}

/** Layers of a stack that lie over a picture that has no shot. */
const stacks = new WeakMap<readonly Layer[], Layer[]>();
const overPicture = (layers: readonly Layer[]): Layer[] => {
  const known = stacks.get(layers) ?? [newLayer('take', PICTURE, 'Picture'), ...layers];
  stacks.set(layers, known);
  return known;
};
/** The id of the layer that stands for the picture below. No document's ids have a space. */
const PICTURE = 'the picture';

/**
 * Gets ready to lay the layers of a promo over its picture, as light in the scene and in sRGB on the glass.
 * @param others composites of takes that they show. @returns null where none is seen at the frame.
 */
export async function layersOver(
  stack: LayerStack,
  others: Readonly<Record<string, TakeComposite>>,
  frame: number,
  rate: FrameRate,
  reader: CompositeReader,
): Promise<((below: Picture) => Picture) | null> {
  const shot = { ...NO_SHOT, tracks: stack.tracks, eases: stack.eases, layers: overPicture(stack.layers) };
  if (stack.layers.length === 0 || compileLayers(shot).at(frame).length <= 1) return null;
  const composite: TakeComposite = { shot, view: 'plain', others: { ...others } };
  const sources = await readSources([], '', composite, NO_LIGHT, frame, rate, reader, 0);
  return (below) => {
    const light = lightOfPicture(below, 'plain');
    const takes = new Map([...sources.takes, ['', light] as const]);
    return composeShot(reader.plates, composite, frame, rate, below, { ...sources, takes });
  };
}

const NO_SHOT = newShot('', '', '', 1);
const NO_LIGHT: LightFrame = { width: 1, height: 1, light: new Float32Array(3), matte: new Float32Array(1) };

/** A frame of a shot's composite, in the size of the picture that is wanted. */
export function composeShot(
  plates: Plates,
  { shot, view }: TakeComposite,
  frame: number,
  rate: FrameRate,
  { width, height }: { width: number; height: number },
  { takes, parts, stills, films, cubes, vectors, nested, text }: CompositeSources,
  cache: StackCache | null = null,
): Picture {
  const input: ComposeInput = {
    ...{ width, height, frame, view, text },
    seconds: framesToSeconds(frame, rate),
    take: (take) => takes.get(take) ?? null,
    parts: (take) => parts?.get(take) ?? null,
    vector: (asset) => vectors?.get(asset) ?? null,
    still: (asset) => stills.get(asset) ?? null,
    cube: (asset) => cubes.get(asset) ?? null,
    nested: (layer) => nested?.get(layer) ?? null,
    footage: (layer) => {
      const at = filmFrame(layer, framesToSeconds(frame - (layer.held ?? 0) - layer.start, rate));
      return (at && films.get(filmKey(at))) ?? null;
    },
  };
  return compose(plates, withLater(compileLayers(shot), frame, shutterOf(takes.get(''))), input, cache);
}

/** How long a take's shutter is open, frames. */
const shutterOf = (take: LightFrame | undefined): number => take?.depths?.space.shutter ?? 0;
