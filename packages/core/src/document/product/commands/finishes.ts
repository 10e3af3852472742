import type { Finish, PatternRecipe, TextureSlot, TextureUse } from '../../../finish/index.ts';
import { findFinish, sameFinish } from '../defaults.ts';
import type { ProductDocument, ProductFinish } from '../types.ts';
import { command, type ProductCommand } from './edit-product.ts';

/** An edit of one finish; of none when it is gone. */
function editFinish(id: string, label: string, edit: (finish: ProductFinish) => void): ProductCommand {
  return command(label, (product) => {
    const finish = findFinish(product, id);
    if (finish) edit(finish);
  });
}

/** Changes values of one of the product's finishes. */
export function changeFinish(id: string, label: string, values: Partial<Finish>): ProductCommand {
  return editFinish(id, label, (finish) => void Object.assign(finish, values));
}

/** Changes how a texture lies, or takes it off with null. */
export function changeTexture(
  id: string,
  slot: TextureSlot,
  label: string,
  values: Partial<TextureUse> | null,
): ProductCommand {
  return editFinish(id, label, ({ textures }) => {
    if (!values) delete textures[slot];
    else if (textures[slot]) Object.assign(textures[slot], values);
  });
}

/** How a picture lies that was just put on. */
const PLAIN_USE: Omit<TextureUse, 'picture'> = {
  image: 0,
  offset: [0, 0],
  rotation: 0,
  scale: [1, 1],
  strength: 1,
  wrap: ['repeat', 'repeat'],
};

/** Puts a picture on a finish. What it multiplies is raised, so that it is seen. */
export function addTexture(
  id: string,
  slot: TextureSlot,
  picture: NonNullable<TextureUse['picture']>,
  label: string,
): ProductCommand {
  return editFinish(id, label, (finish) => {
    finish.textures[slot] = { ...PLAIN_USE, picture };
    if (slot === 'metallicRoughness') Object.assign(finish, { roughness: 1, metallic: finish.metallic > 0 ? 1 : 0 });
    if (slot === 'emissive' && Math.max(...finish.emissive) === 0) finish.emissive = [1, 1, 1];
  });
}

/** A pattern as the colour of a finish. */
export function patternFinish(id: string, pattern: PatternRecipe): ProductCommand {
  return editFinish(id, 'Pattern as finish', (finish) => {
    finish.baseColor = [1, 1, 1];
    finish.textures.baseColor = { ...PLAIN_USE, picture: { asset: '', pattern, look: null, emboss: false } };
  });
}

/** Gives a part a finish: in the first variant it is the product's own, in another only that variant's. */
export function finishPart(part: number, variant: string, finish: string, label: string): ProductCommand {
  return command(label, (product) => {
    const target = product.parts.find((p) => p.index === part);
    const own = product.variants.find((v) => v.id === variant);
    if (!target || !own) return;
    if (variant === product.variants[0].id) target.finish = finish;
    else own.finishes = [...own.finishes.filter((f) => f.part !== part), { part, finish }];
  });
}

/**
 * Adds a finish to the product and gives it to a part; one that is there already is used.
 * @param id for the finish when it is added.
 */
export function dressPart(part: number, variant: string, finish: Finish, id: string, label: string): ProductCommand {
  return command(label, (product) => {
    const known = sameFinish(product, finish);
    if (!known) product.finishes.push({ ...(JSON.parse(JSON.stringify(finish)) as Finish), id });
    finishPart(part, variant, known?.id ?? id, label).run(product);
  });
}

/** Ids of the finishes that no part and no variant uses. */
export function unusedFinishes({ parts, variants, finishes }: ProductDocument): string[] {
  const used = new Set([...parts, ...variants.flatMap((v) => v.finishes)].map(({ finish }) => finish));
  return finishes.map(({ id }) => id).filter((id) => !used.has(id));
}

export function deleteUnusedFinishes(): ProductCommand {
  return command('Remove unused finishes', (product) => {
    const unused = new Set(unusedFinishes(product));
    product.finishes = product.finishes.filter(({ id }) => !unused.has(id));
  });
}
