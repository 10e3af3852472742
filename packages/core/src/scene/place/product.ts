import type { PosedProduct, ProductDocument, SetProduct } from '../../document/index.ts';
import { placementMatrix, SupportTree, type Mat4, type Mesh } from '../../geometry/index.ts';
import { modelKey, ownBody, shownParts, type OwnBody, type ShownPart } from '../../product/index.ts';
import type { TableauInstance } from '../tableau.ts';

/** A product with what it is drawn from, as one of it is at a frame. */
export interface Body extends OwnBody {
  model: string;
  /** The meshes of its model, which `meshes` differ from where numbers of its builder move. */
  modelMeshes: readonly Mesh[];
  /** What its own values are known by; missing without any. */
  own?: string;
}

const AT_REST: OwnBody['places'] = new Map();

/** A product of which one stands on a set as it is, or as own values of a frame have it. */
export function bodyFor(product: ProductDocument, modelMeshes: readonly Mesh[], { variant, own }: PosedProduct): Body {
  const model = keyOf(product);
  if (!own) return { product, meshes: modelMeshes, resting: modelMeshes, places: AT_REST, model, modelMeshes };
  const known = `${numberOf(product)} ${variant} ${JSON.stringify(own)}`;
  return { ...ownBody(product, modelMeshes, variant, own), model, modelMeshes, own: known };
}

const numbers = new WeakMap<ProductDocument, number>();
let last = 0;
function numberOf(product: ProductDocument): number {
  let number = numbers.get(product);
  if (number === undefined) numbers.set(product, (number = ++last));
  return number;
}

const partKeys = new WeakMap<readonly ShownPart[], string>();

/**
 * What parts with own values are known by while this program runs: equal for parts that look alike, which need not be the same
 * objects, since not those of every frame are kept. Undefined for others, which are.
 */
export function partsKey(parts: readonly ShownPart[]): string | undefined {
  return partKeys.get(parts);
}

const shaped = new WeakMap<readonly ShownPart[], WeakMap<OwnBody['places'], readonly ShownPart[]>>();

/** The parts that are shown, with own places and shapes. Results for the same body are the same objects. */
export function partsOf(item: SetProduct, body: Body, frame: number): readonly ShownPart[] {
  const parts = shapedParts(item, body, frame);
  const film = body.product.sheets.some((s) => s.film);
  if (body.own !== undefined) partKeys.set(parts, film ? `${body.own} ${frame}` : body.own);
  return parts;
}

function shapedParts({ variant }: SetProduct, body: Body, frame: number): readonly ShownPart[] {
  const { product, meshes, modelMeshes, places } = body;
  const shown = shownParts(product, variant, meshes, frame);
  if (meshes === modelMeshes && places.size === 0) return shown;
  const byPlaces = shaped.get(shown) ?? new WeakMap<OwnBody['places'], readonly ShownPart[]>();
  shaped.set(shown, byPlaces);
  const known = byPlaces.get(places);
  if (known) return known;
  const parts = shown
    .filter(({ index, shell }) => (shell ?? meshes[index]).indices.length > 0)
    .map((part) => {
      const mesh = meshes[part.index];
      const place = places.get(part.index);
      return {
        ...part,
        ...(place && { place: { matrix: place } }),
        ...(mesh !== modelMeshes[part.index] && !part.shell && { shape: { mesh } }),
      };
    });
  byPlaces.set(places, parts);
  return parts;
}

const supports = new WeakMap<readonly Mesh[], Map<string, SupportTree>>();

/** How far parts reach, all together, as they rest. Labels lie on the part before them and count with it. */
function supportOf(parts: readonly ShownPart[], { resting }: Body): SupportTree {
  const known = supports.get(resting) ?? new Map<string, SupportTree>();
  supports.set(resting, known);
  const indices = [...new Set(parts.map((p) => p.index))];
  const key = indices.join(' ');
  let tree = known.get(key);
  if (!tree) known.set(key, (tree = new SupportTree(indices.map((index) => resting[index]))));
  return tree;
}

/**
 * Where a product stands: seated, its lowest vertex touches `ground` and its height is a lift above that.
 * @param parts whose vertices count.
 */
export function placeProduct(item: SetProduct, body: Body, parts: readonly ShownPart[], ground: number): Mat4 {
  const [x, y, z] = item.position;
  const matrix = placementMatrix([x, y, z], item.turn, item.tilt, item.roll, body.product.scale * item.scale);
  if (item.seated) {
    const low = supportOf(parts, body).lowest(matrix[1], matrix[5], matrix[9]);
    if (low < Infinity) matrix[13] = y + (ground - low);
  }
  return matrix;
}

/** Height of the highest vertex of a product that is placed. */
export function topOf(matrix: Mat4, body: Body, parts: readonly ShownPart[]): number {
  return matrix[13] - supportOf(parts, body).lowest(-matrix[1], -matrix[5], -matrix[9]);
}

interface Known {
  body: Body;
  parts: readonly ShownPart[];
  ground: number;
  instance: TableauInstance;
}

const known = new WeakMap<SetProduct, Known>();

/** The instance of a product that does not move by itself; the same object as long as what it stands on stays. */
export function standingInstance(item: SetProduct, body: Body, ground: number, frame: number): TableauInstance {
  const parts = partsOf(item, body, frame);
  const before = known.get(item);
  if (
    before &&
    before.parts === parts &&
    before.ground === ground &&
    before.body.product === body.product &&
    before.body.meshes === body.meshes
  )
    return before.instance;
  const instance = makeInstance(item, body, parts, ground);
  known.set(item, { body, parts, ground, instance });
  return instance;
}

/** The instance of a product as it is now. */
export function movingInstance(item: SetProduct, body: Body, ground: number, frame: number): TableauInstance {
  return makeInstance(item, body, partsOf(item, body, frame), ground);
}

function makeInstance(item: SetProduct, body: Body, parts: readonly ShownPart[], ground: number): TableauInstance {
  const { id, name, rayVisibility } = item;
  return { id, name, model: body.model, matrix: placeProduct(item, body, parts, ground), parts, rayVisibility };
}

const keys = new WeakMap<ProductDocument, string>();

/** The model key of a product document, worked out once. */
export function keyOf(product: ProductDocument): string {
  let key = keys.get(product);
  if (key === undefined) keys.set(product, (key = modelKey(product)));
  return key;
}
