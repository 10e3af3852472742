import { expect } from 'chai';
import { buildBox, buildTurned, mergeMeshes, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import { buildBvh, castCameraRay, Intersector, traceFrame } from '@tender-orbit/core/trace';
import { FREE, floor, LAMBERT, mean, pack, panel, trace } from './studio.ts';

const ball = (radius = 1): Mesh =>
  buildTurned({
    profile: Array.from(
      { length: 49 },
      (_, i) => [Math.sin((i / 48) * Math.PI) * radius, -Math.cos((i / 48) * Math.PI) * radius] as const,
    ),
    segments: 96,
  });
const block = (size: Vec3): Mesh => {
  const { panels, edges } = buildBox({ size, bevel: 0 });
  return mergeMeshes([...panels, edges]);
};
let seed = 1;
const random = (): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;

describe('trace: finding what a ray hits', () => {
  const soup = (count: number): Mesh => {
    const positions = Float32Array.from({ length: count * 9 }, () => random() * 2 - 1);
    return {
      positions,
      normals: new Float32Array(count * 9),
      uvs: new Float32Array(count * 6),
      indices: Uint32Array.from({ length: count * 3 }, (_, i) => i),
    };
  };

  it('agrees with trying every triangle', () => {
    const scene = pack({ things: [{ mesh: soup(400) }] });
    const hit = new Intersector(scene);
    for (let ray = 0; ray < 1500; ray++) {
      const o = [random() * 4 - 2, random() * 4 - 2, random() * 4 - 2];
      const d = [random() - 0.5, random() - 0.5, random() - 0.5];
      let best = Infinity;
      for (let t = 0; t < 400; t++) best = Math.min(best, bruteForce(scene.triangles, t, o, d));
      const found = hit.nearest(o[0], o[1], o[2], d[0], d[1], d[2], 1e-5, Infinity);
      expect(found).equal(best < Infinity);
      if (found) expect(Math.abs(hit.t - best) / best).below(1e-4);
      expect(hit.blocked(o[0], o[1], o[2], d[0], d[1], d[2], 1e-5, Infinity)).equal(best < Infinity ? 1 : 0);
    }
  });

  function bruteForce(tri: Float32Array, t: number, o: number[], d: number[]): number {
    const p = t * 9;
    const e1 = [tri[p + 3], tri[p + 4], tri[p + 5]];
    const e2 = [tri[p + 6], tri[p + 7], tri[p + 8]];
    const cross = (a: number[], b: number[]): number[] => [
      a[1] * b[2] - a[2] * b[1],
      a[2] * b[0] - a[0] * b[2],
      a[0] * b[1] - a[1] * b[0],
    ];
    const dot = (a: number[], b: number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    const h = cross(d, e2);
    const det = dot(e1, h);
    if (Math.abs(det) < 1e-12) return Infinity;
    const s = [o[0] - tri[p], o[1] - tri[p + 1], o[2] - tri[p + 2]];
    const u = dot(s, h) / det;
    const q = cross(s, e1);
    const v = dot(d, q) / det;
    const at = dot(e2, q) / det;
    return u >= 0 && v >= 0 && u + v <= 1 && at > 1e-5 ? at : Infinity;
  }

  it('stands a set with nothing in it, and triangles all in one place', () => {
    expect(mean(trace(pack({ room: 2 }), 4).beauty)).closeTo(2, 1e-6);
    const same = { ...soup(40), positions: new Float32Array(360).fill(0.5) };
    expect(trace(pack({ things: [{ mesh: same }], room: 1 }), 2).beauty.every(Number.isFinite)).equal(true);
  });

  it('its tree holds every triangle once, inside its box', () => {
    const boxes = new Float32Array(300 * 6);
    for (let i = 0; i < 300; i++)
      for (let a = 0; a < 3; a++) boxes[i * 6 + 3 + a] = (boxes[i * 6 + a] = random()) + random() * 0.1;
    const { nodes, order } = buildBvh(boxes);
    expect([...order].sort((a, b) => a - b)).deep.equal(Array.from({ length: 300 }, (_, i) => i));
    const ints = new Int32Array(nodes.buffer);
    let leaves = 0;
    for (let n = 0; n < nodes.length; n += 8) {
      for (let k = 0; k < ints[n + 7]; k++) {
        const t = order[ints[n + 3] + k];
        leaves++;
        for (let a = 0; a < 3; a++)
          expect(boxes[t * 6 + a] >= nodes[n + a] && boxes[t * 6 + 3 + a] <= nodes[n + 4 + a]).equal(true);
      }
    }
    expect(leaves).equal(300);
  });
});

describe('trace: light, against what can be worked out', () => {
  it('a white ball in an even room cannot be seen (white furnace)', () => {
    for (const finish of [
      LAMBERT,
      { transmission: 1, thickness: 1, ior: 1.5, roughness: 0 },
      { transmission: 1, thickness: 0, roughness: 0 },
    ]) {
      const { beauty, alpha } = trace(pack({ things: [{ mesh: ball(), finish }], room: 1, fov: 10 }), 128, 6);
      expect(Math.min(...alpha)).equal(1);
      expect(mean(beauty)).closeTo(1, 0.01);
    }
  });

  it('metal and coated balls never give back more than they get', () => {
    for (const roughness of [0, 0.2, 0.5, 1]) {
      const metal = mean(
        trace(pack({ things: [{ mesh: ball(), finish: { metallic: 1, roughness } }], room: 1, fov: 10 }), 256, 4)
          .beauty,
      );
      expect(metal).below(1.005);
      if (roughness <= 0.2) expect(metal).above(0.97);
      // Single scattering loses light on rough metal; seen straight at roughness 1 it keeps 1 - ln 2 of it.
      if (roughness === 1) expect(metal).closeTo(1 - Math.LN2, 0.015);
      const coated = mean(
        trace(pack({ things: [{ mesh: ball(), finish: { clearcoat: 1, roughness } }], room: 1, fov: 10 }), 256, 4)
          .beauty,
      );
      expect(coated).within(0.75, 1.005);
    }
  });

  it('a floor under a rectangular panel gets its closed-form irradiance', () => {
    const luminance = 700;
    const albedo = 0.6;
    for (const [w, h, d] of [
      [0.6, 0.4, 0.5],
      [2, 0.3, 1],
      [0.1, 0.1, 2],
    ]) {
      const a = w / 2 / d;
      const b = h / 2 / d;
      // Form factor from a point under the middle: four times that under a corner (Siegel and Howell).
      const corner =
        ((a / Math.hypot(1, a)) * Math.atan(b / Math.hypot(1, a)) +
          (b / Math.hypot(1, b)) * Math.atan(a / Math.hypot(1, b))) /
        (2 * Math.PI);
      const scene = pack({
        things: [{ mesh: floor(), finish: { ...LAMBERT, baseColor: [albedo, albedo, albedo] } }],
        lights: [panel([0, d, 0], [0, 0, 0], w, h, luminance)],
        eye: [0, 0.05, 1],
        fov: 0.1,
      });
      expect(mean(trace(scene, 512, 4).beauty) / (albedo * luminance * 4 * corner)).closeTo(1, 0.005);
    }
  });

  it('two lights give the sum of each alone', () => {
    const [one, two] = [panel([0.5, 1, 0], [0, 0, 0], 0.3, 0.3, 300), panel([-1, 0.6, 0.4], [0, 0, 0], 0.2, 0.5, 900)];
    const lit = (lights: Array<typeof one>): number =>
      mean(trace(pack({ things: [{ mesh: floor() }], lights, eye: [0, 1, 2], fov: 0.2 }), 1024, 4).beauty);
    expect(lit([one, two]) / (lit([one]) + lit([two]))).closeTo(1, 0.01);
  });

  it('a panel seen by the camera shows its own luminance, a hidden one does not', () => {
    const facing = (seen: boolean): number =>
      mean(trace(pack({ lights: [panel([0, 0, 0], [0, 0, 4], 1, 1, 55, seen)] }), 4).beauty);
    expect(facing(true)).closeTo(55, 1e-3);
    expect(facing(false)).equal(0);
  });

  it('a block in the way casts a shadow; the light does not shine backwards', () => {
    const lights = [panel([0, 1, 0], [0, 0, 0], 0.1, 0.1, 1000)];
    const open = mean(trace(pack({ things: [{ mesh: floor() }], lights, eye: [0, 0.1, 1], fov: 0.2 }), 32).beauty);
    const blocker = { mesh: block([0.6, 0.02, 0.6]), matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0.5, 0, 1] };
    const shaded = mean(
      trace(pack({ things: [{ mesh: floor() }, blocker], lights, eye: [0, 0.1, 1], fov: 0.2 }), 32, 4, {
        ...FREE,
        maxBounces: 1,
      }).beauty,
    );
    expect(open).above(1);
    expect(shaded).below(open / 1000);
    const away = [panel([0, 1, 0], [0, 2, 0], 0.1, 0.1, 1000)];
    expect(
      mean(trace(pack({ things: [{ mesh: floor() }], lights: away, eye: [0, 0.1, 1], fov: 0.2 }), 32).beauty),
    ).equal(0);
  });

  it('follows Beer and Lambert through a filling: exp(-sigma d)', () => {
    const filling = {
      transmission: 1,
      thickness: 1,
      ior: 1,
      roughness: 0,
      attenuationColor: [0.8, 0.4, 0.1] as [number, number, number],
      attenuationDistance: 0.5,
    };
    for (const depth of [0.25, 0.5, 1]) {
      const { beauty } = trace(
        pack({
          things: [
            {
              mesh: block([1, 1, depth]),
              finish: filling,
              matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -0.5, 0, 1],
            },
          ],
          room: 1,
          fov: 0.5,
        }),
        8,
      );
      [0.8, 0.4, 0.1].forEach((c, i) => expect(beauty[i]).closeTo(Math.pow(c, depth / 0.5), 1e-3));
    }
  });

  it('where a filling overlaps its vessel the filling wins, without a gap', () => {
    const glass = { transmission: 1, thickness: 1, ior: 1, roughness: 0 };
    const filling = { ...glass, attenuationColor: [0.5, 0.5, 0.5] as [number, number, number], attenuationDistance: 1 };
    const lower = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -0.5, 0, 1];
    const scene = pack({
      things: [
        { mesh: block([1, 1, 2]), finish: glass, matrix: lower },
        { mesh: block([0.9, 0.9, 1]), finish: filling, matrix: [...lower.slice(0, 13), -0.45, 0, 1] },
      ],
      room: 1,
      fov: 0.5,
    });
    expect(mean(trace(scene, 16).beauty)).closeTo(0.5, 1e-3);
  });

  it('light falls through glass onto what lies behind it', () => {
    const lights = [panel([0, 1, 0], [0, 0, 0], 0.2, 0.2, 1000)];
    // A dark floor, so that what the pane throws back at it does not count.
    const things = [
      { mesh: floor(), finish: { ...LAMBERT, baseColor: [0.02, 0.02, 0.02] as [number, number, number] } },
    ];
    const pane = {
      mesh: block([2, 0.02, 2]),
      finish: { transmission: 1, thickness: 1, ior: 1.5, roughness: 0 },
      matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0.5, 0, 1],
    };
    const lit = (all: Parameters<typeof pack>[0]['things']): number =>
      mean(trace(pack({ things: all, lights, eye: [0, 0.1, 0.9], fov: 0.2 }), 256).beauty);
    // Two faces let 96 % each through.
    expect(lit([...things, pane]) / lit(things)).closeTo(0.96 ** 2, 0.01);
  });

  it('alpha: blend shows its share of what is behind, mask all or nothing', () => {
    const black = { ...LAMBERT, baseColor: [0, 0, 0] as [number, number, number] };
    const seen = (finish: object): number =>
      mean(
        trace(pack({ things: [{ mesh: floor(1), finish: { ...black, ...finish } }], eye: [0, 4, 0.01], room: 1 }), 1024)
          .beauty,
      );
    expect(seen({ alphaMode: 'blend', alpha: 0.25 })).closeTo(0.75, 0.01);
    expect(seen({ alphaMode: 'mask', alpha: 0.25, alphaCutoff: 0.5 })).closeTo(1, 1e-6);
    expect(seen({ alphaMode: 'mask', alpha: 0.75, alphaCutoff: 0.5 })).closeTo(0, 1e-6);
  });
});

