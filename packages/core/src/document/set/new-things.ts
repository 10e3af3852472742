import { newBlock, newCamera, newCard, plainItem, plainLight, threeSoftboxes } from './kinds/index.ts';
import type {
  BlockForm,
  BlockSurface,
  CardSurface,
  LightRole,
  SetCamera,
  SetLight,
  SetProduct,
} from './kinds/index.ts';
import { freshName, namesOf } from './names.ts';
import type { SetDocument } from './types.ts';

/** A product standing on the floor, or on a thing, at a place (x, z). */
export function nextProduct(
  set: SetDocument,
  id: string,
  product: { id: string; name: string },
  [x, z]: readonly [number, number] = [0, 0],
  standsOn = '',
): SetProduct {
  const name = freshName(namesOf(set.products), product.name);
  return { id, name, product: product.id, ...plainItem(), standsOn, position: [x, 0, z] };
}

const TOP: Omit<SetLight, 'id' | 'name'> = {
  ...plainLight(),
  role: 'top',
  shape: 'softbox',
  width: 0.6,
  height: 0.6,
  position: [0, 1, 0.02],
  aim: [0, 0.05, 0],
  kelvin: 5600,
  lumens: 1500,
};
const BACKGROUND: Omit<SetLight, 'id' | 'name'> = {
  ...TOP,
  role: 'background',
  width: 0.4,
  height: 0.4,
  position: [0.5, 0.7, -0.4],
  aim: [0, 0.3, -1.1],
  lumens: 2000,
};
const ROLE_NAMES: Record<LightRole, string> = {
  key: 'Key',
  fill: 'Fill',
  rim: 'Rim',
  top: 'Top',
  background: 'Background',
};

/** A light where its job wants it, for a small product in the middle. */
export function nextLight(set: SetDocument, id: string, role: LightRole): SetLight {
  const standard = threeSoftboxes().find((l) => l.role === role) ?? (role === 'top' ? TOP : BACKGROUND);
  const copy = JSON.parse(JSON.stringify(standard)) as typeof standard;
  return { ...copy, id, name: freshName(namesOf(set.lights), ROLE_NAMES[role]) };
}

/** A flag to the left of the product, or a bounce card to its right, between it and where light usually is. */
export function nextCard(set: SetDocument, id: string, kind: 'flag' | 'bounce'): CardSurface {
  const flag = kind === 'flag';
  const name = freshName(namesOf(set.surfaces), flag ? 'Flag' : 'Bounce card');
  return newCard(id, name, flag ? '#060606' : '#F2F0EC', { position: [flag ? -0.3 : 0.3, 0.2, 0.15] });
}

/** A body to stand things on. */
export function nextBlock(set: SetDocument, id: string, form: BlockForm): BlockSurface {
  const block = newBlock(id, form);
  return { ...block, name: freshName(namesOf(set.surfaces), block.name) };
}

/** A camera where `from` stands, or at the usual place. */
export function nextCamera(set: SetDocument, id: string, from?: SetCamera): SetCamera {
  const name = freshName(namesOf(set.cameras), 'Camera');
  if (!from) return newCamera(id, name);
  const { order: _order, ...copy } = from;
  return { ...copy, position: [...from.position], aim: [...from.aim], id, name };
}
