import { expect } from 'chai';
import {
  newSet,
  newShot,
  nextProduct,
  openDocument,
  runCommand,
  validateDocument,
  type ProductDocument,
  type SetDocument,
} from '@tender-orbit/core/document';
import { makeFinish } from '@tender-orbit/core/finish';
import { boundsSize, buildCard, placementMatrix, transformPoint, type Vec3 } from '@tender-orbit/core/geometry';
import { displayedGrey } from '@tender-orbit/core/picture';
import { builtDocument, builtMeshes, modelKey, newBuilder, toneOf, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, evaluate, type Tableau } from '@tender-orbit/core/scene';
import { fitSet, growSet, standingBox, type FirstProduct } from '@tender-orbit/core/staging';
import { packScene } from '@tender-orbit/core/trace';
import { FREE, trace } from './studio.ts';

const ASPECT = 16 / 9;

/** A box of a size in metres, with its finishes in one colour. */
function boxOf([width, height, depth]: Vec3, colour: number): ProductDocument {
  const builder = { ...newBuilder('carton'), width, height, depth } as ProductDocument['builder'];
  const product = builtDocument('Box', builder!);
  return { ...product, finishes: product.finishes.map((f) => ({ ...f, baseColor: [colour, colour, colour] })) };
}

const PRODUCTS: Record<string, ProductDocument> = {
  'a very small one': boxOf([0.004, 0.003, 0.004], 0.4),
  'a tall one': boxOf([0.07, 0.26, 0.07], 0.4),
  'a flat one': boxOf([0.3, 0.02, 0.2], 0.4),
  'a dark one': boxOf([0.1, 0.12, 0.08], 0.02),
  'a pale one': boxOf([0.1, 0.12, 0.08], 0.85),
  'a large one': boxOf([1.2, 0.9, 0.6], 0.4),
  'a car': { ...boxOf([1.2, 0.4, 0.5], 0.4), scale: 3.75 },
  'a jar of honey': builtDocument('Jar', TURNED_PRESETS.jar),
};

function firstOf(product: ProductDocument): FirstProduct {
  const box = standingBox(product.extent, placementMatrix([0, 0, 0], 0, 0, 0, product.scale));
  return { box, tone: toneOf(product), camera: 'hero', aspect: ASPECT };
}

function fitted(product: ProductDocument): SetDocument {
  const set = newSet('Studio');
  set.products = [nextProduct(set, 'first', { id: 'p', name: 'First' }, [0, 0], '')];
  return runCommand(openDocument(set), fitSet(firstOf(product)));
}

function tableauOf(set: SetDocument, product: ProductDocument): Tableau {
  const meshes = builtMeshes(modelKey(product))!;
  return evaluate(compile(set, newShot('S', 'set', 'hero', 1)), 0, {
    products: new Map([['p', product]]),
    meshes: () => meshes,
    aspect: ASPECT,
  });
}

/** Place of a point in the picture, -1..1 each way. */
function inPicture({ camera }: Tableau, point: readonly number[]): [number, number] {
  const m = camera.matrix;
  const d = [0, 1, 2].map((a) => point[a] - m[12 + a]);
  const along = (at: number): number => d[0] * m[at] + d[1] * m[at + 1] + d[2] * m[at + 2];
  const high = Math.tan(camera.verticalFov / 2);
  return [along(0) / (-along(8) * high * camera.aspect), along(4) / (-along(8) * high)];
}

