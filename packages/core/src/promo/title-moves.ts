import { ownTitleValues, type Key, type Title, type TitlePath } from '../document/index.ts';
import { pictureRecipe, type PictureRecipe, type RecipeGround } from './picture-recipes.ts';

/** Moves of a title while it is there: those of pictures that are good for letters too, and letters that drift apart. */
export const TITLE_MOVES = [
  ...(['slow push', 'pull back', 'drift', 'pulse on beats', 'shake', 'letters drift apart'] as const),
] as const satisfies ReadonlyArray<PictureRecipe | 'letters drift apart'>;
export type TitleMove = (typeof TITLE_MOVES)[number];

/** Keys of a usual move of a title from where it lies, all of which can be changed. @param aspect of the promo. */
export function titleMove(
  kind: TitleMove,
  title: Title,
  ground: RecipeGround,
  aspect: number,
): Partial<Record<TitlePath, Array<Key<number>>>> {
  const own = ownTitleValues(title);
  const last = Math.max(1, ground.length - 1);
  if (kind === 'letters drift apart')
    return {
      tracking: [
        { frame: 0, value: own.tracking, ease: 'linear' },
        { frame: last, value: own.tracking + 0.08 * ground.strength, ease: 'eased' },
      ],
    };
  const { keys } = pictureRecipe(kind, ground);
  const from = (list: Array<Key<number>> | undefined, to: (value: number) => number): Array<Key<number>> | undefined =>
    list?.map((key) => ({ ...key, value: to(key.value) }));
  // Pictures lie in heights from the middle, y up; titles in shares of the width and the height from the top left.
  const made: Partial<Record<TitlePath, Array<Key<number>> | undefined>> = {
    scale: from(keys.scale, (v) => v * own.scale),
    rotation: from(keys.rotation, (v) => v + own.rotation),
    x: from(keys.x, (v) => own.x + v / aspect),
    y: from(keys.y, (v) => own.y - v),
  };
  return Object.fromEntries(Object.entries(made).filter(([, list]) => list !== undefined));
}
