import {
  finishIdOf,
  findFinish,
  plainProduct,
  PART_JOINT,
  type LabelSlot,
  type ProductDocument,
  type ProductFinish,
  type ProductPart,
  type SlotFill,
} from '../document/index.ts';
import {
  breakMeshes,
  mergeMeshes,
  seedsOn,
  triangleCount,
  type BrokenPiece,
  type Mesh,
  type Vec3,
} from '../geometry/index.ts';
import { seeded } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';
import { shortened } from '../text/index.ts';
import { labelShell } from './label-shell.ts';

/** Cells that a product is broken into, at least and at most. */
export const BREAK_CELLS = { min: 2, max: 80 } as const;

/** How a product breaks. */
export interface BreakSettings {
  /** Voronoi cells, BREAK_CELLS. */
  cells: number;
  /** Where it is struck, in the model's own space, and how far cells gather there, 0..1. */
  near: Vec3;
  gather: number;
  seed: number;
  /** `index` of parts that stay whole. */
  whole: readonly number[];
}

/** A piece: which parts of the broken product it is, and which part of the one before it came from mostly. */
export interface ProductPiece {
  parts: number[];
  from: number;
}

export interface BrokenProduct {
  /** Its model is not stored yet: `model` is empty. */
  product: ProductDocument;
  meshes: Mesh[];
  pieces: ProductPiece[];
}

/** Parts of a piece as an item of own values. */
export const pieceItem = ({ parts }: ProductPiece): string => parts.join(PART_JOINT);

/**
 * A product in pieces, which stand where they were: Voronoi cells of its parts. It keeps its finishes, art and variants. Where opaque
 * parts broke, their faces have a finish of their own, `Inside of ...`; what light goes through has its own all round, so that it is one
 * medium.
 * @param shown meshes of the parts that are seen, by their `index`. @throws Problem `product/break` when nothing of it can break.
 */
export function brokenProduct(
  product: ProductDocument,
  shown: ReadonlyMap<number, Mesh>,
  settings: BreakSettings,
): BrokenProduct {
  const meshOf = ({ index }: ProductPart): Mesh => shown.get(index)!;
  const parts = product.parts.filter((part) => (shown.get(part.index)?.indices.length ?? 0) > 0);
  const breaking = parts.filter(({ index }) => !settings.whole.includes(index));
  const struck = breaking.map(meshOf);
  const seeds = seedsOn(struck, settings.cells, settings.near, settings.gather, seeded(settings.seed));
  if (seeds.length < BREAK_CELLS.min)
    throw new Problem(
      'product/break',
      `Nothing of "${product.name}" can break: choose a part that does.`,
      product.name,
    );
  const made = new Pieces(product);
  for (const piece of breakMeshes(struck, seeds)) made.add(breaking, piece);
  for (const part of parts)
    if (settings.whole.includes(part.index))
      made.add([part], { cell: 0, outside: new Map([[0, meshOf(part)]]), inside: null });
  return made.done();
}

class Pieces {
  private readonly parts: ProductPart[] = [];
  private readonly meshes: Mesh[] = [];
  private readonly pieces: ProductPiece[] = [];
  private readonly inside = new Map<string, ProductFinish>();
  /** New parts by the part that they came from. */
  private readonly from = new Map<number, number[]>();

  constructor(private readonly product: ProductDocument) {}

  add(sources: readonly ProductPart[], { outside, inside }: BrokenPiece): void {
    const piece: ProductPiece = { parts: [], from: sources[[...outside.keys()][0]].index };
    const number = this.pieces.length + 1;
    const [body] = outside.keys();
    for (const [source, mesh] of outside) {
      const part = sources[source];
      const clear = this.isClear(part);
      const joined = source === body && inside && clear ? mergeMeshes([mesh, inside]) : mesh;
      piece.parts.push(this.part(part, `${part.name}, piece ${number}`, part.finish, joined));
    }
    const main = sources[body];
    if (inside && !this.isClear(main))
      piece.parts.push(this.part(main, `${main.name}, inside ${number}`, this.insideOf(main.finish), inside));
    this.pieces.push(piece);
  }

  private part(source: ProductPart, name: string, finish: string, mesh: Mesh): number {
    const index = this.parts.length;
    this.parts.push({ index, name: shortened(name, 200), finish, triangles: triangleCount(mesh), visible: true });
    this.meshes.push(mesh);
    this.from.set(source.index, [...(this.from.get(source.index) ?? []), index]);
    return index;
  }

  /** Whether light goes through a part in some variant. */
  private isClear(part: ProductPart): boolean {
    return this.product.variants.some(
      (variant) => (findFinish(this.product, finishIdOf(part, variant))?.transmission ?? 0) > 0,
    );
  }

  /** The finish of the faces where something of a finish broke: its colour, raw. */
  private insideOf(id: string): string {
    const known = this.inside.get(id);
    if (known) return known.id;
    const finish = findFinish(this.product, id)!;
    const raw: ProductFinish = {
      ...finish,
      ...{ id: `inside-${this.inside.size + 1}`, name: shortened(`Inside of ${finish.name}`, 200) },
      ...{ textures: {}, clearcoat: 0, roughness: Math.max(0.6, finish.roughness) },
    };
    this.inside.set(id, raw);
    return raw.id;
  }

  /** The new parts that show what a part showed; those inside keep their finish. */
  private outsideOf(part: number): number[] {
    const raw = new Set([...this.inside.values()].map(({ id }) => id));
    return (this.from.get(part) ?? []).filter((index) => !raw.has(this.parts[index].finish));
  }

  /** A slot for each new part that some of the label lies on. */
  private slotsOf(slot: LabelSlot): LabelSlot[] {
    return this.outsideOf(slot.part)
      .filter((index) => slot.projection === 'uv' || labelShell(this.meshes[index], slot).indices.length > 0)
      .map((index, n) => ({
        ...slot,
        id: `${slot.id}-${n + 1}`,
        name: shortened(`${slot.name} ${n + 1}`, 120),
        part: index,
      }));
  }

  done(): BrokenProduct {
    const { product } = this;
    const bySlot = new Map(product.slots.map((slot) => [slot.id, this.slotsOf(slot)]));
    const refill = (fill: SlotFill): SlotFill[] =>
      (bySlot.get(fill.slot) ?? []).map(({ id }) => ({ ...fill, slot: id }));
    const broken: ProductDocument = {
      ...product,
      ...plainProduct(),
      ...{ name: shortened(`${product.name} in pieces`, 120), fileName: '', source: '', model: '', builder: null },
      parts: this.parts,
      finishes: [...product.finishes, ...this.inside.values()],
      sheets: product.sheets,
      slots: [...bySlot.values()].flat(),
      variants: product.variants.map((variant) => ({
        ...variant,
        fills: variant.fills.flatMap(refill),
        finishes: variant.finishes.flatMap(({ part, finish }) =>
          this.outsideOf(part).map((p) => ({ part: p, finish })),
        ),
        hidden: variant.hidden.flatMap((part) => this.from.get(part) ?? []),
      })),
    };
    delete broken.origin;
    return { product: broken, meshes: this.meshes, pieces: this.pieces };
  }
}
