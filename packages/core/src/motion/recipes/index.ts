import type { AppliedRecipe, RecipeKind } from '../../document/index.ts';
import {
  crane,
  dollyZoom,
  flyPast,
  focusPull,
  handheld,
  orbitArc,
  pullBack,
  pushIn,
  slider,
  whip,
} from './camera-recipes.ts';
import { ownAnimation } from './clip-recipes.ts';
import { lightSweep, reveal, switchOn } from './light-recipes.ts';
import { boxOpen, fillUp, lidOff } from './part-recipes.ts';
import {
  copies,
  drop,
  fanOut,
  hover,
  lineUp,
  popIn,
  rise,
  rollIn,
  slideIn,
  stopMotion,
  turntable,
  variantSwap,
} from './product-recipes.ts';
import { RecipeBench, type RecipeMoves, type RecipeScene } from './recipe-bench.ts';

export type { RecipeMoves, RecipeScene } from './recipe-bench.ts';

const MAKERS: { readonly [K in RecipeKind]: (bench: RecipeBench) => void } = {
  turntable,
  'pop-in': popIn,
  'slide-in': slideIn,
  drop,
  rise,
  hover,
  'fan-out': fanOut,
  copies,
  'line-up': lineUp,
  'roll-in': rollIn,
  'stop-motion': stopMotion,
  'variant-swap': variantSwap,
  'lid-off': lidOff,
  'box-open': boxOpen,
  'fill-up': fillUp,
  'own-animation': ownAnimation,
  'push-in': pushIn,
  'pull-back': pullBack,
  'orbit-arc': orbitArc,
  crane,
  slider,
  whip,
  'dolly-zoom': dollyZoom,
  handheld,
  'fly-past': flyPast,
  'focus-pull': focusPull,
  'light-sweep': lightSweep,
  'switch-on': switchOn,
  reveal,
};

/** What a recipe makes of what it finds. Nothing when what it moves is gone. */
export function makeRecipe(recipe: AppliedRecipe, scene: RecipeScene): RecipeMoves {
  const bench = new RecipeBench(recipe, scene);
  const ofCamera = recipe.camera !== '';
  if (!ofCamera || scene.thing(recipe.camera)) MAKERS[recipe.kind](bench);
  return bench.moves;
}
