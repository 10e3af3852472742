import { compileMoves, type CompiledMoves, type Mover } from '../motion/index.ts';
import type {
  SetCamera,
  SetDocument,
  SetEffect,
  SetLight,
  SetProduct,
  SetSurface,
  SetThing,
  ShotDocument,
} from '../document/index.ts';

/** A thing with what moves it; null when it stands still. */
export interface Slot<T extends SetThing> {
  thing: T;
  poser: Mover<T> | null;
}

export interface ProductSlot extends Slot<SetProduct> {
  /** Whether its place differs from frame to frame: it moves, or something under it does. */
  carried: boolean;
  /** Whether something stands on it, so that its height counts. */
  carries: boolean;
}

/** A set and a shot made ready for evaluating any frame. Kept for as long as both documents stand. */
export interface ShotProgram {
  readonly set: SetDocument;
  readonly shot: ShotDocument;
  readonly moves: CompiledMoves;
  /** In the order in which they can be placed: what something stands on comes before it. */
  readonly products: readonly ProductSlot[];
  readonly surfaces: ReadonlyArray<Slot<SetSurface>>;
  readonly lights: ReadonlyArray<Slot<SetLight>>;
  readonly effects: ReadonlyArray<Slot<SetEffect>>;
  /** The shot's camera; null when it is no longer in the set. */
  readonly camera: Slot<SetCamera> | null;
  /** Ids of things whose place differs from frame to frame, those that stand on moving ones included. */
  readonly moving: ReadonlySet<string>;
}

const programs = new WeakMap<CompiledMoves, ShotProgram>();

/** Compiles a set and a shot; the same pair of documents gives the same program. */
export function compile(set: SetDocument, shot: ShotDocument): ShotProgram {
  const moves = compileMoves(set, shot);
  const known = programs.get(moves);
  if (known) return known;
  const slotOf = <T extends SetThing>(thing: T): Slot<T> => ({
    thing,
    poser: (moves.posers.get(thing.id) as Mover<T> | undefined) ?? null,
  });
  const moving = new Set(moves.posers.keys());
  const carriers = new Set(set.products.map((p) => p.standsOn));
  const products = ordered(set.products).map((item): ProductSlot => {
    if (item.standsOn && moving.has(item.standsOn)) moving.add(item.id);
    return { ...slotOf(item), carried: moving.has(item.id), carries: carriers.has(item.id) };
  });
  const camera = set.cameras.find((c) => c.id === shot.camera);
  const program: ShotProgram = {
    ...{ set, shot, moves, products, moving },
    surfaces: set.surfaces.map(slotOf),
    lights: set.lights.map(slotOf),
    effects: set.effects.map(slotOf),
    camera: camera ? slotOf(camera) : null,
  };
  programs.set(moves, program);
  return program;
}

const orders = new WeakMap<readonly SetProduct[], readonly SetProduct[]>();

/** Products of a set in their order, which is found out once. */
function ordered(products: readonly SetProduct[]): readonly SetProduct[] {
  let order = orders.get(products);
  if (!order) orders.set(products, (order = inOrder(products)));
  return order;
}

/** A stable order by how many things are under each. */
function inOrder(products: readonly SetProduct[]): readonly SetProduct[] {
  if (products.every((p) => !p.standsOn)) return products;
  const byId = new Map(products.map((p) => [p.id, p]));
  const depth = (p: SetProduct, seen: Set<string>): number => {
    const under = byId.get(p.standsOn);
    // A ring of things that stand on each other ends where it closes.
    return under && !seen.has(under.id) ? 1 + depth(under, new Set([...seen, p.id])) : 0;
  };
  const depths = new Map(products.map((p) => [p.id, depth(p, new Set([p.id]))]));
  return [...products].sort((a, b) => depths.get(a.id)! - depths.get(b.id)!);
}
