export * from './types.ts';
export {
  EASE_LIMITS,
  PLAIN_EASES,
  USUAL_EASES,
  type Ease,
  type EaseShape,
  type LinkedEase,
  type PlainEase,
} from './eases.ts';
export * from './defaults.ts';
export * from './tracks.ts';
export * from './commands.ts';
export * from './key-commands.ts';
export * from './other-moves.ts';
export * from './retime.ts';
export * from './stretch.ts';
export * from './move-commands.ts';
export { pathProperty, type MovePath, type PathPoint } from './paths.ts';
export * from './layers/index.ts';
export { lookFrom, putLook } from './looks.ts';
export * from './layer-commands.ts';
export { RECIPE_KINDS, recipeFacts, type AppliedRecipe, type RecipeKind } from './recipes.ts';
export { RECIPE_ORDERS, type RecipeFacts, type RecipeOrder, type RecipeRole, type Side } from './recipe-facts.ts';
export {
  MUSIC_BANDS,
  RULE_KINDS,
  RULES,
  type MusicBand,
  type RepeatMode,
  type Rule,
  type RuleDoes,
  type RuleGround,
  type RuleKind,
  type TurnOrder,
} from './rules.ts';
