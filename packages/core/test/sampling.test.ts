import { expect } from 'chai';
import { buildLightTree, blueNoise, BLUE_SIZE, LIGHT_NODE, type TreeLight } from '@tender-orbit/core/trace';
import { floor, pack, tracer } from './studio.ts';

/** Pairs of points a sample (the kernel's table). */
const PAIRS = 96;

function points(first: number, count: number, seed: number): Float32Array {
  const out = tracer.probe((k, _s, _from, to) => k.makePoints(to, first, count, seed), [0], count, PAIRS);
  return new Float32Array(out.buffer);
}

describe('tracer: sample points', () => {
  before(() => tracer.load(pack({ things: [{ mesh: floor() }] })));

  it('put one of the first 16 into every elementary interval, in every pair (Owen-scrambled Sobol)', () => {
    const table = points(0, 16, 99);
    for (let d = 0; d < 40; d++) {
      for (const [nu, nv] of [
        [16, 1],
        [8, 2],
        [4, 4],
        [2, 8],
        [1, 16],
      ]) {
        const cells = new Set(
          Array.from({ length: 16 }, (_, i) => {
            const [u, v] = table.subarray((i * PAIRS + d) * 2);
            return Math.floor(u * nu) * nv + Math.floor(v * nv);
          }),
        );
        expect(cells.size).equal(16);
      }
    }
  });

  it('are in 0..1, other for another seed, and those of later samples go on from the first', () => {
    const all = points(0, 32, 5);
    expect(all.every((v) => v >= 0 && v < 1)).equal(true);
    expect([...points(8, 24, 5)]).deep.equal([...all.subarray(8 * PAIRS * 2)]);
    const other = points(0, 32, 6);
    expect(other.filter((v, i) => v === all[i]).length).below(all.length / 100);
  });

  it('fill pairs independently of each other', () => {
    const table = points(0, 1024, 3);
    const column = (k: number): number[] => Array.from({ length: 1024 }, (_, i) => table[i * PAIRS * 2 + k] - 0.5);
    for (const [a, b] of [
      [0, 2],
      [1, 5],
      [7, 40],
    ]) {
      const [x, y] = [column(a), column(b)];
      const correlation = (12 * x.reduce((n, v, i) => n + v * y[i], 0)) / 1024;
      expect(Math.abs(correlation)).below(0.12);
    }
  });
});

describe('tracer: dithering over pixels', () => {
  const ranks = blueNoise();

  it('has every rank once', () => {
    expect(new Set(ranks).size).equal(BLUE_SIZE * BLUE_SIZE);
    expect(Math.max(...ranks)).equal(BLUE_SIZE * BLUE_SIZE - 1);
  });

  it('is blue: hardly any power at low frequencies, as much as white noise at high ones', () => {
    const n = BLUE_SIZE;
    const values = Float64Array.from(ranks, (r) => (r + 0.5) / (n * n) - 0.5);
    const power = (fx: number, fy: number): number => {
      let [re, im] = [0, 0];
      for (let y = 0; y < n; y++)
        for (let x = 0; x < n; x++) {
          const a = (2 * Math.PI * (fx * x + fy * y)) / n;
          re += values[y * n + x] * Math.cos(a);
          im += values[y * n + x] * Math.sin(a);
        }
      // White noise of this variance (1/12) has 1 everywhere.
      return ((re * re + im * im) * 12) / (n * n);
    };
    const ring = (radius: number): number => {
      const at = Array.from({ length: 24 }, (_, i) => (i / 24) * 2 * Math.PI);
      return at.reduce((s, a) => s + power(Math.round(radius * Math.cos(a)), Math.round(radius * Math.sin(a))), 0) / 24;
    };
    expect(ring(3)).below(0.05);
    expect(ring(6)).below(0.1);
    expect(ring(26)).above(0.7);
  });
});

describe('tracer: light tree', () => {
  const lights = Array.from({ length: 37 }, (_, i): TreeLight => {
    const at = [Math.sin(i * 1.7) * 3, 1 + (i % 5) * 0.3, Math.cos(i * 2.3) * 3];
    return {
      ...{ light: i, min: at.map((v) => v - 0.05), max: at.map((v) => v + 0.05), power: 1 + (i % 7) },
      ...{ axis: [0, -1, 0], cosNormals: 1, cosReach: 0 },
    };
  });

  const { nodes, trails } = buildLightTree(lights, lights.length);
  const ints = new Int32Array(nodes.buffer);
  const row = (node: number, field: number, lane: number): number => nodes[node * LIGHT_NODE.stride + field + lane];
  const childOf = (node: number, lane: number): number => ints[node * LIGHT_NODE.stride + LIGHT_NODE.child + lane];
  /** Lanes of a node that hold something: missing children let no light out. */
  const lanes = (node: number): number[] => [0, 1, 2, 3].filter((lane) => row(node, LIGHT_NODE.cosReach, lane) <= 1);

  it('has every light once, at the end of its own trail', () => {
    const found = lights.map((_, light) => {
      let node = 0;
      for (let trail = trails[light]; node >= 0; trail >>>= 2) node = childOf(node, trail & 3);
      return -1 - node;
    });
    expect(found).deep.equal(lights.map((_, i) => i));
    const count = nodes.length / LIGHT_NODE.stride;
    const leaves = Array.from({ length: count }, (_, n) => lanes(n).filter((lane) => childOf(n, lane) < 0).length);
    expect(leaves.reduce((a, b) => a + b, 0)).equal(lights.length);
  });

  it('holds as much power in each child as in those below, in a ball round theirs', () => {
    const power = (node: number): number => lanes(node).reduce((s, lane) => s + row(node, LIGHT_NODE.power, lane), 0);
    expect(power(0)).closeTo(
      lights.reduce((n, l) => n + l.power, 0),
      1e-3,
    );
    let inner = 0;
    for (let n = 0; n < nodes.length / LIGHT_NODE.stride; n++)
      for (const lane of lanes(n)) {
        const child = childOf(n, lane);
        if (child < 0) continue;
        inner++;
        expect(power(child)).closeTo(row(n, LIGHT_NODE.power, lane), 1e-3);
        for (const k of lanes(child)) {
          const off = [0, 4, 8].map((a) => row(child, LIGHT_NODE.centre + a, k) - row(n, LIGHT_NODE.centre + a, lane));
          expect(Math.hypot(...off)).at.most(Math.sqrt(row(n, LIGHT_NODE.radius2, lane)) + 1e-6);
        }
      }
    expect(inner).above(3);
  });

  it('a chain of lights ever further apart fits into a trail', () => {
    const chain = Array.from({ length: 60 }, (_, i): TreeLight => {
      const at = [2 ** (i / 2), 0, 0];
      return { ...lights[0], light: i, min: at, max: at };
    });
    const tree = buildLightTree(chain, chain.length);
    expect(new Set(tree.trails).size).above(50);
    const words = new Int32Array(tree.nodes.buffer);
    chain.forEach((_, light) => {
      let [node, steps] = [0, 0];
      for (let trail = tree.trails[light]; node >= 0; trail >>>= 2, steps++)
        node = words[node * LIGHT_NODE.stride + LIGHT_NODE.child + (trail & 3)];
      expect(-1 - node).equal(light);
      expect(steps).at.most(16);
    });
  });

  it('an empty set has an empty tree', () => {
    expect(buildLightTree([], 2).nodes.length).equal(0);
  });
});
