import {
  newCamera,
  newCard,
  newBlock,
  plainItem,
  plainLight,
  type BlockForm,
  type BlockSurface,
  threeSoftboxes,
  type CardSurface,
  type LightRole,
  type SavedKit,
  type SetCamera,
  type SetDocument,
  type SetLight,
  type SetProduct,
} from '@tender-orbit/core/document';
import { placeKit, placeSavedKit, repeat, type LightKit, type Repeat, type Subject } from '@tender-orbit/core/staging';
import type { ThingKind } from './fields.ts';

/** An id that no thing of any set has. */
export function freshId(kind: string): string {
  return `${kind}-${crypto.randomUUID().slice(0, 8)}`;
}

/** `name`, or `name 2`, `name 3`... when it is taken. */
export function freshName(taken: readonly string[], name: string): string {
  const base = name.replace(/ \d+$/, '').slice(0, 110);
  if (!taken.includes(base)) return base;
  let n = 2;
  while (taken.includes(`${base} ${n}`)) n++;
  return `${base} ${n}`;
}

/** A product standing on the floor at a place (x, z). */
export function newSetProduct(
  set: SetDocument,
  product: string,
  name: string,
  [x, z]: readonly [number, number] = [0, 0],
): SetProduct {
  return {
    id: freshId('product'),
    name: freshName(
      set.products.map((p) => p.name),
      name,
    ),
    product,
    ...plainItem(),
    position: [x, 0, z],
  };
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
export function newLight(set: SetDocument, role: LightRole): SetLight {
  const standard = threeSoftboxes().find((l) => l.role === role) ?? (role === 'top' ? TOP : BACKGROUND);
  return {
    ...structuredClone(standard),
    id: freshId('light'),
    name: freshName(
      set.lights.map((l) => l.name),
      ROLE_NAMES[role],
    ),
  };
}

/** A flag to the left of the product, or a bounce card to its right, between it and where light usually is. */
export function nextCard(set: SetDocument, kind: 'flag' | 'bounce'): CardSurface {
  const flag = kind === 'flag';
  const name = freshName(
    set.surfaces.map((s) => s.name),
    flag ? 'Flag' : 'Bounce card',
  );
  return newCard(freshId('card'), name, flag ? '#060606' : '#F2F0EC', {
    position: [flag ? -0.3 : 0.3, 0.2, 0.15],
  });
}

/** A body to stand things on. A plinth comes under the first product that stands on the floor. */
export function nextBlock(set: SetDocument, form: BlockForm): BlockSurface {
  const block = newBlock(freshId('block'), form);
  return {
    ...block,
    name: freshName(
      set.surfaces.map((s) => s.name),
      block.name,
    ),
  };
}

/** Puts a light kit in the place of the set's lights and cards, round `subject`. */
export function applyKit(set: SetDocument, kit: LightKit | SavedKit, subject: Subject): void {
  const prefix = freshId('kit');
  const { lights, cards, room } =
    typeof kit === 'string' ? placeKit(kit, subject, prefix) : placeSavedKit(kit, subject, prefix);
  set.lights = lights;
  set.surfaces = [...set.surfaces.filter((s) => s.kind !== 'card'), ...cards];
  set.environment.intensity = room;
}

/** A camera where `from` stands, or at the usual place. */
export function nextCamera(set: SetDocument, from?: SetCamera): SetCamera {
  const id = freshId('camera');
  const name = freshName(
    set.cameras.map((c) => c.name),
    'Camera',
  );
  return from ? { ...from, position: [...from.position], aim: [...from.aim], id, name } : newCamera(id, name);
}

const LISTS: Record<Exclude<ThingKind, 'environment'>, 'products' | 'surfaces' | 'lights' | 'cameras'> = {
  product: 'products',
  surface: 'surfaces',
  light: 'lights',
  camera: 'cameras',
};

/** The list of a set that things of a kind are in. */
export function listOf(set: SetDocument, kind: ThingKind): Array<{ id: string; name: string }> {
  return kind === 'environment' ? [] : set[LISTS[kind]];
}

/** Takes a thing out of the set. A set keeps at least one camera. @returns whether it did. */
export function removeThing(set: SetDocument, kind: ThingKind, id: string): boolean {
  if (kind === 'environment' || (kind === 'camera' && set.cameras.length < 2)) return false;
  const list = listOf(set, kind);
  const at = list.findIndex((t) => t.id === id);
  if (at < 0) return false;
  list.splice(at, 1);
  return true;
}

/** A copy of a thing beside it, with an id and name of its own. @returns the copy's id, or null. */
export function duplicateThing(set: SetDocument, kind: ThingKind, id: string): string | null {
  const list = listOf(set, kind);
  const original = list.find((t) => t.id === id);
  if (!original) return null;
  const copy = JSON.parse(JSON.stringify(original)) as typeof original & { position?: number[] };
  copy.id = freshId(kind);
  copy.name = freshName(
    list.map((t) => t.name),
    original.name,
  );
  if (copy.position) copy.position[0] += 0.1;
  list.push(copy);
  return copy.id;
}

/** Copies of a product in a line, ring, fan or grid; the original stays where it is. @throws Problem for too many. */
export function repeatProduct(set: SetDocument, id: string, plan: Repeat): string[] {
  const original = set.products.find((p) => p.id === id);
  if (!original) return [];
  const made: string[] = [];
  for (const { position, turn, scale } of repeat(original, plan).slice(1)) {
    made.push(freshId('product'));
    set.products.push({
      ...(JSON.parse(JSON.stringify(original)) as SetProduct),
      ...{ id: made[made.length - 1], position, turn, scale },
      name: freshName(
        set.products.map((p) => p.name),
        original.name,
      ),
    });
  }
  return made;
}
