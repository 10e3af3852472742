import { atan2, hypot } from '../maths/index.ts';
import type { ProductDocument, SetCamera, SetDocument, SetProduct, SweepSurface } from '../document/index.ts';
import {
  boundsOf,
  buildSweep,
  inverse,
  placementMatrix,
  transformPoint,
  type Bounds,
  type Vec3,
} from '../geometry/index.ts';
import { placeSurface, surfaceMesh, surfaceTop, surfaceTraits } from '../scene/index.ts';
import { standingBox } from './free-place.ts';
import type { Subject } from './light-kits.ts';

type Products = ReadonlyMap<string, ProductDocument>;

/** Size that lights are set up for where there is no product, metres. */
const NO_PRODUCT: Vec3 = [0.08, 0.1, 0.08];
/** A ring of things that stand on each other ends here. */
const DEEPEST = 8;

const sizeOf = ({ extent, scale }: ProductDocument, item: { scale: number }): Vec3 =>
  extent.map((v) => v * scale * item.scale) as Vec3;

/** Height of what a product stands on, from sizes alone, metres. Seats of a take come from hulls: see evaluate(). */
export function groundOf(set: SetDocument, products: Products, item: SetProduct, depth = 0): number {
  const surface = set.surfaces.find((s) => s.id === item.standsOn);
  const top = surface && surfaceTop(surface, item.position[0], item.position[2]);
  if (top !== undefined && top !== null) return top;
  const under = set.products.find((p) => p.id === item.standsOn);
  const product = under && products.get(under.product);
  if (!product || depth > DEEPEST) return 0;
  return groundOf(set, products, under, depth + 1) + sizeOf(product, under)[1];
}

/** How far behind its wall a sweep takes up room, metres: what stands there is seen by nobody. */
const BEHIND = 3;

/** Where a sweep is no floor any more: from where it begins to rise, and behind it. */
function riseOf({ width, depth, height, radius }: SweepSurface): Bounds {
  const { min, max } = boundsOf([buildSweep({ width, depth, height, radius })]);
  const rise = Math.min(radius, depth * 0.9, height);
  return { min: [min[0], 0, min[2] - BEHIND], max: [max[0], max[1], min[2] + rise] };
}

/** World boxes of what takes up room on a set: products, and bodies other than tabletops. */
export function takenBoxes(set: SetDocument, products: Products): Bounds[] {
  const items = set.products.flatMap((item) => {
    const product = products.get(item.product);
    if (!item.visible || !product) return [];
    const { position, turn, tilt, roll, scale } = item;
    const matrix = placementMatrix([position[0], 0, position[2]], turn, tilt, roll, product.scale * scale);
    const box = standingBox(product.extent, matrix);
    const lift = groundOf(set, products, item) + position[1] - box.min[1];
    for (const end of [box.min, box.max]) end[1] += lift;
    return [box];
  });
  const bodies = set.surfaces
    .filter((s) => surfaceTraits(s).obstacle)
    .map((s) => boundsOf([surfaceMesh(s)], placeSurface(s).matrix));
  return [...items, ...bodies];
}

/** World boxes of where nothing can stand to be seen: in the rise of each sweep and behind it. */
export function hiddenBoxes({ surfaces }: SetDocument): Bounds[] {
  return surfaces.flatMap((s) => (s.kind === 'sweep' && s.visible ? [riseOf(s)] : []));
}

/** Id of the tabletop under a place on the floor; empty for none. */
export function tableAt({ surfaces }: SetDocument, [x, z]: readonly [number, number]): string {
  const table = surfaces.find((s) => {
    if (!surfaceTraits(s).table) return false;
    const [dx, , dz] = transformPoint(inverse(placeSurface(s).matrix), [x, 0, z]);
    const { min, max } = boundsOf([surfaceMesh(s)]);
    return dx > min[0] && dx < max[0] && dz > min[2] && dz < max[2];
  });
  return table?.id ?? '';
}

/** What lights are set up round: the first product there is, as a camera sees it. */
export function subjectOf(set: SetDocument, products: Products, camera: SetCamera | null | undefined): Subject {
  const item = set.products.find((p) => p.visible);
  const product = item && products.get(item.product);
  const size = product ? sizeOf(product, item) : NO_PRODUCT;
  const [x, y, z] = item?.position ?? [0, 0, 0];
  const turn = camera ? atan2(camera.position[0] - x, camera.position[2] - z) : 0;
  const foot = item?.seated ? Math.max(0, y) + groundOf(set, products, item) : y;
  return {
    centre: [x, foot + size[1] / 2, z],
    radius: hypot(...size) / 2,
    cameraTurn: (turn * 180) / Math.PI,
  };
}
