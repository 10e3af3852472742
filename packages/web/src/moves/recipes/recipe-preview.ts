import { newRecipe, newShot, type RecipeKind, type SetDocument } from '@tender-orbit/core/document';
import { compile, evaluate, lightPower, sketch, type ShotProgram, type Sketch } from '@tender-orbit/core/scene';
import { modelKey } from '@tender-orbit/core/product';
import { suggestRecipe } from '@tender-orbit/core/staging';
import type { useCampaign } from '../../stores/index.ts';
import { toRaw } from 'vue';
import { modelOf } from '../../viewer/models.ts';

/** Pixels: twice what a thumbnail takes on the screen, so that its edges are smooth. */
const [WIDTH, HEIGHT] = [208, 116];

/** What a recipe would do to the shot's own set. */
export interface RecipePreview {
  program: ShotProgram;
  /** Frames of the whole move, a rest at its end included. */
  frames: number;
}

type Campaign = ReturnType<typeof useCampaign>;

/** A recipe on the person's own products, alone in a shot of its own; null while it cannot be there. */
export function previewOf(kind: RecipeKind, campaign: Campaign, chosen: readonly string[]): RecipePreview | null {
  const { set, shot, products } = campaign;
  if (!set || !shot) return null;
  const alone = { ...newShot('Preview', shot.set, shot.camera, 48), seed: shot.seed };
  const recipe = suggestRecipe(kind, {
    ...{ id: `preview-${kind}`, set, shot: alone, products, chosen },
    ...{ start: 0, rate: 24 },
  });
  if ('refused' in recipe) return null;
  const apart = ((recipe.options.apart as number | undefined) ?? 0) * (recipe.things.length - 1);
  const frames = Math.max(recipe.length, Math.min(96, recipe.length + apart));
  // Copies are seen by what their leader does.
  const lead = newRecipe('lead', 'pop-in', { start: 0, length: 14, things: recipe.things.slice(0, 1) });
  const recipes = kind === 'copies' ? [lead, recipe] : [recipe];
  return { program: compile(set as SetDocument, { ...alone, length: frames, recipes }), frames };
}

/** How many of its products have come so far. */
export function loadedIn({ program }: RecipePreview, { products }: Campaign): number {
  return program.set.products.filter((p) => {
    const product = products.get(p.product);
    return product && modelOf(modelKey(product));
  }).length;
}

/** Still pictures by products, set, and what they are of: the station is opened again and again. */
const stills = new WeakMap<object, WeakMap<object, Map<string, Sketch>>>();

/** Where the still picture of a recipe on the set as it is now is kept. */
export function keptStill(
  kind: RecipeKind,
  preview: RecipePreview,
  campaign: Campaign,
  chosen: readonly string[],
): { get: () => Sketch | undefined; keep: (drawn: Sketch) => void } {
  const [products, set] = [toRaw(campaign.products), toRaw(campaign.set!)];
  const bySet = stills.get(products) ?? new WeakMap<object, Map<string, Sketch>>();
  const kept = bySet.get(set) ?? new Map<string, Sketch>();
  stills.set(products, bySet.set(set, kept));
  const key = JSON.stringify([kind, chosen, campaign.shot?.camera, campaign.shot?.seed, loadedIn(preview, campaign)]);
  return { get: () => kept.get(key), keep: (drawn) => void kept.set(key, drawn) };
}

/** A frame of it; null while nothing has come. */
export function drawPreview(preview: RecipePreview, frame: number, campaign: Campaign): Sketch | null {
  const { program } = preview;
  if (loadedIn(preview, campaign) === 0 && program.set.products.length > 0) return null;
  const meshes = (model: string) => modelOf(model)?.meshes;
  const at = (f: number) => evaluate(program, f, { products: campaign.products, meshes, aspect: WIDTH / HEIGHT });
  const tableau = at(frame);
  // Lights are measured by how they end, so that one that is switched on is seen to come.
  const power = Math.max(lightPower(tableau), lightPower(at(program.shot.length)));
  return sketch(tableau, { meshes, width: WIDTH, height: HEIGHT, power });
}

export const PREVIEW_SIZE = { width: WIDTH, height: HEIGHT } as const;
