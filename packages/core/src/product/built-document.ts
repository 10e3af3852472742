import {
  newSlot,
  plainProduct,
  type Builder,
  type Preparation,
  type ProductDocument,
  type ProductPart,
} from '../document/index.ts';
import { FINISH_LIBRARY, makeFinish, type Finish } from '../finish/index.ts';
import { boundsOf, boundsSize, triangleCount, type Mesh } from '../geometry/index.ts';
import { Problem } from '../problem/index.ts';
import { prepareMeshes } from './prepare-model.ts';
import { buildProduct } from './build-product.ts';
import type { BuiltFinish, BuiltPart } from './built-part.ts';

const ready = (name: string, as: string): Finish => ({
  ...(FINISH_LIBRARY.find((entry) => entry.finish.name === name)?.finish ?? makeFinish(as)),
  name: as,
});

/** What parts of each builder are made of to begin with. */
const FINISHES: Record<Builder['kind'], Partial<Record<BuiltFinish, [string, string]>>> = {
  carton: { body: ['White board', 'Printed board'], inside: ['Kraft paper', 'Inside board'] },
  turned: {
    body: ['Clear glass', 'Glass'],
    liquid: ['Heather honey', 'Honey'],
    cap: ['Polished brass', 'Cap'],
    cork: ['Oiled oak', 'Cork'],
    label: ['Laid paper', 'Label paper'],
  },
  device: {
    body: ['Anodised black', 'Body'],
    inside: ['Gloss plastic', 'Rim'],
    screen: ['Coated paper', 'Screen'],
  },
  pouch: { body: ['Coated paper', 'Film'] },
  cutout: { body: ['Painted plastic', 'Face'], inside: ['Painted plastic', 'Sides'] },
};

/** A product made by a builder, with a label slot on each part that takes art. */
export function builtDocument(name: string, builder: Builder): ProductDocument {
  const blank: ProductDocument = {
    ...plainProduct(),
    ...{ version: 3, name, fileName: '', source: '', model: '', builder, scale: 1, extent: [0, 0, 0] },
    parts: [],
    finishes: [],
  };
  return withBuilder(blank, builder);
}

/**
 * A product with its builder's numbers changed: parts that stay keep their finish, art and visibility, by name.
 * @throws Problem `product/no-body` when the numbers leave nothing to see.
 */
export function withBuilder(product: ProductDocument, builder: Builder): ProductDocument {
  const built = buildProduct(builder);
  if (built.every((part) => part.mesh.indices.length === 0))
    throw new Problem(
      'product/no-body',
      `With these numbers nothing is left of "${product.name}": take the last one back.`,
    );
  const before = new Map(product.parts.map((part) => [part.name, part]));
  const finishes = [...product.finishes];
  const finishOf = (part: BuiltPart): string => {
    const solid = builder.kind === 'turned' && part.finish === 'body' && builder.wall === 0;
    const [library, as] = solid
      ? ['Oiled oak', 'Wood']
      : (FINISHES[builder.kind][part.finish] ?? ['White board', 'Plain']);
    const known = finishes.find((f) => f.name === as);
    if (known) return known.id;
    const id = slug('finish', as);
    finishes.push({ ...ready(library, as), id });
    return id;
  };
  const parts = built.map((part, index): ProductPart => ({
    index,
    name: part.name,
    finish: before.get(part.name)?.finish ?? finishOf(part),
    triangles: triangleCount(part.mesh),
    visible: before.get(part.name)?.visible ?? true,
  }));
  const moved = new Map(
    parts.flatMap((part) => {
      const old = before.get(part.name);
      return old ? [[old.index, part.index] as const] : [];
    }),
  );
  const slots = product.slots.flatMap((slot) =>
    moved.has(slot.part) ? [{ ...slot, part: moved.get(slot.part)! }] : [],
  );
  for (const [index, part] of built.entries())
    if (part.panel && !before.has(part.name) && !slots.some((s) => s.part === index))
      slots.push(newSlot(slug('slot', part.name), part.name, index));
  return {
    ...product,
    builder,
    extent: boundsSize(boundsOf(built.map((part) => part.mesh))),
    parts,
    finishes,
    slots,
    variants: product.variants.map((variant) => ({
      ...variant,
      finishes: variant.finishes.flatMap((f) => (moved.has(f.part) ? [{ ...f, part: moved.get(f.part)! }] : [])),
      hidden: variant.hidden.flatMap((index) => moved.get(index) ?? []),
    })),
  };
}

const slug = (kind: string, name: string): string => `${kind}-${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`;

const PREFIX = 'built:';

/**
 * What a product's meshes are known by: the hash of its model file with what is put right in it, or the numbers it is built
 * from.
 */
export function modelKey({ model, builder, prepare }: Pick<ProductDocument, 'model' | 'builder' | 'prepare'>): string {
  if (builder) return PREFIX + JSON.stringify(builder);
  const plain = prepare.unwraps.length === 0 && !prepare.toBase && !prepare.normals;
  return plain ? model : `${model}#${JSON.stringify(prepare)}`;
}

/** The hash of the file that a key's meshes are read from; empty for a built product. */
export function fileOfKey(key: string): string {
  return key.startsWith(PREFIX) ? '' : key.split('#', 1)[0];
}

/** The meshes of a model file as its key asks for. */
export function meshesOfKey(key: string, file: readonly Mesh[]): Mesh[] {
  const at = key.indexOf('#');
  return at < 0 ? [...file] : prepareMeshes(file, JSON.parse(key.slice(at + 1)) as Preparation);
}

/** The meshes of a built product by its key, or null for the key of a model file. */
export function builtMeshes(key: string): Mesh[] | null {
  if (!key.startsWith(PREFIX)) return null;
  return buildProduct(JSON.parse(key.slice(PREFIX.length)) as Builder).map((part) => part.mesh);
}
