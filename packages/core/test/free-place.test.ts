import { expect } from 'chai';
import { newCamera, newSet, type Point, type SetCamera, type SweepSurface } from '@tender-orbit/core/document';
import { aimMatrix, inverse, placementMatrix, transformPoint, type Bounds } from '@tender-orbit/core/geometry';
import { freePlace, hiddenBoxes, standingBox } from '@tender-orbit/core/staging';

const JAR: Point = [0.07, 0.1, 0.07];
const WIDE = 16 / 9;
const at = (size: Point, x: number, z: number): Bounds => standingBox(size, placementMatrix([x, 0, z], 0, 0, 0, 1));
const apart = (a: Bounds, b: Bounds): boolean => [0, 2].some((k) => a.max[k] < b.min[k] || b.max[k] < a.min[k]);
const camera = (values: Partial<SetCamera> = {}): SetCamera => ({ ...newCamera('c', 'Camera'), ...values });

/** How far from the picture's middle the furthest corner of a box lies: 1 is its edge. */
function reach({ position, aim, focalLength, sensorWidth }: SetCamera, { min, max }: Bounds): number {
  const look = inverse(aimMatrix(position, aim));
  const half = sensorWidth / 2 / focalLength;
  return Math.max(
    ...[0, 1, 2, 3, 4, 5, 6, 7].map((corner) => {
      const [x, y, z] = transformPoint(look, [
        (corner & 1 ? max : min)[0],
        (corner & 2 ? max : min)[1],
        (corner & 4 ? max : min)[2],
      ]);
      return Math.max(Math.abs(x / z), Math.abs((y / z) * WIDE)) / half;
    }),
  );
}

describe('staging: a place for one more thing', () => {
  it('on an empty set is where the camera aims', () => {
    expect(freePlace(JAR, [], camera({ aim: [0.2, 0.05, -0.1] }), WIDE)).deep.equal([0.2, -0.1]);
    expect(freePlace(JAR, [], null, WIDE)).deep.equal([0, 0]);
  });

  it('is clear of what stands there, and in the picture, until that is full', () => {
    const view = camera({ position: [0, 0.16, 0.9], aim: [0, 0.05, 0] });
    const taken: Bounds[] = [];
    for (let i = 0; i < 5; i++) {
      const box = at(JAR, ...freePlace(JAR, taken, view, WIDE));
      expect(taken.every((other) => apart(box, other))).equal(true);
      expect(reach(view, box)).below(1);
      taken.push(box);
    }
  });

  it('is beside what stands in the middle as the camera sees it, not behind', () => {
    for (const turn of [0, 40, 90, 200]) {
      const [s, c] = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
      const view = camera({ position: [0.9 * s, 0.16, 0.9 * c], aim: [0, 0.05, 0] });
      const [x, z] = freePlace(JAR, [at(JAR, 0, 0)], view, WIDE);
      expect(Math.abs(x * s + z * c), `turned by ${turn}`).below(Math.hypot(x, z) * 0.6);
    }
  });

  it('is as near as can be where the picture has no room', () => {
    const tight = camera({ position: [0, 0.1, 0.5], aim: [0, 0.05, 0], focalLength: 100 });
    const jar = at(JAR, 0, 0);
    const [x, z] = freePlace(JAR, [jar], tight, WIDE);
    expect(apart(at(JAR, x, z), jar)).equal(true);
    expect(Math.hypot(x, z)).below(0.13);
  });

  it('is never in the rise of a sweep or behind its wall, where nobody would see it', () => {
    const set = newSet('Studio');
    const [sweep] = set.surfaces;
    expect(sweep.kind).equal('sweep');
    const tall: [number, number, number] = [0.1, 0.2, 0.1];
    // A long lens on a small thing: whatever is larger is whole in the picture only far behind.
    const narrow = camera({ position: [0, 0.05, 0.7], aim: [0, 0.05, 0], focalLength: 85 });
    const open = freePlace(tall, [], narrow, WIDE);
    expect(open[1]).below(-0.5);
    const [, z] = freePlace(tall, hiddenBoxes(set), narrow, WIDE);
    expect(z).above(-(sweep as SweepSurface).depth * 0.4 + (sweep as SweepSurface).radius);
    expect(hiddenBoxes({ ...set, surfaces: [{ ...sweep, visible: false } as SweepSurface] })).deep.equal([]);
  });

  it('may be under what hangs above it', () => {
    const card: Bounds = { min: [-1, 0.5, -1], max: [1, 0.51, 1] };
    expect(freePlace(JAR, [card], camera({ aim: [0, 0.05, 0] }), WIDE)).deep.equal([0, 0]);
  });

  it('minds a shifted lens', () => {
    const view = camera({ position: [0, 0.1, 1], aim: [0, 0.05, 0], focalLength: 85 });
    const wall = at([0.1, 0.1, 0.1], 0, 0);
    const [plain] = freePlace(JAR, [wall], view, WIDE);
    const [left] = freePlace(JAR, [wall], { ...view, shiftX: -0.3 }, WIDE);
    const [right] = freePlace(JAR, [wall], { ...view, shiftX: 0.3 }, WIDE);
    expect(left).below(-0.05);
    expect(right).above(0.05);
    expect(Math.abs(plain)).above(0.05);
  });

  it('a box turns with its thing', () => {
    const lying = standingBox([0.02, 0.2, 0.02], placementMatrix([0, 0, 0], 0, 0, 90, 2));
    expect(lying.max[0] - lying.min[0]).closeTo(0.4, 1e-9);
    expect(lying.max[1] - lying.min[1]).closeTo(0.04, 1e-9);
  });
});
