import {
  propertyOf,
  thingIndex,
  type AppliedRecipe,
  type Key,
  type LinkedEase,
  type MovePath,
  type Rule,
  type SetDocument,
  type ShotDocument,
  type Track,
} from '../document/index.ts';
import { readProperty } from '../properties/index.ts';
import { compileCurve } from './curve.ts';
import { makeRecipe, type RecipeMoves, type RecipeScene } from './recipes/index.ts';

/** A shot's moves with its recipes made into what they are made of. */
export interface ExpandedMoves {
  tracks: readonly Track[];
  rules: readonly Rule[];
  paths: readonly MovePath[];
  /** What each recipe made, by its id. */
  made: ReadonlyMap<string, RecipeMoves>;
}

const known = new WeakMap<ShotDocument, { set: SetDocument; moves: ExpandedMoves }>();
/** What a recipe made last, and of what: as long as it finds the same it makes the same objects. */
const madeBefore = new WeakMap<AppliedRecipe, { found: string; moves: RecipeMoves }>();

/**
 * Makes the recipes of a shot into keys and rules, in the order in which they begin: each finds things where keys and earlier
 * recipes have them. Keys of the same property come together on one track; at the same frame a key of the shot's own wins,
 * then that of the later recipe. Rules of recipes act after the shot's own.
 */
export function expandMoves(set: SetDocument, shot: ShotDocument): ExpandedMoves {
  const before = known.get(shot);
  if (before?.set === set) return before.moves;
  const moves = expanded(set, shot);
  known.set(shot, { set, moves });
  return moves;
}

const nameOf = (thing: string, path: string): string => `${thing} ${path}`;

function expanded(set: SetDocument, shot: ShotDocument): ExpandedMoves {
  const acting = shot.recipes.filter((r) => !r.muted).sort((a, b) => a.start - b.start);
  if (acting.length === 0) return { tracks: shot.tracks, rules: shot.rules, paths: shot.paths, made: new Map() };
  const things = thingIndex(set);
  const tracks = new Map(apartOf(shot.tracks).map((t) => [nameOf(t.thing, t.path), t]));
  const own = new Map(tracks);
  const camera = set.cameras.find((c) => c.id === shot.camera) ?? null;
  const made = new Map<string, RecipeMoves>();
  for (const recipe of acting) {
    const asked: string[] = [];
    const scene: RecipeScene = {
      length: shot.length,
      seed: shot.seed,
      linked: shot.eases,
      camera,
      thing: (id) => things.get(id)?.thing,
      number: (thing, path, frame) => {
        const value = numberAt(set, tracks, shot.eases, thing, path, frame);
        asked.push(`${value}`);
        return value;
      },
    };
    const moves = keptMoves(recipe, scene, asked);
    made.set(recipe.id, moves);
    for (const track of moves.tracks) {
      const name = nameOf(track.thing, track.path);
      tracks.set(name, together(tracks.get(name), track, own.get(name)));
    }
  }
  const all = [...made.values()];
  return {
    tracks: [...tracks.values()],
    rules: [...shot.rules, ...all.flatMap((m) => m.rules)],
    paths: [...shot.paths, ...all.flatMap((m) => m.paths)],
    made,
  };
}

/** The moves of a recipe; the very objects of last time when they are alike, so that what follows from them is kept too. */
function keptMoves(recipe: AppliedRecipe, scene: RecipeScene, asked: readonly string[]): RecipeMoves {
  const moves = makeRecipe(recipe, scene);
  const found = JSON.stringify([asked, moves]);
  const last = madeBefore.get(recipe);
  if (last?.found === found) return last.moves;
  madeBefore.set(recipe, { found, moves });
  return moves;
}

function numberAt(
  set: SetDocument,
  tracks: ReadonlyMap<string, Track>,
  linked: readonly LinkedEase[],
  thing: string,
  path: string,
  frame: number,
): number {
  const found = thingIndex(set).get(thing);
  const property = found && propertyOf(found, path);
  if (!property) return 0;
  const track = tracks.get(nameOf(thing, path));
  const curve = track && compileCurve(track, property, linked);
  const value = curve ? curve.at(frame) : readProperty(found.thing, path);
  return typeof value === 'number' ? value : 0;
}

const axes = new WeakMap<Track, Track[]>();

/** Keys of whole places as keys of their three numbers, which recipes work with. */
function apartOf(tracks: readonly Track[]): Track[] {
  return tracks.flatMap((track) => {
    if (!Array.isArray(track.keys[0]?.value)) return [track];
    const parts =
      axes.get(track) ??
      [0, 1, 2].map((axis) => ({
        thing: track.thing,
        path: `${track.path}.${axis}`,
        keys: track.keys.map((key) => ({ ...key, value: (key.value as number[])[axis] })),
      }));
    axes.set(track, parts);
    return parts;
  });
}

const joined = new WeakMap<Track, { there: Track | undefined; track: Track }>();
const SAME_FRAME = 1e-6;

/** Keys that are there with those of a recipe. */
function together(there: Track | undefined, made: Track, own: Track | undefined): Track {
  const last = joined.get(made);
  if (last && last.there === there) return last.track;
  const taken = (keys: readonly Key[], frame: number): boolean =>
    keys.some((k) => Math.abs(k.frame - frame) < SAME_FRAME);
  const fresh = made.keys.filter((k) => !own || !taken(own.keys, k.frame));
  const kept = there?.keys.filter((k) => !taken(fresh, k.frame)) ?? [];
  const track = { ...made, keys: [...kept, ...fresh].sort((a, b) => a.frame - b.frame) };
  joined.set(made, { there, track });
  return track;
}
