import {
  boundsCentre,
  boundsOf,
  DEGREES,
  multiply,
  placementMatrix,
  type Mat4,
  type Mesh,
  type Vec3,
} from '../geometry/index.ts';
import { hexToLinear, linearToHex, type Finish, type Rgb } from '../finish/index.ts';
import {
  OWN,
  OWN_PROPERTIES,
  ownNames,
  partsOfItem,
  readOwnPath,
  type ArtLook,
  type Builder,
  type Hinge,
  type LabelSlot,
  type OwnGroup,
  type OwnValues,
  type ProductDocument,
  type ProductFinish,
  type SlotFill,
} from '../document/index.ts';
import { propertyAt, readProperty, writeProperty, type Property, type PropertyValue } from '../properties/index.ts';
import { buildProduct } from './build-product.ts';
import { poseRig, type RigClip } from './rig-pose.ts';
import { variantOf } from './shown-parts.ts';

/** A product with its meshes as one of it is on a set at a frame. */
export interface OwnBody {
  product: ProductDocument;
  meshes: readonly Mesh[];
  /** The same before the model's own animations: what it stands on the ground by. */
  resting: readonly Mesh[];
  /** Places of parts in the model, by their index; parts that rest are not in it. */
  places: ReadonlyMap<number, Mat4>;
}

const NO_PLACES: ReadonlyMap<number, Mat4> = new Map();

interface Kept {
  meshes: readonly Mesh[];
  body: OwnBody;
}
const kept = new WeakMap<ProductDocument, Map<string, Kept>>();
/** Bodies kept of one product: a film at rest has one, a move one a frame. */
const KEEP = 64;

/**
 * A product with own values of a frame put in: what is not touched is the same object as in the product. The same values
 * give the same body. Values of parts, slots and finishes that are gone are passed over.
 */
export function ownBody(
  product: ProductDocument,
  meshes: readonly Mesh[],
  variant: string,
  own: OwnValues | undefined,
): OwnBody {
  if (!own) return { product, meshes, resting: meshes, places: NO_PLACES };
  const known = kept.get(product) ?? new Map<string, Kept>();
  kept.set(product, known);
  const key = variant + JSON.stringify(own);
  const there = known.get(key);
  if (there?.meshes === meshes) return there.body;
  if (known.size >= KEEP) known.clear();
  const body = made(product, meshes, variant, own);
  known.set(key, { meshes, body });
  return body;
}

interface Group {
  item: string;
  values: Array<[string, PropertyValue]>;
}

function grouped(own: OwnValues): Record<OwnGroup, Group[]> {
  const groups: Record<OwnGroup, Group[]> = { body: [], clips: [], parts: [], labels: [], finishes: [] };
  for (const [name, value] of Object.entries(own)) {
    const path = readOwnPath(OWN + name);
    if (!path) continue;
    const list = groups[path.group];
    const group = list.find((g) => g.item === path.item);
    if (group) group.values.push([path.name, value]);
    else list.push({ item: path.item, values: [[path.name, value]] });
  }
  return groups;
}

function made(product: ProductDocument, meshes: readonly Mesh[], variant: string, own: OwnValues): OwnBody {
  const { body, clips, parts, labels, finishes } = grouped(own);
  const changed = { ...product };
  const shaped = body.length > 0 ? reshaped(product, meshes, body) : meshes;
  if (labels.length > 0) relabel(changed, variantOf(product, variant).id, labels);
  if (finishes.length > 0)
    changed.finishes = product.finishes.map((finish) => {
      const group = finishes.find((g) => g.item === finish.id);
      return group ? refinished(finish, group.values) : finish;
    });
  const rigged = clips.length > 0 ? poseRig(shaped, clips.map(clipOf)) : { meshes: shaped, places: NO_PLACES };
  const places = parts.length > 0 ? placesOf(parts, shaped, product.scale, rigged.places) : rigged.places;
  // Without a change to what parts look like the product itself stays, and with it all that is known of it.
  return { product: labels.length + finishes.length > 0 ? changed : product, ...rigged, resting: shaped, places };
}

/** What own values say of one of the model's animations; its weight is whole where nothing keys it. */
function clipOf({ item, values }: Group): RigClip {
  const { seconds = 0, weight = 1 } = Object.fromEntries(values) as { seconds?: number; weight?: number };
  return { animation: Number(item), seconds, weight };
}

