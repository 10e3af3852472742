import { makeFinish, type Finish } from '../../finish/index.ts';
import type { Model } from '../model.ts';

/** Files that came with a model, by the name it calls them. */
export type Resources = Readonly<Record<string, Uint8Array>>;

/** Points and lines that a file holds: they are no surfaces. */
export interface LeftOut {
  points: number;
  lines: number;
}

/** What a reader makes of a file. */
export interface ReadModel {
  model: Model;
  /** Sentences for the person: what was assumed or left out. */
  notes: string[];
  leftOut: LeftOut;
}

const last = (path: string): string => path.trim().split(/[\\/]/).pop()!.toLowerCase();

/** A file by the path that a model writes; folders and capitals do not count, they seldom survive being sent. */
export function resourceNamed(resources: Resources, path: string): Uint8Array | undefined {
  if (Object.hasOwn(resources, path)) return resources[path];
  const found = Object.keys(resources).find((name) => last(name) === last(path));
  return found === undefined ? undefined : resources[found];
}

/** The finish of a surface that came without one: grey, or white under colours of its own. */
export function plainFinish(name: string, coloured = false): Finish {
  return makeFinish(name, { roughness: 0.5, baseColor: coloured ? [1, 1, 1] : [0.6, 0.6, 0.6] });
}
