import type { Command } from '../edit.ts';
import { dropUnlinked, type Track } from '../shot/index.ts';
import { dropTracks } from './clip-commands.ts';
import { heldRuns } from './text-runs.ts';
import { titleTracks, TITLE_PATHS, type TitlePath } from './title-values.ts';
import type { PromoDocument, TextRun, Title } from './types.ts';

type PromoCommand = Command<PromoDocument>;

const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

export function addTitle(title: Title): PromoCommand {
  return { label: 'Add title', run: (promo) => void promo.titles.push(title) };
}

export function bringCaptions(titles: readonly Title[]): PromoCommand {
  return { label: 'Bring in captions', run: (promo) => void promo.titles.push(...titles) };
}

/** Changes a title. Where its beginning is trimmed its keys stay where they are in the promo. */
export function changeTitle(id: string, label: string, values: Partial<Omit<Title, 'id'>>): PromoCommand {
  return {
    label,
    run: (promo) => {
      const title = promo.titles.find((t) => t.id === id);
      if (!title) return;
      const trimmed = values.start !== undefined && values.length !== undefined ? values.start - title.start : 0;
      Object.assign(title, values);
      if (trimmed !== 0) for (const { keys } of titleTracks(promo, id)) for (const key of keys) key.frame -= trimmed;
    },
  };
}

/** Writes a title anew; letters that were set apart and are still there stay so. */
export function writeTitle(id: string, text: string): PromoCommand {
  return {
    label: 'Write title',
    run: ({ titles }) => {
      const title = titles.find((t) => t.id === id);
      if (!title) return;
      setRuns(title, heldRuns(title.runs ?? [], title.text, text));
      title.text = text;
    },
  };
}

/** Sets letters of a title apart, or changes how; letters of other runs that it takes up are theirs no more. */
export function setRun(id: string, label: string, run: TextRun): PromoCommand {
  return {
    label,
    run: ({ titles }) => {
      const title = titles.find((t) => t.id === id);
      if (!title || run.from >= run.to) return;
      const others = (title.runs ?? []).flatMap((other): TextRun[] => [
        { ...other, to: Math.min(other.to, run.from) },
        { ...other, from: Math.max(other.from, run.to) },
      ]);
      setRuns(
        title,
        [...others, run].filter(({ from, to }) => from < to).sort((a, b) => a.from - b.from),
      );
    },
  };
}

/** Sets a run's letters as all others are. */
export function clearRun(id: string, from: number): PromoCommand {
  return {
    label: 'Set letters like the others',
    run: ({ titles }) => {
      const title = titles.find((t) => t.id === id);
      if (title?.runs)
        setRuns(
          title,
          title.runs.filter((run) => run.from !== from),
        );
    },
  };
}

function setRuns(title: Title, runs: TextRun[]): void {
  if (runs.length > 0) title.runs = runs;
  else delete title.runs;
}

/** Keys values of a title anew: keys of these go, others stay. Frames count from the title's first. */
export function keyTitle(
  id: string,
  label: string,
  keys: Partial<Record<TitlePath, Track<number>['keys']>>,
): PromoCommand {
  return {
    label,
    run: (promo) => {
      promo.tracks = promo.tracks.filter((t) => t.thing !== id || !(t.path in keys));
      for (const [path, list] of Object.entries(keys))
        if (list.length > 0) promo.tracks.push({ thing: id, path, keys: list });
      dropUnlinked(promo);
    },
  };
}

/** Takes all keys of a title away: it stays as it says. */
export function clearTitleKeys(id: string): PromoCommand {
  return keyTitle(id, 'Title at rest', Object.fromEntries(TITLE_PATHS.map((path) => [path, []])));
}

/** A title with the keys of another. */
export function copyTitle(from: string, title: Title): PromoCommand {
  return {
    label: 'Duplicate title',
    run: (promo) => {
      promo.titles.push(title);
      for (const track of copyOf(titleTracks(promo, from))) promo.tracks.push({ ...track, thing: title.id });
    },
  };
}

export function deleteTitle(id: string): PromoCommand {
  return {
    label: 'Delete title',
    run: (promo) => {
      promo.titles = promo.titles.filter((t) => t.id !== id);
      dropTracks(promo, (thing) => thing === id);
    },
  };
}

/** What of a title is its style: all but its words, its place in time and where it lies. */
export const TITLE_STYLE = [
  ...(['font', 'size', 'tracking', 'colour', 'align', 'arrive', 'leave', 'parts', 'dress', 'fill'] as const),
  ...(['measure', 'balanced', 'bend', 'weight', 'stretch', 'leading', 'unkerned'] as const),
] as const;
export type TitleStyle = Pick<Title, (typeof TITLE_STYLE)[number]>;

export function styleOf(title: Title): TitleStyle {
  return copyOf(
    Object.fromEntries(TITLE_STYLE.flatMap((key) => (title[key] === undefined ? [] : [[key, title[key]]]))),
  ) as unknown as TitleStyle;
}

/** Gives titles a style; what it lacks they lose. Times of parts are of a title's own words. */
export function styleTitles(ids: readonly string[], style: TitleStyle): PromoCommand {
  return {
    label: ids.length === 1 ? 'Style title' : `Style ${ids.length} titles`,
    run: ({ titles }) => {
      for (const title of titles.filter((t) => ids.includes(t.id))) {
        const times = title.parts?.times ?? [];
        const values = title as unknown as Record<string, unknown>;
        for (const key of TITLE_STYLE)
          if (style[key] === undefined) delete values[key];
          else values[key] = copyOf(style[key]);
        if (title.parts) title.parts.times = times;
      }
    },
  };
}
