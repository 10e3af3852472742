import { expect } from 'chai';
import type { Point } from '@tender-orbit/core/document';
import {
  align,
  distribute,
  mirrored,
  setTogether,
  snapToFaces,
  snapToGrid,
  snapToVertices,
  type Boxed,
  type Steps,
} from '@tender-orbit/core/staging';

const boxed = (id: string, min: Point, size: Point): Boxed => ({
  id,
  box: { min, max: min.map((v, a) => v + size[a]) as Point },
});
const after = (thing: Boxed, steps: Steps): Boxed => {
  const by = steps.get(thing.id) ?? [0, 0, 0];
  return {
    id: thing.id,
    box: { min: thing.box.min.map((v, a) => v + by[a]) as Point, max: thing.box.max.map((v, a) => v + by[a]) as Point },
  };
};
const a = boxed('a', [0.0123, 0, -0.2], [0.07, 0.1, 0.07]);
const b = boxed('b', [0.5, 0.03, 0.1], [0.1234567, 0.2, 0.05]);
const c = boxed('c', [-0.4, 0, 0], [0.03, 0.03, 0.03]);

describe('staging: aligning and distributing, to a micrometre', () => {
  for (const [to, of] of [
    ['low', (t: Boxed) => t.box.min[0]],
    ['high', (t: Boxed) => t.box.max[0]],
    ['middle', (t: Boxed) => (t.box.min[0] + t.box.max[0]) / 2],
  ] as const) {
    it(`brings the ${to} side of all onto that of the first`, () => {
      const steps = align([a, b, c], 0, to);
      expect(steps.has('a')).equal(false);
      for (const t of [b, c]) {
        expect(of(after(t, steps))).closeTo(of(a), 1e-6);
        expect(steps.get(t.id)!.slice(1)).deep.equal([0, 0]);
      }
    });
  }

  it('spreads middles evenly and leaves the outermost', () => {
    const d = boxed('d', [0.1, 0, 0], [0.2, 0.1, 0.1]);
    const row = [b, d, c, a].map((t) => after(t, distribute([b, d, c, a], 0, 'middles')));
    const middles = row.map((t) => (t.box.min[0] + t.box.max[0]) / 2).sort((x, y) => x - y);
    const steps = middles.slice(1).map((m, i) => m - middles[i]);
    for (const s of steps) expect(s).closeTo(steps[0], 1e-6);
    expect(after(b, distribute([b, d, c, a], 0, 'middles'))).deep.equal(b);
  });

  it('spreads gaps evenly', () => {
    const steps = distribute([a, b, c], 0, 'gaps');
    const [x, y, z] = [c, a, b].map((t) => after(t, steps));
    expect(y.box.min[0] - x.box.max[0]).closeTo(z.box.min[0] - y.box.max[0], 1e-6);
  });

  it('refuses to distribute two', () => {
    expect(() => distribute([a, b], 0, 'gaps')).throw(/at least three/);
  });

  it('sets things together on both sides of the first, with a gap', () => {
    const steps = setTogether([a, b, c], 0, 0.01);
    expect(after(b, steps).box.min[0] - a.box.max[0]).closeTo(0.01, 1e-6);
    expect(a.box.min[0] - after(c, steps).box.max[0]).closeTo(0.01, 1e-6);
  });
});

describe('staging: snapping and mirroring', () => {
  it('snaps to a grid on the floor and keeps the height', () => {
    expect(snapToGrid([0.123, 0.456, -0.049], 0.05)).deep.equal([0.1, 0.456, -0.05]);
    expect(snapToGrid([0.123, 0.456, -0.049], 0)).deep.equal([0.123, 0.456, -0.049]);
  });

  it('snaps the nearest faces together where they are near, and nothing else', () => {
    const near = boxed('n', [0.0823 + 0.004, 0, 0.5], [0.05, 0.05, 0.05]);
    expect(snapToFaces(near, [a], 0.01)[0]).closeTo(-0.004, 1e-6);
    expect(snapToFaces(near, [a], 0.01).slice(1)).deep.equal([0, 0]);
    expect(snapToFaces(near, [a], 0.001)).deep.equal([0, 0, 0]);
  });

  it('snaps the nearest pair of vertices together, from any side of a cell, and nothing beyond the reach', () => {
    const own = [0, 0, 0, 0.1, 0, 0, 0.1, 0.2, 0];
    const corner = [0.1049, 0.0012, -0.0013, 5, 5, 5];
    const by = snapToVertices(own, [[0.11, 0.005, 0], corner], 0.006);
    [0.0049, 0.0012, -0.0013].forEach((v, axis) => expect(by[axis]).closeTo(v, 1e-9));
    expect(snapToVertices(own, [corner], 0.005)).deep.equal([0, 0, 0]);
    expect(snapToVertices(own, [[-0.001, -0.001, -0.001]], 0.006)[0]).closeTo(-0.001, 1e-12);
    expect(snapToVertices(own, [], 0.006)).deep.equal([0, 0, 0]);
  });

  it('mirrors there and back', () => {
    const there = mirrored([0.2, 0.1, 0.3], 25, 0.05);
    expect(there.position[0]).closeTo(-0.1, 1e-12);
    expect(there.turn).equal(-25);
    const back = mirrored(there.position, there.turn, 0.05);
    expect(back.position[0]).closeTo(0.2, 1e-12);
    expect(back.turn).equal(25);
  });
});
