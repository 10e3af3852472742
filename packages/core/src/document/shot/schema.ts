import { finite, id, list, name, oneOf, orNull, shape, versionOf, whole } from '../fields.ts';
import { keyedShape } from './keyed-schema.ts';
import { pathSchema } from './paths.ts';
import { recipeSchema } from './recipes.ts';
import { ruleSchema } from './rules.ts';
import { MOVES_NAMES, type OtherMoves, type ShotDocument } from './types.ts';

const moves = {
  tracks: keyedShape.tracks,
  paths: list('Paths', pathSchema, 200),
  rules: list('Rules', ruleSchema, 1000),
  recipes: list('Recipes', recipeSchema, 300),
};

export const shotSchema = shape<ShotDocument>({
  version: versionOf(9),
  name: name('Shot name'),
  set: id('Set'),
  camera: id('Camera'),
  length: whole('Length', 1, 100000),
  seed: whole('Seed', 0, 0xffffffff),
  ...moves,
  eases: keyedShape.eases,
  other: orNull(shape<OtherMoves>({ ...moves, name: oneOf('Version of the moves', MOVES_NAMES) })),
  layers: keyedShape.layers,
  musicFrom: orNull(finite('Place in the music', -36000, 36000)),
});
