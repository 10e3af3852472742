import * as yup from 'yup';
import type { PropertyValue } from '../../properties/index.ts';
import type { Item } from '../common.ts';
import { field, finite, flag, id, item, list, oneOf, shape, text, type Field } from '../fields.ts';
import { easeSchema, type Ease } from './eases.ts';
import type { RecipeFacts } from './recipe-facts.ts';
import { RECIPES } from './recipe-kinds.ts';

export type RecipeKind = keyof typeof RECIPES;
export const RECIPE_KINDS = Object.keys(RECIPES) as RecipeKind[];

/** What can be set of a recipe, and how it is when it is new. */
export const recipeFacts = (kind: RecipeKind): RecipeFacts => RECIPES[kind];

/** A recipe as it was applied: it stays what it is, and makes its keys and rules anew whenever it is looked at. */
export interface AppliedRecipe extends Item {
  kind: RecipeKind;
  muted: boolean;
  /** Frames. Of things in turn: of the first. */
  start: number;
  length: number;
  /** Ids of what it moves, in order; for a camera's move that needs products, those products. */
  things: string[];
  /** The camera, of such a move; empty otherwise. */
  camera: string;
  ease: Ease;
  options: Record<string, PropertyValue>;
  /** Frames after the start at which each thing begins, when they lie on beats; empty: evenly apart. */
  at: number[];
  /** Ids of variants, in order, of a recipe that swaps them. */
  variants: string[];
}

/** The options of a recipe are exactly those that its kind has. */
const optionsOf = (kind: RecipeKind): Field<Record<string, PropertyValue>> =>
  shape(
    Object.fromEntries(
      Object.entries(recipeFacts(kind).properties).map(([path, property]) => [path, field(property as never)]),
    ) as never,
  );

export const recipeSchema = yup.lazy((given: { kind?: unknown } | null | undefined) => {
  const kind = given?.kind as RecipeKind;
  return shape<AppliedRecipe>({
    ...item('Recipe'),
    kind: oneOf('Recipe', RECIPE_KINDS),
    muted: flag('Muted'),
    start: finite('Start of a recipe', -100000, 200000),
    length: finite('Length of a recipe', 1, 200000),
    things: list('Things of a recipe', id('Thing'), 500),
    camera: text('Camera', 64),
    ease: easeSchema,
    options: Object.hasOwn(RECIPES, kind) ? optionsOf(kind) : (yup.object().defined() as never),
    at: list('Beats of a recipe', finite('Beat', 0, 200000), 500),
    variants: list('Variants of a recipe', id('Variant'), 500),
  });
}) as unknown as Field<AppliedRecipe>;