/** Meshes of a built product with other numbers, part by part of the same name; what has no part then stays as it was. */
function reshaped(product: ProductDocument, meshes: readonly Mesh[], groups: readonly Group[]): readonly Mesh[] {
  const { builder } = product;
  const group = builder && groups.find((g) => g.item === builder.kind);
  if (!group) return meshes;
  const changed = JSON.parse(JSON.stringify(builder)) as Builder;
  for (const [name, value] of group.values) writeProperty(changed, name, value);
  const built = new Map(buildProduct(changed).map(({ name, mesh }) => [name, mesh]));
  const names = namesOfBuilder(product);
  return meshes.map((mesh, index) => {
    const name = names[index];
    return name === undefined ? mesh : (built.get(name) ?? NOTHING);
  });
}

/** A part that is not there with these numbers: an empty vessel has no liquid. */
const NOTHING: Mesh = {
  positions: new Float32Array(0),
  normals: new Float32Array(0),
  uvs: new Float32Array(0),
  indices: new Uint32Array(0),
};

const builderNames = new WeakMap<ProductDocument, string[]>();

function namesOfBuilder(product: ProductDocument): string[] {
  let names = builderNames.get(product);
  if (!names) builderNames.set(product, (names = buildProduct(product.builder!).map((part) => part.name)));
  return names;
}

const LOOK_NAMES: ReadonlySet<string> = new Set(['black', 'white', 'invert', 'tint']);

function relabel(product: ProductDocument, variant: string, groups: readonly Group[]): void {
  product.slots = product.slots.map((slot) => {
    const group = groups.find((g) => g.item === slot.id);
    if (!group) return slot;
    const changed: LabelSlot = {
      ...slot,
      ...{ centre: [...slot.centre], offset: [...slot.offset], repeat: [...slot.repeat] },
    };
    for (const [name, value] of group.values) if (!LOOK_NAMES.has(name)) writeProperty(changed, name, value);
    return changed;
  });
  const refill = (fill: SlotFill): SlotFill => {
    const looks = groups.find((g) => g.item === fill.slot)?.values.filter(([name]) => LOOK_NAMES.has(name));
    return looks?.length
      ? { ...fill, look: { ...fill.look, ...(Object.fromEntries(looks) as Partial<ArtLook>) } }
      : fill;
  };
  product.variants = product.variants.map((v) => (v.id === variant ? { ...v, fills: v.fills.map(refill) } : v));
}

/** What finishes hold as linear light and properties as sRGB hex. */
const TINTS: ReadonlySet<string> = new Set(['baseColor', 'attenuationColor', 'sheenColor', 'emissive']);
/** What finishes hold in radians and properties in degrees. */
const isAngle = (name: string): boolean => name === 'anisotropyRotation' || name.endsWith('.rotation');

function refinished(finish: ProductFinish, values: Group['values']): ProductFinish {
  const changed = JSON.parse(JSON.stringify(finish)) as ProductFinish;
  for (const [name, value] of values) {
    if (TINTS.has(name)) writeProperty(changed, name, hexToLinear(value as string) ?? [0, 0, 0]);
    else writeProperty(changed, name, isAngle(name) ? (value as number) * DEGREES : value);
  }
  return changed;
}

/** A value of a finish as a property holds it. */
function finishValue(finish: Finish, name: string): PropertyValue | undefined {
  const value = readProperty(finish, name);
  if (value === undefined) return undefined;
  if (TINTS.has(name)) return linearToHex(value as Rgb);
  return isAngle(name) ? (value as number) / DEGREES : (value as PropertyValue);
}

/**
 * Where parts go that turn about a line of the box round them, then are shifted by metres; `scale` is metres per unit of the
 * model. Later groups carry what earlier ones moved, and all of them what `animated` did.
 */
function placesOf(
  groups: readonly Group[],
  meshes: readonly Mesh[],
  scale: number,
  animated: ReadonlyMap<number, Mat4>,
): Map<number, Mat4> {
  const places = new Map(animated);
  for (const { item, values } of groups) {
    const parts = partsOfItem(item).filter((index) => index >= 0 && index < meshes.length);
    if (parts.length === 0) continue;
    const given = Object.fromEntries(values);
    const number = (name: string): number => (given[name] as number | undefined) ?? 0;
    const whole = given.shift as number[] | undefined;
    const shift = [0, 1, 2].map((axis) => (whole?.[axis] ?? number(`shift.${axis}`)) / scale) as Vec3;
    const pivot = hingeOf(
      (given.hinge as Hinge | undefined) ?? 'middle',
      parts.map((index) => meshes[index]),
    );
    const moved = placementMatrix(
      shift.map((v, axis) => v + pivot[axis]) as Vec3,
      number('turn'),
      number('tilt'),
      number('roll'),
      1,
    );
    const matrix = multiply(moved, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -pivot[0], -pivot[1], -pivot[2], 1]);
    for (const index of parts) {
      const before = places.get(index);
      places.set(index, before ? multiply(matrix, before) : matrix);
    }
  }
  return places;
}

