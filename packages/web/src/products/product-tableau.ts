import { newCamera, newSet, newShot, nextProduct, type ProductDocument } from '@tender-orbit/core/document';
import { frameBounds } from '@tender-orbit/core/camera';
import { boundsOf, boundsSize, placementMatrix, type Mesh } from '@tender-orbit/core/geometry';
import type { Finish } from '@tender-orbit/core/finish';
import { compile, evaluate, type Tableau } from '@tender-orbit/core/scene';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';

/** Half of the diagonal of the product that the standard lights are set for, metres. */
const STANDARD_RADIUS = 0.09;

/** One product alone in a plain studio that grows with it, framed from slightly above. */
export function productTableau(
  product: ProductDocument,
  meshes: readonly Mesh[],
  aspect: number,
  { variant = '', margin = 0.22 }: { variant?: string; margin?: number } = {},
): Tableau {
  const set = newSet('Look');
  set.products = [{ ...nextProduct(set, 'product', { id: 'product', name: product.name }), variant, turn: -18 }];
  const seated = placementMatrix([0, 0, 0], -18, 0, 0, product.scale);
  const box = boundsOf(
    product.parts.filter((p) => p.visible && p.index < meshes.length).map((p) => meshes[p.index]),
    seated,
  );
  if (!Number.isFinite(box.min[1])) Object.assign(box, { min: [0, 0, 0], max: [0.1, 0.1, 0.1] });
  // Seated on the floor, as evaluate() will place it.
  box.max[1] -= box.min[1];
  box.min[1] = 0;
  const grow = Math.hypot(...boundsSize(box)) / 2 / STANDARD_RADIUS;
  const centre = [(box.min[0] + box.max[0]) / 2, 0, (box.min[2] + box.max[2]) / 2];
  set.products[0].position = [-centre[0], 0, -centre[2]];
  for (const bounds of [box.min, box.max]) for (const axis of [0, 2]) bounds[axis] -= centre[axis];
  for (const light of set.lights) {
    light.position = light.position.map((v) => v * grow) as [number, number, number];
    light.aim = light.aim.map((v) => v * grow) as [number, number, number];
    light.width *= grow;
    light.height *= grow;
    light.lumens *= grow * grow * 1.6;
  }
  for (const sweep of set.surfaces.filter((s) => s.kind === 'sweep'))
    Object.assign(sweep, {
      colour: '#57515C',
      width: sweep.width * grow,
      depth: sweep.depth * grow,
      height: sweep.height * grow,
      radius: sweep.radius * grow,
    });
  const camera = newCamera('look', 'Look', { exposure: 0.5 });
  set.cameras = [
    {
      ...camera,
      ...frameBounds(box, { focalLength: camera.focalLength, sensorWidth: camera.sensorWidth, aspect }, 0, 12, margin),
    },
  ];
  return evaluate(compile(set, newShot('Look', 'set', 'look', 1)), 0, {
    products: new Map([['product', product]]),
    meshes: () => meshes,
    aspect,
  });
}

/** What a finish is shown on: a ball of five centimetres. */
const BALL = builtDocument('Ball', {
  ...TURNED_PRESETS.tin,
  profile: Array.from({ length: 25 }, (_, i): [number, number, number] => {
    const a = (i / 24) * Math.PI;
    return [0.025 * Math.sin(a), 0.025 * (1 - Math.cos(a)), 0];
  }),
  wall: 0,
  cap: { kind: 'none', height: 0 },
});

/** A finish on a ball in a plain studio. */
export function ballTableau(finish: Finish): Tableau {
  const key = modelKey(BALL);
  return productTableau({ ...BALL, finishes: [{ ...finish, id: BALL.parts[0].finish }] }, builtMeshes(key)!, 1, {
    margin: -0.5,
  });
}
