import type { NumberProperty } from '../../properties/index.ts';
import type { Command } from '../edit.ts';
import { dropUnlinked } from './commands.ts';
import type { AppliedRecipe } from './recipes.ts';
import type { Ease } from './eases.ts';
import { RULES, type Rule } from './rules.ts';
import type { ShotDocument } from './types.ts';

type ShotCommand = Command<ShotDocument>;

/** Frame at which the last thing of a recipe is done. */
export function recipeEnd({ start, length, things, at, options }: AppliedRecipe): number {
  const apart = (options.apart as number | undefined) ?? 0;
  const last = at.length > 0 ? at[at.length - 1] : apart * Math.max(0, things.length - 1);
  return start + last + length;
}

/** A frame that a rule begins or ends at, moved as far as its kind allows: what never ends does not end later. */
function movedEnd(rule: Rule, name: 'start' | 'end', to: number): number {
  const { min, max } = RULES[rule.kind].properties[name] as NumberProperty;
  return Math.min(max, Math.max(min, to));
}

/**
 * Makes a part of a shot last longer, or shorter: everything in it is stretched, all that comes after it comes later, and the
 * shot is longer by as much. Whole frames stay whole. Keys of the composite go along.
 */
export function stretchSpan(from: number, to: number, factor: number): ShotCommand {
  const longer = Math.max(1, Math.round((to - from) * factor));
  const rate = longer / (to - from);
  const moved = (frame: number): number => {
    if (frame <= from) return frame;
    if (frame >= to) return frame + longer - (to - from);
    const at = from + (frame - from) * rate;
    return Number.isInteger(frame) ? Math.round(at) : at;
  };
  return {
    label: factor > 1 ? 'Slow this part' : 'Quicken this part',
    run: (shot) => {
      shot.length = Math.max(1, Math.round(moved(shot.length)));
      for (const { keys } of shot.tracks) for (const key of keys) key.frame = moved(key.frame);
      for (const recipe of shot.recipes) {
        const [start, end] = [moved(recipe.start), moved(recipe.start + recipe.length)];
        recipe.at = recipe.at.map((at) => Math.round(moved(recipe.start + at) - start));
        Object.assign(recipe, { start, length: Math.max(1, end - start) });
      }
      for (const rule of shot.rules) {
        if ('start' in rule) rule.start = movedEnd(rule, 'start', moved(rule.start));
        if ('end' in rule) rule.end = movedEnd(rule, 'end', moved(rule.end));
      }
      for (const layer of shot.layers) {
        const end = moved(layer.start + layer.length);
        layer.start = moved(layer.start);
        // 0 goes to the end, wherever that is.
        if (layer.length > 0) layer.length = Math.max(1, end - layer.start);
      }
    },
  };
}

/** Less than half the strength that it had: the peak speed of a span comes down towards its mean. */
function softer(ease: Ease): Ease {
  if (ease === 'eased') return { kind: 'soft', start: 0.35, landing: 0.35 };
  if (typeof ease === 'string' || ease.kind === 'linked') return ease;
  if (ease.kind === 'soft') return { ...ease, start: ease.start * 0.45, landing: ease.landing * 0.45 };
  return ease.kind === 'steps' ? ease : { kind: 'soft', start: 0.2, landing: 0.5 };
}

/** The keys and recipes whose eases move things at a frame. */
function easedAt(shot: ShotDocument, things: readonly string[], frame: number): Array<{ ease: Ease }> {
  const keys = shot.tracks
    .filter(({ thing }) => things.includes(thing))
    .flatMap(({ keys: all }) => all.findLast((k) => k.frame <= frame) ?? []);
  const recipes = shot.recipes.filter((recipe) => {
    const moves = things.includes(recipe.camera) || recipe.things.some((id) => things.includes(id));
    return moves && recipe.start <= frame && recipeEnd(recipe) >= frame;
  });
  return [...keys, ...recipes];
}

/** Whether something that moves things at a frame has an ease that can be softer. */
export function canSoften(shot: ShotDocument, things: readonly string[], frame: number): boolean {
  return easedAt(shot, things, frame).some(({ ease }) => softer(ease) !== ease);
}

/**
 * Gives the spans of things that hold a frame softer eases, in keys and recipes, and so a lower greatest speed. Linked eases stay:
 * others share them.
 */
export function softenEases(things: readonly string[], frame: number): ShotCommand {
  return {
    label: 'Softer ease',
    run: (shot) => easedAt(shot, things, frame).forEach((holder) => void (holder.ease = softer(holder.ease))),
  };
}

/**
 * Lands a shot's moves on beats again, as after its clip was slipped in the cut: everything is shifted by what brings it nearest to
 * them, at most half a beat, and what then lies close to a beat is put on it. What begins with the shot or lasts to its end
 * stays. @param beats frames.
 */
export function landMoves(beats: readonly number[]): ShotCommand {
  return {
    label: 'Land on the beats',
    run: (shot) => {
      const inside = (frame: number): boolean => frame > 0 && frame < shot.length - 1;
      const layers = new Set(shot.layers.map(({ id }) => id));
      const tracks = shot.tracks.filter(({ thing }) => !layers.has(thing));
      const moments = [
        ...tracks.flatMap(({ keys }) => keys.map((k) => k.frame)),
        ...shot.recipes.flatMap((r) => [r.start, ...r.at.map((at) => r.start + at), r.start + r.length]),
      ].filter(inside);
      const to = landing([...new Set(moments)], beats);
      const moved = (frame: number): number => (inside(frame) ? to(frame) : frame);
      for (const track of tracks) {
        for (const key of track.keys) key.frame = moved(key.frame);
        // Two that have come to lie on one frame: the later one holds.
        track.keys = track.keys.filter((k, i) => track.keys.findLastIndex((o) => o.frame === k.frame) === i);
      }
      for (const recipe of shot.recipes) {
        const [start, end] = [moved(recipe.start), moved(recipe.start + recipe.length)];
        recipe.at = recipe.at.map((at) => Math.max(0, moved(recipe.start + at) - start));
        Object.assign(recipe, { start, length: Math.max(1, end - start) });
      }
      dropUnlinked(shot);
    },
  };
}

const nearest = (frame: number, beats: readonly number[]): number =>
  beats.reduce((best, beat) => (Math.abs(beat - frame) < Math.abs(best - frame) ? beat : best), Infinity);

/** How frames go to beats: shifted all alike, then each put on a beat that is close. */
export function landing(frames: readonly number[], beats: readonly number[]): (frame: number) => number {
  const gaps = beats.slice(1).map((beat, i) => beat - beats[i]);
  const gap = [...gaps].sort((a, b) => a - b)[gaps.length >> 1] ?? 0;
  if (!(gap > 0) || frames.length === 0) return (frame) => frame;
  let [shift, least] = [0, Infinity];
  const steps = Math.ceil(gap * 2);
  // From the smallest shift on, so that of equals the smallest wins.
  for (let i = 0; i <= steps; i++)
    for (const by of [i * 0.25, -i * 0.25]) {
      // Far outliers count no more than half a beat: they were never on one.
      const off = frames.reduce((sum, f) => sum + Math.min(gap / 4, Math.abs(nearest(f + by, beats) - f - by)), 0);
      if (off < least - 1e-9) [shift, least] = [by, off];
    }
  return (frame) => {
    const at = frame + shift;
    const beat = nearest(at, beats);
    return Math.max(0, Math.round(Math.abs(beat - at) <= gap / 6 ? beat : at));
  };
}
