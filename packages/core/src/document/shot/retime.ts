import type { Properties } from '../../properties/index.ts';
import type { Command } from '../edit.ts';
import { recipeFacts } from './recipes.ts';
import { RULES } from './rules.ts';
import type { ShotDocument, ShotMoves } from './types.ts';

/** Frames to a ten-thousandth: far finer than any shutter. */
const framesOf = (value: number, factor: number): number => Number((value * factor).toFixed(4));

/** The values among these that count frames, by so much more. */
function stretchFrames(values: Record<string, unknown>, properties: Properties, factor: number): void {
  for (const [name, property] of Object.entries(properties))
    if (property.type === 'number' && property.display.unit === 'f')
      values[name] = Math.min(property.max, Math.max(property.min, framesOf(values[name] as number, factor)));
}

/** Levels at each frame, at so many more frames. */
const resampled = (levels: readonly number[], factor: number): number[] =>
  Array.from({ length: Math.min(100001, Math.round(levels.length * factor)) }, (_, i) => {
    return levels[Math.min(levels.length - 1, Math.round(i / factor))];
  });

function retimeMoves({ tracks, rules, recipes }: ShotMoves, factor: number): void {
  const ruleOf = new Map(rules.map((rule) => [rule.id, rule]));
  for (const { thing, path, keys } of tracks) {
    const rule = ruleOf.get(thing);
    for (const key of keys) {
      key.frame = framesOf(key.frame, factor);
      if (!rule) continue;
      const held = { [path]: key.value as unknown };
      const property = RULES[rule.kind].properties[path];
      if (property) stretchFrames(held, { [path]: property }, factor);
      key.value = held[path] as typeof key.value;
    }
  }
  for (const rule of rules) {
    stretchFrames(rule as unknown as Record<string, unknown>, RULES[rule.kind].properties, factor);
    if (rule.kind === 'music') rule.levels = resampled(rule.levels, factor);
  }
  for (const recipe of recipes) {
    recipe.start = framesOf(recipe.start, factor);
    recipe.length = Math.max(1, framesOf(recipe.length, factor));
    recipe.at = recipe.at.map((at) => framesOf(at, factor));
    stretchFrames(recipe.options, recipeFacts(recipe.kind).properties, factor);
  }
}

/** Keeps the time of everything when a second gets `factor` times as many frames: what lies between frames stays there. */
export function retimeShot(factor: number): Command<ShotDocument> {
  return {
    label: 'Keep times',
    run: (shot) => {
      shot.length = Math.max(1, Math.round(shot.length * factor));
      retimeMoves(shot, factor);
      if (shot.other) retimeMoves(shot.other, factor);
      for (const layer of shot.layers) {
        layer.start = Math.round(layer.start * factor);
        // 0 goes to the end, wherever that is.
        if (layer.length > 0) layer.length = Math.max(1, Math.round(layer.length * factor));
      }
    },
  };
}
