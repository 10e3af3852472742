import { expect } from 'chai';
import engine from '@dimforge/rapier3d-simd-compat';
import { newSet, newShot, nextProduct, replaceTracks, runCommand, validateDocument } from '@tender-orbit/core/document';
import {
  boundsOf,
  breakMeshes,
  closedVolume,
  mergeMeshes,
  seedsOn,
  transformPoint,
  type BrokenPiece,
  type Mesh,
  type Vec3,
} from '@tender-orbit/core/geometry';
import { seeded } from '@tender-orbit/core/maths';
import {
  brokenProduct,
  builtDocument,
  builtMeshes,
  buildProduct,
  modelKey,
  newBuilder,
  TURNED_PRESETS,
} from '@tender-orbit/core/product';
import { compile, evaluate, type EvaluateContext } from '@tender-orbit/core/scene';
import { shatter, type Shattered, type ShatterSettings } from '@tender-orbit/core/simulate';
import { block } from './studio.ts';

const whole = ({ outside, inside }: BrokenPiece): Mesh =>
  mergeMeshes([...outside.values(), ...(inside ? [inside] : [])]);
const meshesOf = (kind: 'turned' | 'carton' | 'cutout'): Mesh[] =>
  buildProduct(newBuilder(kind)).map(({ mesh }) => mesh);

