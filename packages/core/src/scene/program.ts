import { compileMoves, type CompiledMoves } from '../motion/index.ts';
import type { SetDocument, SetProduct, ShotDocument } from '../document/index.ts';

/** A set and a shot made ready for evaluating any frame. Kept for as long as both documents stand. */
export interface ShotProgram {
  readonly set: SetDocument;
  readonly shot: ShotDocument;
  readonly moves: CompiledMoves;
  /** Products in the order in which they can be placed: what something stands on comes before it. */
  readonly products: readonly SetProduct[];
  /** Ids of things whose place differs from frame to frame, those that stand on moving ones included. */
  readonly moving: ReadonlySet<string>;
}

const programs = new WeakMap<CompiledMoves, ShotProgram>();

/** Compiles a set and a shot; the same pair of documents gives the same program. */
export function compile(set: SetDocument, shot: ShotDocument): ShotProgram {
  const moves = compileMoves(set, shot);
  const known = programs.get(moves);
  if (known) return known;
  const products = inOrder(set.products);
  const moving = new Set(moves.posers.keys());
  for (const item of products) if (item.standsOn && moving.has(item.standsOn)) moving.add(item.id);
  const program = { set, shot, moves, products, moving };
  programs.set(moves, program);
  return program;
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
