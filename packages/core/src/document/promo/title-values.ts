import { number, propertiesOf, share, type NumberProperty } from '../../properties/index.ts';
import type { Track } from '../shot/index.ts';
import type { PromoDocument, Title } from './types.ts';

/** Values of a title that keys can hold, by the paths of its tracks: their frames count from the title's first. */
export interface TitleValues {
  x: number;
  y: number;
  scale: number;
  rotation: number;
  opacity: number;
  tracking: number;
  weight: number;
  stretch: number;
  bend: number;
}
export type TitlePath = keyof TitleValues;

/** What fields and keys of a title allow. */
export const TITLE_PROPERTIES: Record<TitlePath, NumberProperty> = propertiesOf<TitleValues>()({
  x: share('Across', { min: -1, max: 2, usual: 0.5 }),
  y: share('Down', { min: -1, max: 2, usual: 0.8 }),
  scale: share('Scale', { min: 0.01, max: 100, usual: 1 }),
  rotation: number('Rotation', 'deg', -3600, 3600, { usual: 0 }),
  opacity: share('Opacity', { usual: 1 }),
  tracking: number('Tracking', 'em', -0.5, 5, { step: 0.01, usual: 0 }),
  weight: number('Weight', '', 1, 1000, { step: 10, usual: 400 }),
  stretch: number('Width', '%', 50, 200, { step: 1, usual: 100 }),
  bend: number('Bend', 'deg', -360, 360, { step: 5, usual: 0 }),
});

export const TITLE_PATHS = Object.keys(TITLE_PROPERTIES) as readonly TitlePath[];

const UNSAID: Omit<TitleValues, 'x' | 'y' | 'tracking'> = {
  ...{ scale: 1, rotation: 0, opacity: 1, weight: 400, stretch: 100, bend: 0 },
};

/** Values of a title as it says them, whatever its keys hold. */
export function ownTitleValues(title: Title): TitleValues {
  const said = TITLE_PATHS.flatMap((path) => (title[path] === undefined ? [] : [[path, title[path]]]));
  return { ...UNSAID, ...(Object.fromEntries(said) as TitleValues) };
}

/** Values as a title says them: what is usual need not be said. */
export function saidOfTitle(path: TitlePath, value: number): Partial<Title> {
  const plain = path in UNSAID && UNSAID[path as keyof typeof UNSAID] === value;
  return { [path]: plain ? undefined : value };
}

/** Keys of a title's values. */
export function titleTracks({ tracks }: Pick<PromoDocument, 'tracks'>, id: string): Track[] {
  return tracks.filter((t) => t.thing === id && (TITLE_PATHS as readonly string[]).includes(t.path));
}
