import { compileLayers } from '../composite/index.ts';
import {
  ownTitleValues,
  saidOfTitle,
  TITLE_PROPERTIES,
  titleTracks,
  type LayerOf,
  type PromoDocument,
  type Title,
  type TitlePath,
  type TitleValues,
} from '../document/index.ts';
import { keyedValues } from './keyed-values.ts';
import { footageLength } from './overlays.ts';
import type { TakeFrame } from './pace.ts';
import { filledTitle } from './variables.ts';

/** Values of a title at frames of its own. Before its first key and after its last a value stays. */
export function titleValues(title: Title, promo: Pick<PromoDocument, 'tracks' | 'eases'>): (at: number) => TitleValues {
  return keyedValues(ownTitleValues(title), titleTracks(promo, title.id), TITLE_PROPERTIES, promo);
}

/** A title as it is at a frame of the promo: filled in, its keyed values set. */
export function titleAt(title: Title, promo: PromoDocument, frame: number): Title {
  const filled = filledTitle(title, promo.variables);
  const tracks = titleTracks(promo, title.id);
  if (tracks.length === 0) return filled;
  const now = titleValues(title, promo)(frame - title.start);
  const keyed = tracks.map(({ path }) => saidOfTitle(path as TitlePath, now[path as TitlePath]));
  return Object.assign({ ...filled }, ...keyed) as Title;
}

/** The stroke that a title's letters go along, as it is at a frame of the promo; null where there is none. */
export function strokeUnder(title: Title, promo: PromoDocument, frame: number): LayerOf<'stroke'> | null {
  const stroke = title.along === undefined ? undefined : promo.layers.find(({ id }) => id === title.along);
  if (stroke?.kind !== 'stroke') return null;
  // Hidden, clear or over, it is there for the letters.
  const layers = [{ ...stroke, visible: true, start: 0, length: 0, opacity: 1, group: '' }];
  const tracks = promo.tracks.filter((t) => t.thing === stroke.id && t.path !== 'opacity');
  const [now] = compileLayers({ layers, tracks, eases: promo.eases }).at(frame);
  return (now as LayerOf<'stroke'> | undefined) ?? null;
}

/** The frame of footage that is seen through a title's letters at a frame of the promo; past its end its last. */
export function windowFrame(title: Title, promo: PromoDocument, frame: number): TakeFrame | null {
  const { window, start, length } = title;
  const frames = window && frame >= start && frame < start + length ? footageLength(promo, window.footage) : 0;
  if (!window || frames === 0) return null;
  return { take: window.footage, frame: Math.min(frames - 1, window.first + frame - start), weight: 1 };
}
