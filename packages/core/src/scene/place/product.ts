import type { ProductDocument, SetProduct } from '../../document/index.ts';
import { placementMatrix, supportOf, type Mat4, type Mesh } from '../../geometry/index.ts';
import { modelKey, shownParts, type ShownPart } from '../../product/index.ts';
import type { TableauInstance } from '../tableau.ts';

/** A product with what it is drawn from. */
export interface Body {
  product: ProductDocument;
  model: string;
  meshes: readonly Mesh[];
}

/** What of a product stands at a place: its parts' meshes, each once, as the seat looks at them. */
export interface Placement {
  matrix: Mat4;
  /** Height of its highest vertex. */
  top: number;
}

/**
 * Where a product stands: seated, its lowest vertex touches `ground` and its height is a lift above that.
 * @param parts whose vertices count.
 */
export function placeProduct(item: SetProduct, body: Body, parts: readonly ShownPart[], ground: number): Placement {
  const [x, y, z] = item.position;
  const scale = body.product.scale * item.scale;
  const matrix = placementMatrix([x, 0, z], item.turn, item.tilt, item.roll, scale);
  const [dx, dy, dz] = [matrix[1], matrix[5], matrix[9]];
  let [low, high] = [Infinity, -Infinity];
  let last = -1;
  for (const { index } of parts) {
    // Labels come after the part they lie on and have its index.
    if (index === last) continue;
    last = index;
    const support = supportOf(body.meshes[index]);
    low = Math.min(low, support.lowest(dx, dy, dz));
    high = Math.max(high, -support.lowest(-dx, -dy, -dz));
  }
  const lift = item.seated && low < Infinity ? ground - low : 0;
  matrix[13] = y + lift;
  return { matrix, top: high + matrix[13] };
}

interface Known {
  body: Body;
  parts: readonly ShownPart[];
  ground: number;
  instance: TableauInstance;
  top: number;
}

const known = new WeakMap<SetProduct, Known>();

/** The instance of a product; the same object as long as nothing of it changes. */
export function instanceOf(
  item: SetProduct,
  body: Body,
  ground: number,
  frame: number,
): { instance: TableauInstance; top: number } {
  const parts = shownParts(body.product, item.variant, body.meshes, frame);
  const before = known.get(item);
  if (
    before &&
    before.parts === parts &&
    before.ground === ground &&
    before.body.product === body.product &&
    before.body.meshes === body.meshes
  )
    return before;
  const { matrix, top } = placeProduct(item, body, parts, ground);
  const { id, name, rayVisibility } = item;
  const instance: TableauInstance = { id, name, model: body.model, matrix, parts, rayVisibility };
  const made = { body, parts, ground, instance, top };
  known.set(item, made);
  return made;
}

const keys = new WeakMap<ProductDocument, string>();

/** The model key of a product document, worked out once. */
export function keyOf(product: ProductDocument): string {
  let key = keys.get(product);
  if (key === undefined) keys.set(product, (key = modelKey(product)));
  return key;
}