describe('trace: camera and frames', () => {
  it('all rays of a point meet on the plane of focus and nowhere else', () => {
    const { camera } = pack({ eye: [0, 0, 5], aperture: 0.05, focus: 3, fov: 40 });
    const ray = { ox: 0, oy: 0, oz: 0, dx: 0, dy: 0, dz: 0 };
    const at = (z: number): Array<[number, number]> =>
      Array.from({ length: 20 }, () => {
        castCameraRay(camera, 0.3, -0.7, random(), random(), ray);
        const t = (z - ray.oz) / ray.dz;
        return [ray.ox + ray.dx * t, ray.oy + ray.dy * t];
      });
    const spread = (points: Array<[number, number]>): number =>
      Math.max(...points.map((p) => Math.hypot(p[0] - points[0][0], p[1] - points[0][1])));
    expect(spread(at(2))).below(1e-6);
    expect(spread(at(0))).above(0.01);
  });

  it('the same inputs give the same bytes, another frame other noise', () => {
    const scene = pack({
      things: [{ mesh: floor() }],
      lights: [panel([0, 1, 0], [0, 0, 0], 0.5, 0.5, 100)],
      eye: [0, 1, 1],
      fov: 30,
    });
    const bytes = (frame: number): Buffer => Buffer.from(trace(scene, 4, 8, FREE, frame).beauty.buffer);
    expect(bytes(3).equals(bytes(3))).equal(true);
    expect(bytes(3).equals(bytes(4))).equal(false);
  });

  it('records what lies first in the way: depth, normal, colour, cover', () => {
    const passes = trace(
      pack({
        things: [{ mesh: floor(1), finish: { ...LAMBERT, baseColor: [0.2, 0.4, 0.6] } }],
        eye: [0, 3, 0.001],
        fov: 60,
      }),
      64,
      9,
    );
    const middle = 4 * 9 + 4;
    expect(passes.depth[middle]).closeTo(3, 0.03);
    expect(passes.normal[middle * 3 + 1]).closeTo(1, 1e-5);
    [0.2, 0.4, 0.6].forEach((v, i) => expect(passes.albedo[middle * 3 + i]).closeTo(v, 1e-5));
    expect(passes.alpha[middle]).equal(1);
    expect(passes.alpha[0]).equal(0);
  });

  it('stops when told to', () => {
    const rows: number[] = [];
    const stopped = traceFrame(pack({ room: 1 }), {
      width: 4,
      height: 8,
      samples: 1,
      limits: FREE,
      frame: 0,
      onRow: (share) => (rows.push(share), share < 0.5),
    });
    expect(stopped).equal(null);
    expect(rows.at(-1)).equal(0.5);
  });

  it('a clamp takes the top off indirect light only', () => {
    const room = {
      things: [{ mesh: floor(1) }],
      lights: [panel([0, 0.2, 0], [0, 0, 0], 0.4, 0.4, 5000)],
      eye: [0, 0.6, 1.2] as Vec3,
      fov: 20,
    };
    const [free, clamped] = [FREE, { ...FREE, clamp: 0.01 }].map((limits) =>
      mean(trace(pack(room), 64, 4, limits).beauty),
    );
    expect(clamped).at.most(free);
    expect(clamped).above(free * 0.5);
  });
});
