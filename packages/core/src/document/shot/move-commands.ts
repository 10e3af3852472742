import type { PropertyValue } from '../../properties/index.ts';
import type { Command } from '../edit.ts';
import type { Point } from '../common.ts';
import { dropUnlinked } from './commands.ts';
import type { MovePath, PathPoint } from './paths.ts';
import { recipeFacts, type AppliedRecipe, type RecipeKind } from './recipes.ts';
import type { Rule } from './rules.ts';
import type { ShotDocument } from './types.ts';

type ShotCommand = Command<ShotDocument>;

/** A recipe as it is when it is new. */
export function newRecipe(
  id: string,
  kind: RecipeKind,
  values: Partial<Omit<AppliedRecipe, 'id' | 'kind'>> & Pick<AppliedRecipe, 'start' | 'length'>,
): AppliedRecipe {
  const { title, options, ease } = recipeFacts(kind);
  return {
    ...{ id, name: title, kind, muted: false, things: [], camera: '', at: [], variants: [], ease },
    ...values,
    options: { ...options, ...values.options },
  };
}

export function applyRecipe(recipe: AppliedRecipe): ShotCommand {
  return { label: `Apply ${recipe.name}`, run: (shot) => void shot.recipes.push(recipe) };
}

/** Gives a recipe other values; options that are not given stay. */
export function changeRecipe(id: string, values: Partial<Omit<AppliedRecipe, 'id' | 'kind'>>): ShotCommand {
  return {
    label: 'Change recipe',
    run: (shot) => {
      const recipe = shot.recipes.find((r) => r.id === id);
      if (!recipe) return;
      const options: Record<string, PropertyValue> = { ...recipe.options, ...values.options };
      Object.assign(recipe, values, { options });
      dropUnlinked(shot);
    },
  };
}

/** Takes a recipe away, with all that it makes. */
export function removeRecipe(id: string): ShotCommand {
  return {
    label: 'Remove recipe',
    run: (shot) => {
      shot.recipes = shot.recipes.filter((r) => r.id !== id);
      dropUnlinked(shot);
    },
  };
}

export function addRule(rule: Rule): ShotCommand {
  return { label: `Add rule ${rule.name}`, run: (shot) => void shot.rules.push(rule) };
}

/** Gives a rule other values of its kind. */
export function changeRule(id: string, values: Readonly<Record<string, unknown>>, label = 'Change rule'): ShotCommand {
  return {
    label,
    run: (shot) => {
      const rule = shot.rules.find((r) => r.id === id);
      if (rule) Object.assign(rule, values);
    },
  };
}

/** Takes a rule away with the keys of its own numbers. */
export function removeRule(id: string): ShotCommand {
  return {
    label: 'Remove rule',
    run: (shot) => {
      shot.rules = shot.rules.filter((r) => r.id !== id);
      shot.tracks = shot.tracks.filter((t) => t.thing !== id);
      dropUnlinked(shot);
    },
  };
}

/** Moves a rule so many places among those of its thing: rules act in their order. */
export function moveRule(id: string, by: number): ShotCommand {
  return {
    label: 'Change the order of rules',
    run: (shot) => {
      const rule = shot.rules.find((r) => r.id === id);
      if (!rule) return;
      const own = shot.rules.filter((r) => r.thing === rule.thing);
      const to = own.indexOf(rule) + by;
      if (to < 0 || to >= own.length) return;
      const rest = shot.rules.filter((r) => r !== rule);
      const place = rest.indexOf(own[to]) + (by > 0 ? 1 : 0);
      shot.rules = [...rest.slice(0, place), rule, ...rest.slice(place)];
    },
  };
}

export function addPath(path: MovePath): ShotCommand {
  return { label: 'Draw path', run: (shot) => void shot.paths.push(path) };
}

export function changePath(id: string, values: Partial<Pick<MovePath, 'name' | 'closed' | 'points'>>): ShotCommand {
  return {
    label: 'Change path',
    run: (shot) => {
      const path = shot.paths.find((p) => p.id === id);
      if (!path) return;
      Object.assign(path, values);
      // Keys of points that are gone go with them.
      shot.tracks = shot.tracks.filter(
        ({ thing, path: of }) => thing !== id || path.points.some((p) => p.id === of.split('.')[1]),
      );
      dropUnlinked(shot);
    },
  };
}

export function movePathPoint(id: string, point: string, at: Point): ShotCommand {
  return {
    label: 'Move point of a path',
    run: (shot) => {
      const found = shot.paths.find((p) => p.id === id)?.points.find((p: PathPoint) => p.id === point);
      if (found) found.at = at;
    },
  };
}

/** Gives a point of a path handles of its own, relative to it; null: as smooth as its neighbours allow. */
export function bendPathPoint(id: string, point: string, handles: PathPoint['handles']): ShotCommand {
  return {
    label: handles ? 'Bend a path' : 'Smooth a path',
    run: (shot) => {
      const found = shot.paths.find((p) => p.id === id)?.points.find((p) => p.id === point);
      if (found) found.handles = handles;
    },
  };
}

/** Takes a path away with its keys, and the rules that ride on it. */
export function removePath(id: string): ShotCommand {
  return {
    label: 'Remove path',
    run: (shot) => {
      const riding = shot.rules.filter((r) => r.kind === 'ride' && r.target === id).map((r) => r.id);
      shot.paths = shot.paths.filter((p) => p.id !== id);
      shot.tracks = shot.tracks.filter((t) => t.thing !== id);
      riding.forEach((rule) => removeRule(rule).run(shot));
      dropUnlinked(shot);
    },
  };
}

/** Where the shot begins in the music, seconds; null: where its first clip in the promo has it. */
export function placeInMusic(seconds: number | null): ShotCommand {
  return { label: 'Place in the music', run: (shot) => void (shot.musicFrom = seconds) };
}
