import { expect } from 'chai';
import engine from '@dimforge/rapier3d-simd-compat';
import { newSet, newShot, nextProduct, type ProductDocument } from '@tender-orbit/core/document';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile } from '@tender-orbit/core/scene';
import { bodiesOf, runBodies, type BodyMotion, type BodyPose, type BodySettings } from '@tender-orbit/core/simulate';
import { BODY_KITS, placeBodyKit, type BodyKit, type BodyKitMade } from '@tender-orbit/core/staging';

/** A kit round a jar or a bowl, and where it comes to rest. */
function fallOf(
  kit: BodyKit,
  subject: ProductDocument,
  values: Partial<BodySettings> = {},
): BodyKitMade & { motion: BodyMotion } {
  let count = 0;
  const made = placeBodyKit(kit, { centre: [0, 0.04, 0], radius: 0.065, cameraTurn: 0 }, 3, () => `b${count++}`);
  const set = newSet('Studio');
  set.products = [
    nextProduct(set, 'jar', { id: 'p', name: 'Jar' }),
    ...made.things.map((t) => ({ ...t, product: 'q' })),
  ];
  const products = new Map([
    ['p', subject],
    ['q', made.product],
  ]);
  const known = new Map([...products.values()].map((p) => [modelKey(p), builtMeshes(modelKey(p))!]));
  const context = { products, meshes: (key: string) => known.get(key), aspect: 16 / 9 };
  const ids = made.things.map((t) => t.id);
  const { falling, still } = bodiesOf(compile(set, newShot('Shot', set.name, set.cameras[0].id, 60)), 0, context, ids);
  const motion = runBodies(engine, falling, still, { ...made.fall, ...values, rate: { num: 24, den: 1 } });
  return { ...made, motion };
}
const ends = ({ motion }: { motion: BodyMotion }): Array<{ id: string; x: number; y: number; z: number }> =>
  [...motion.frames].map(([id, poses]) => {
    const [x, y, z] = poses.at(-1)!.position;
    return { id, x, y, z };
  });

/** The middle of a ball that stands on its own origin. */
function centreOf({ position, rotation: [x, y, z, w] }: BodyPose, r: number): [number, number, number] {
  return [
    position[0] + 2 * r * (x * y - z * w),
    position[1] + r * (1 - 2 * (x * x + z * z)),
    position[2] + 2 * r * (y * z + x * w),
  ];
}

describe('bodies made up for a product', () => {
  const jar = builtDocument('Jar', TURNED_PRESETS.jar);
  before(() => engine.init());

  for (const kit of BODY_KITS)
    it(`${kit}: of one product, clear of each other and of what stands there, by the seed alone`, () => {
      const make = (seed: number): BodyKitMade =>
        placeBodyKit(kit, { centre: [0.2, 0.04, 0], radius: 0.065, cameraTurn: 40 }, seed, () => 'id');
      const { product, things } = make(5);
      const [width, , depth] = product.extent;
      expect(things.length).above(5);
      things.forEach(({ position: [x, , z] }, i) => {
        expect(Math.hypot(x - 0.2, z)).above(0.065);
        for (const { position } of things.slice(0, i))
          expect(Math.hypot(position[0] - x, position[2] - z)).above(Math.max(width, depth));
      });
      expect(make(5)).deep.equal(make(5));
      expect(make(6).things).not.deep.equal(things);
    });

  it('marbles are balls: they come rolling over the floor, spin as they go, and stop near their places', () => {
    const made = fallOf('marbles', jar);
    const radius = made.product.extent[0] / 2;
    const [first] = made.things;
    const poses = made.motion.frames.get(first.id)!;
    // None leaves the floor while nothing is in its way.
    for (const pose of poses.slice(0, 8)) expect(centreOf(pose, radius)[1]).closeTo(radius, radius * 0.08);
    expect(made.motion.rests).below(200);
    // Those that nothing was in the way of.
    const off = made.things.map(({ id, position }) => {
      const [x, , z] = centreOf(made.motion.frames.get(id)!.at(-1)!, radius);
      return Math.hypot(x - position[0], z - position[2]);
    });
    expect(off.filter((d) => d < 0.05).length).above(made.things.length / 3);
    // A turn for each of its circumferences.
    const slow = poses.findIndex(
      ({ position }, i) => i > 0 && Math.hypot(...position.map((v, k) => v - poses[i - 1].position[k])) < radius,
    );
    const [a, b] = [poses[slow - 1], poses[slow]];
    const [from, to] = [centreOf(a, radius), centreOf(b, radius)];
    const way = Math.hypot(to[0] - from[0], to[2] - from[2]);
    const w = a.rotation.reduce((sum, v, i) => sum + v * b.rotation[i], 0);
    expect(2 * Math.acos(Math.min(1, Math.abs(w)))).closeTo(way / radius, (way / radius) * 0.15);
  });

  it('ice tumbles down round the product and lies on the floor', () => {
    const made = fallOf('ice drop', jar);
    for (const { y, x, z } of ends(made)) {
      expect(y).within(-0.002, 0.09);
      expect(Math.hypot(x, z)).below(0.6);
    }
    expect(made.motion.rests).below(220);
  });

  it('sweets poured over a bowl settle in it', () => {
    const bowl = builtDocument('Bowl', TURNED_PRESETS.bowl);
    const made = fallOf('sweets', bowl, { height: 0.2, spread: 0.01 });
    const inside = ends(made).filter(({ x, y, z }) => Math.hypot(x, z) < 0.075 && y > 0);
    expect(inside.length).above(made.things.length * 0.8);
    // They lie on each other, not in each other.
    expect(Math.max(...inside.map(({ y }) => y))).above(0.012);
  });
});