/** A point on the line that parts turn about: the middle of their box, of a face of it, or of a lower edge. */
function hingeOf(hinge: Hinge, meshes: readonly Mesh[]): Vec3 {
  const box = boundsOf(meshes);
  const [x, y, z] = boundsCentre(box);
  const points: Record<Hinge, Vec3> = {
    middle: [x, y, z],
    base: [x, box.min[1], z],
    top: [x, box.max[1], z],
    back: [x, box.min[1], box.min[2]],
    front: [x, box.min[1], box.max[2]],
    left: [box.min[0], box.min[1], z],
    right: [box.max[0], box.min[1], z],
  };
  return points[hinge];
}

/** Something of a product that has own values. */
export interface OwnItem {
  group: OwnGroup;
  item: string;
  name: string;
}

/** What of a product can be keyed where it stands: its builder, own animations, parts, labels and finishes. */
export function ownItems(product: ProductDocument): OwnItem[] {
  const { builder, origin, parts, slots, finishes } = product;
  return [
    ...(builder ? [{ group: 'body', item: builder.kind, name: 'Body' } as const] : []),
    ...(origin?.animations ?? []).map(({ name }, i) => ({ group: 'clips', item: String(i), name }) as const),
    ...parts.map(({ index, name }) => ({ group: 'parts', item: String(index), name }) as const),
    ...slots.map(({ id, name }) => ({ group: 'labels', item: id, name }) as const),
    ...finishes.map(({ id, name }) => ({ group: 'finishes', item: id, name }) as const),
  ];
}

/** What an own path is of, in words: the name of the part, label or finish. */
export function ownSubject(product: ProductDocument, path: string): string {
  const own = readOwnPath(path);
  if (!own) return '';
  if (own.group === 'parts') {
    const names = partsOfItem(own.item).map((index) => product.parts.find((p) => p.index === index)?.name ?? 'deleted');
    return names.length > 2 ? `${names[0]} and ${names.length - 1} more` : names.join(' and ');
  }
  return ownItems(product).find((i) => i.group === own.group && i.item === own.item)?.name ?? 'deleted';
}

/** The value that an own path has while nothing keys it; undefined where the product has no such thing. */
export function restingOwn(product: ProductDocument, variant: string, path: string): PropertyValue | undefined {
  const own = readOwnPath(path);
  const property = propertyAt(OWN_PROPERTIES, path);
  if (!own || !property) return undefined;
  const { group, item, name } = own;
  if (group === 'body')
    return product.builder?.kind === item
      ? (readProperty(product.builder, name) as PropertyValue | undefined)
      : undefined;
  if (group === 'clips') return product.origin?.animations[Number(item)] && (name === 'weight' ? 1 : 0);
  if (group === 'parts') return restOf(property);
  if (group === 'labels') {
    const slot = product.slots.find((s) => s.id === item);
    const look = variantOf(product, variant).fills.find((f) => f.slot === item)?.look;
    const holder = LOOK_NAMES.has(name) ? look : slot;
    return holder && (readProperty(holder, name) as PropertyValue | undefined);
  }
  const finish = product.finishes.find((f) => f.id === item);
  return finish && finishValue(finish, name);
}

function restOf(property: Property): PropertyValue | undefined {
  if (property.type === 'place') return [0, 0, 0];
  return property.type === 'choice' ? property.choices[0] : 0;
}

/** The own paths of an item that the product has a value for, with their properties. */
export function ownPaths(
  product: ProductDocument,
  variant: string,
  { group, item }: Pick<OwnItem, 'group' | 'item'>,
): Array<{ path: string; property: Property }> {
  return ownNames(group, item).flatMap((name) => {
    const path = `${OWN}${group}.${item}.${name}`;
    const property = propertyAt(OWN_PROPERTIES, path);
    return property && restingOwn(product, variant, path) !== undefined ? [{ path, property }] : [];
  });
}