describe('breaking meshes', () => {
  it('pieces of closed meshes are closed, and their volumes add up to the whole', () => {
    const [glass, liquid, cap] = meshesOf('turned');
    for (const mesh of [glass, liquid, cap, block([0.1, 0.08, 0.06])]) {
      const seeds = seedsOn([mesh], 30, [0, 0.05, 0.04], 0.5, seeded(7));
      const volumes = breakMeshes([mesh], seeds).map((piece) => closedVolume(whole(piece)));
      expect(volumes.every((v) => v !== null && v > 0)).equal(true);
      const volume = closedVolume(mesh)!;
      expect(volumes.reduce<number>((sum, v) => sum + v!, 0) / volume).closeTo(1, 1e-6);
    }
  });

  it('each piece lies nearer to its own seed than to any other', () => {
    const mesh = block([0.1, 0.08, 0.06]);
    const seeds = seedsOn([mesh], 12, [0, 0, 0], 0, seeded(3));
    const far = (a: ArrayLike<number>, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
    for (const piece of breakMeshes([mesh], seeds)) {
      const { positions } = whole(piece);
      for (let i = 0; i < positions.length; i += 3) {
        const point = positions.subarray(i, i + 3);
        const own = far(point, seeds[piece.cell]);
        for (const seed of seeds) expect(far(point, seed)).above(own - 1e-6);
      }
    }
  });

  it('open meshes that close each other break as one; a sheet stays on what it lies on', () => {
    const board = meshesOf('cutout');
    expect(board.every((mesh) => closedVolume(mesh) === null)).equal(true);
    const pieces = breakMeshes(board, seedsOn(board, 16, [0, 0, 0], 0, seeded(1)));
    for (const piece of pieces) expect(closedVolume(whole(piece))).above(0);

    const [glass, , , label] = meshesOf('turned');
    const dressed = breakMeshes([glass, label], seedsOn([glass], 20, [0, 0.05, 0.04], 0, seeded(2)));
    const area = (m: Mesh): number => {
      let sum = 0;
      for (let t = 0; t < m.indices.length; t += 3) {
        const [a, b, c] = [0, 1, 2].map((k) => m.positions.subarray(3 * m.indices[t + k], 3 * m.indices[t + k] + 3));
        const [u, v] = [b, c].map((p) => [p[0] - a[0], p[1] - a[1], p[2] - a[2]]);
        sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
      }
      return sum;
    };
    const laid = dressed.flatMap(({ outside }) => outside.get(1) ?? []);
    expect(laid.reduce((sum, mesh) => sum + area(mesh), 0) / area(label)).closeTo(1, 1e-5);
    expect(dressed.every(({ outside }) => outside.has(0))).equal(true);
  });

  it('seeds gather where it is struck', () => {
    const mesh = block([0.1, 0.08, 0.06]);
    const corner: Vec3 = [0.05, 0.08, 0.03];
    const mean = (gather: number): number => {
      const seeds = seedsOn([mesh], 60, corner, gather, seeded(4));
      return seeds.reduce((sum, s) => sum + Math.hypot(s[0] - corner[0], s[1] - corner[1], s[2] - corner[2]), 0) / 60;
    };
    expect(mean(1)).below(0.6 * mean(0));
  });
});

describe('a product in pieces', () => {
  const all = (meshes: readonly Mesh[]): ReadonlyMap<number, Mesh> => new Map(meshes.map((mesh, i) => [i, mesh]));
  const settings = { cells: 20, near: [0, 0.05, 0.04] as Vec3, gather: 0.5, seed: 1, whole: [] };

  it('keeps finishes, art and variants; opaque parts have another finish where they broke', () => {
    const jar = builtDocument('Jar', TURNED_PRESETS.jar);
    const label = jar.parts.find(({ name }) => name === 'Label')!;
    const slot = jar.slots.find(({ part }) => part === label.index)!;
    jar.sheets = [
      {
        id: 'art',
        name: 'Art',
        picture: { asset: 'a'.repeat(64), pattern: null, look: null, emboss: false },
        width: 64,
        height: 32,
      },
    ];
    const look = { black: 0, white: 1, invert: false, tint: '#FFFFFF' };
    jar.variants[0].fills = [{ slot: slot.id, sheet: 'art', look }];
    const { product, meshes, pieces } = brokenProduct(jar, all(builtMeshes(modelKey(jar))!), settings);
    expect(() => validateDocument('product', product)).not.to.throw();
    expect(meshes).length(product.parts.length);
    // Every part is of one piece.
    expect(pieces.flatMap(({ parts }) => parts).sort((a, b) => a - b)).deep.equal(product.parts.map((p) => p.index));
    const named = (name: string): string => product.finishes.find((f) => f.name === name)!.id;
    const clear = product.parts.filter((p) => p.finish === named('Glass'));
    expect(clear.every(({ index }) => closedVolume(meshes[index]) !== null)).equal(true);
    expect(product.parts.some((p) => p.finish === named('Inside of Cap'))).equal(true);
    expect(product.finishes.some((f) => f.name === 'Inside of Glass')).equal(false);
    // Every piece of the label shows its part of the art.
    const labelled = product.parts.filter((p) => p.name.startsWith('Label'));
    expect(product.variants[0].fills.map((f) => product.slots.find((s) => s.id === f.slot)!.part)).to.include.members(
      labelled.map((p) => p.index),
    );
  });

  it('what is to stay whole is one piece', () => {
    const jar = builtDocument('Jar', TURNED_PRESETS.jar);
    const meshes = builtMeshes(modelKey(jar))!;
    const cap = jar.parts.find(({ name }) => name === 'Cap')!.index;
    const broken = brokenProduct(jar, all(meshes), { ...settings, whole: [cap] });
    const own = broken.pieces.filter(({ from }) => from === cap);
    expect(own).length(1);
    expect(broken.meshes[own[0].parts[0]]).equal(meshes[cap]);
    const every = jar.parts.map(({ index }) => index);
    expect(() => brokenProduct(jar, all(meshes), { ...settings, whole: every })).to.throw(/"Jar" can break/);
  });
});

describe('shattering', () => {
  before(() => engine.init());

  const jar = builtDocument('Jar', newBuilder('cutout'));
  const meshes = builtMeshes(modelKey(jar))!;
  const set = newSet('Studio');
  set.products = [nextProduct(set, 'one', { id: 'jar', name: 'Jar' })];
  const shot = newShot('Shot', set.name, set.cameras[0].id, 60);
  const SETTINGS: ShatterSettings = {
    ...{ cells: 12, gather: 0.3, whole: [], way: 'blow', direction: 0, height: 0.5, speed: 1, seed: 3 },
    ...{ frame: 10, bounce: 0.2, friction: 0.6, rate: { num: 24, den: 1 } },
  };
  const context = (products: Array<[string, typeof jar, readonly Mesh[]]>): EvaluateContext => ({
    products: new Map(products.map(([id, product]) => [id, product])),
    meshes: (key) => products.find(([, product]) => modelKey(product) === key)?.[2],
    aspect: 16 / 9,
  });
  const struck = (values: Partial<ShatterSettings> = {}, moved = shot): Shattered =>
    shatter(engine, compile(set, moved), context([['jar', jar, meshes]]), set.products[0], 'pieces', moved, {
      ...SETTINGS,
      ...values,
    });
  /** What is seen at a frame: places of all vertices by thing. */
  function seenAt(made: Shattered, frame: number, from = shot): Map<string, number[]> {
    const pieces = { ...made.broken.product, model: 'm'.repeat(64) };
    const both = { ...set, products: [...set.products, { ...made.thing, product: 'broken' }] };
    const known = context([
      ['jar', jar, meshes],
      ['broken', pieces, made.broken.meshes],
    ]);
    const keyed = runCommand(from, replaceTracks('Shatter', made.tracks));
    const { instances } = evaluate(compile(both, keyed), frame, known);
    return new Map(
      instances.map(({ id, matrix, parts }) => [
        id,
        parts.flatMap(({ index, place }) => {
          const mesh = (id === 'pieces' ? made.broken.meshes : meshes)[index];
          const out: number[] = [];
          for (let i = 0; i < mesh.positions.length; i += 3) {
            const [x, y, z] = mesh.positions.subarray(i, i + 3);
            out.push(...transformPoint(matrix, place ? transformPoint(place.matrix, [x, y, z]) : [x, y, z]));
          }
          return out;
        }),
      ]),
    );
  }
  const heights = (points: number[]): number[] => points.filter((_, i) => i % 3 === 1);

  it('pieces stand where the whole one was as it is struck, then lie on the floor', () => {
    const made = struck();
    expect([...seenAt(made, 9).keys()]).deep.equal(['one']);
    const first = seenAt(made, 10);
    expect([...first.keys()]).deep.equal(['pieces']);
    const box = boundsOf(meshes);
    const [low, high] = [Math.min(...heights(first.get('pieces')!)), Math.max(...heights(first.get('pieces')!))];
    expect(low).closeTo(0, 1e-4);
    expect(high).closeTo(box.max[1] - box.min[1], 1e-4);
    const last = heights(seenAt(made, 59).get('pieces')!);
    expect(Math.min(...last)).above(-0.004);
    expect(Math.max(...last)).below(0.7 * high);
  });

  it('a blow sends pieces away from where it comes, a burst all round, and none lets them fall apart', () => {
    const spreadOf = (values: Partial<ShatterSettings>): { x: number; z: number } => {
      const points = seenAt(struck(values), 16).get('pieces')!;
      const mean = (axis: number): number =>
        points.filter((_, i) => i % 3 === axis).reduce((sum, v) => sum + v, 0) / (points.length / 3);
      return { x: mean(0), z: mean(2) };
    };
    expect(spreadOf({ direction: 0, speed: 4 }).z).below(-0.01);
    expect(spreadOf({ direction: 90, speed: 4 }).x).below(-0.01);
    const burst = seenAt(struck({ way: 'burst', speed: 2 }), 16)
      .get('pieces')!
      .filter((_, i) => i % 3 === 0);
    const box = boundsOf(meshes);
    expect(Math.min(...burst)).below(box.min[0] - 0.03);
    expect(Math.max(...burst)).above(box.max[0] + 0.03);
    expect(Math.abs(spreadOf({ speed: 0 }).z)).below(0.02);
  });

  it('the same settings give the same keys; pieces go on with the motion that the whole one had', () => {
    expect(JSON.stringify(struck().tracks)).equal(JSON.stringify(struck().tracks));
    expect(JSON.stringify(struck({ seed: 4 }).tracks)).not.equal(JSON.stringify(struck().tracks));
    const flying = runCommand(
      shot,
      replaceTracks('Fly', [
        {
          ...{ thing: 'one', path: 'position.0' },
          keys: [
            { frame: 0, value: 0, ease: 'linear' },
            { frame: 24, value: 1, ease: 'linear' },
          ],
        },
      ]),
    );
    const made = struck({ speed: 0 }, flying);
    const middle = (frame: number): number => {
      const across = seenAt(made, frame, flying)
        .get('pieces')!
        .filter((_, i) => i % 3 === 0);
      return (Math.min(...across) + Math.max(...across)) / 2;
    };
    expect(middle(10)).closeTo(10 / 24, 1e-4);
    expect(middle(12) - middle(10)).within(0.04, 0.09);
  });

  it('breaks as it is seen then: in its variant, and as its own values shape it', () => {
    const vessel = builtDocument('Jar', TURNED_PRESETS.jar);
    const label = vessel.parts.find(({ name }) => name === 'Label')!.index;
    vessel.variants.push({ id: 'bare', name: 'Bare', fills: [], finishes: [], hidden: [label] });
    const known = context([['jar', vessel, builtMeshes(modelKey(vessel))!]]);
    const bare = { ...set, products: [{ ...set.products[0], variant: 'bare' }] };
    const half = runCommand(
      shot,
      replaceTracks('Empty', [
        { thing: 'one', path: 'own.body.turned.fill', keys: [{ frame: 0, value: 0.3, ease: 'hold' }] },
      ]),
    );
    const madeOf = (from: typeof set, moved: typeof shot): Shattered =>
      shatter(engine, compile(from, moved), known, from.products[0], 'pieces', moved, { ...SETTINGS, cells: 4 });
    const named = ({ broken }: Shattered, name: string): Mesh[] =>
      broken.product.parts.filter((p) => p.name.startsWith(name)).map((p) => broken.meshes[p.index]);
    const volumeOf = (made: Shattered): number =>
      named(made, 'Liquid').reduce((sum, mesh) => sum + closedVolume(mesh)!, 0);
    const [whole, less] = [madeOf(set, shot), madeOf(bare, half)];
    expect(named(whole, 'Label')).not.deep.equal([]);
    expect(named(less, 'Label')).deep.equal([]);
    expect(volumeOf(less)).below(0.6 * volumeOf(whole));
  });

  it('what is not seen cannot be struck', () => {
    const hidden = runCommand(
      shot,
      replaceTracks('Hide', [{ thing: 'one', path: 'visible', keys: [{ frame: 0, value: false, ease: 'hold' }] }]),
    );
    expect(() => struck({}, hidden)).to.throw(/is not seen at frame 11/);
  });
});
