import type { Finish, PatternRecipe, TextureSlot, TextureUse } from '../../../finish/index.ts';
import type { ProductDocument } from '../types.ts';
import { command, type ProductCommand } from './edit-product.ts';

/** Changes values of one of the product's finishes. */
export function changeFinish(index: number, label: string, values: Partial<Finish>): ProductCommand {
  return command(label, ({ finishes }) => void Object.assign(finishes[index] ?? {}, values));
}

/** Changes how a texture lies, or takes it off with null. */
export function changeTexture(
  index: number,
  slot: TextureSlot,
  label: string,
  values: Partial<TextureUse> | null,
): ProductCommand {
  return command(label, ({ finishes }) => {
    const { textures } = finishes[index];
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
  index: number,
  slot: TextureSlot,
  picture: NonNullable<TextureUse['picture']>,
  label: string,
): ProductCommand {
  return command(label, ({ finishes }) => {
    const finish = finishes[index];
    finish.textures[slot] = { ...PLAIN_USE, picture };
    if (slot === 'metallicRoughness') Object.assign(finish, { roughness: 1, metallic: finish.metallic > 0 ? 1 : 0 });
    if (slot === 'emissive' && Math.max(...finish.emissive) === 0) finish.emissive = [1, 1, 1];
  });
}

/** A pattern as the colour of a finish. */
export function patternFinish(index: number, pattern: PatternRecipe): ProductCommand {
  return command('Pattern as finish', ({ finishes }) => {
    finishes[index].baseColor = [1, 1, 1];
    finishes[index].textures.baseColor = {
      ...PLAIN_USE,
      picture: { asset: '', pattern, look: null, emboss: false },
    };
  });
}

/** Gives a part a finish: in the first variant it is the product's own, in another only that variant's. */
export function finishPart(part: number, variant: string, finish: number, label: string): ProductCommand {
  return command(label, (product) => {
    const target = product.parts.find((p) => p.index === part);
    const own = product.variants.find((v) => v.id === variant);
    if (!target || !own) return;
    if (variant === product.variants[0].id) target.finish = finish;
    else own.finishes = [...own.finishes.filter((f) => f.part !== part), { part, finish }];
  });
}

/** Adds a finish to the product and gives it to a part; one that is there already is used. */
export function dressPart(part: number, variant: string, finish: Finish, label: string): ProductCommand {
  return command(label, (product) => {
    const copy = JSON.stringify(finish);
    const known = product.finishes.findIndex((f) => JSON.stringify(f) === copy);
    const at = known >= 0 ? known : product.finishes.push(JSON.parse(copy) as Finish) - 1;
    finishPart(part, variant, at, label).run(product);
  });
}

/** Places in `finishes` that no part and no variant uses. */
export function unusedFinishes({ parts, variants, finishes }: ProductDocument): number[] {
  const used = new Set([...parts.map((p) => p.finish), ...variants.flatMap((v) => v.finishes.map((f) => f.finish))]);
  return finishes.map((_, i) => i).filter((i) => !used.has(i));
}

export function deleteUnusedFinishes(): ProductCommand {
  return command('Remove unused finishes', (product) => {
    const gone = new Set(unusedFinishes(product));
    const place = new Map<number, number>();
    product.finishes.forEach((_, i) => gone.has(i) || place.set(i, place.size));
    product.finishes = product.finishes.filter((_, i) => !gone.has(i));
    for (const part of product.parts) part.finish = place.get(part.finish)!;
    for (const variant of product.variants) for (const f of variant.finishes) f.finish = place.get(f.finish)!;
  });
}