describe('staging: a set fitted to its first product', () => {
  for (const [name, product] of Object.entries(PRODUCTS)) {
    const first = firstOf(product);
    const set = fitted(product);
    const tableau = tableauOf(set, product);

    it(`${name}: is whole in the picture, with air round it, and large enough`, () => {
      const places = [0, 1, 2, 3, 4, 5, 6, 7].map((c) =>
        inPicture(
          tableau,
          [0, 1, 2].map((a) => ((c >> a) & 1 ? first.box.max : first.box.min)[a]),
        ),
      );
      const reach = Math.max(...places.flat().map(Math.abs));
      expect(reach).below(0.95);
      const height = (Math.max(...places.map((p) => p[1])) - Math.min(...places.map((p) => p[1]))) / 2;
      const width = (Math.max(...places.map((p) => p[0])) - Math.min(...places.map((p) => p[0]))) / 2;
      expect(Math.max(height, width)).above(0.35);
    });

    it(`${name}: white paper before it comes out as white`, () => {
      const size = Math.hypot(...boundsSize(first.box)) / 2;
      const { camera } = tableau;
      const towards = [camera.matrix[12], 0, camera.matrix[14]].map(
        (v) => v / Math.hypot(camera.matrix[12], camera.matrix[14]),
      );
      const middle = (first.box.min[1] + first.box.max[1]) / 2;
      const at: Vec3 = [towards[0] * size, middle, towards[2] * size];
      const turn = (Math.atan2(towards[0], towards[2]) * 180) / Math.PI;
      const card = {
        ...tableau.instances[0],
        ...{ id: 'paper', name: 'Paper', model: 'paper', matrix: placementMatrix(at, turn, 0, 0, 1) },
        parts: [
          {
            index: 0,
            slot: '',
            finish: makeFinish('Paper', { baseColor: [0.9, 0.9, 0.9], roughness: 1, specular: 0, doubleSided: true }),
          },
        ],
      };
      const meshes = builtMeshes(modelKey(product))!;
      const scene = packScene(
        { ...tableau, instances: [...tableau.instances, card as never] },
        new Map([
          [modelKey(product), { meshes, images: [] }],
          ['paper', { meshes: [buildCard(size * 0.4, size * 0.4)], images: [] }],
        ]),
      );
      const side = 24;
      const passes = trace(scene, 24, side, { ...FREE, maxDepth: 8, maxBounces: 4 });
      // The middle of the card is where it is seen.
      const [x, y] = inPicture(tableau, transformPoint(card.matrix, [0, 0, 0]));
      const pixel = Math.floor(((1 - y) / 2) * side) * side + Math.floor(((x + 1) / 2) * side);
      const [r, g, b] = [0, 1, 2].map((c) => passes.beauty[pixel * 3 + c] * camera.exposureScale);
      const luminance = displayedGrey(0.2126 * r + 0.7152 * g + 0.0722 * b, set.view);
      expect(luminance).within(0.75, 0.95);
    });

    it(`${name}: is a sound set whose lights shine on it from outside`, () => {
      expect(validateDocument('set', set)).deep.equal(set);
      const size = Math.hypot(...boundsSize(first.box)) / 2;
      for (const light of set.lights) expect(Math.hypot(...light.position)).above(size);
    });
  }

  it('dark and pale products get another ground than a grey one', () => {
    const ground = (name: string): string => fitted(PRODUCTS[name]).surfaces[0].colour;
    expect(new Set([ground('a dark one'), ground('a pale one'), ground('a tall one')]).size).equal(3);
  });

  it('fitting again, or to another product in between, gives the same set as at once', () => {
    const again = (set: SetDocument, name: string): SetDocument => runCommand(set, fitSet(firstOf(PRODUCTS[name])));
    const once = fitted(PRODUCTS['a tall one']);
    for (const other of ['a tall one', 'a very small one', 'a pale one']) {
      const twice = again(again(once, other), 'a tall one');
      expect(twice.surfaces[0].colour).equal(once.surfaces[0].colour);
      twice.lights.forEach((light, i) => {
        expect(light.width, other).closeTo(once.lights[i].width, 1e-6);
        expect(light.lumens / once.lights[i].lumens, other).closeTo(1, 2e-3);
      });
    }
  });

  it('a ground that somebody chose stays', () => {
    const set = newSet('Studio');
    set.surfaces[0].colour = '#224466';
    const after = runCommand(openDocument(set), fitSet(firstOf(PRODUCTS['a dark one'])));
    expect(after.surfaces[0].colour).equal('#224466');
  });

  it('growing and shrinking again leaves a set as it was', () => {
    const set = newSet('Studio');
    growSet(set, 4);
    growSet(set, 0.25);
    expect(set).deep.equal(newSet('Studio'));
  });

  it('the direction and the lens of the camera stay', () => {
    const before = newSet('Studio').cameras[0];
    const after = fitted(PRODUCTS['a tall one']).cameras[0];
    expect(after.focalLength).equal(before.focalLength);
    const azimuth = ({ position, aim }: typeof before): number =>
      Math.atan2(position[0] - aim[0], position[2] - aim[2]);
    expect(azimuth(after)).closeTo(azimuth(before), 1e-6);
  });
});
