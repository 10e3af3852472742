import { expect } from 'chai';
import {
  aimMatrix,
  boundsOf,
  boundsSize,
  buildBox,
  buildRelief,
  buildSweep,
  buildTurned,
  filletProfile,
  mergeMeshes,
  multiply,
  placementMatrix,
  seatOffset,
  smoothNormals,
  transformMesh,
  transformPoint,
  triangleCount,
  type Vec3,
} from '@tender-orbit/core/geometry';
import { normalError, openEdges, volumeOf } from './mesh-facts.ts';

describe('geometry: turned bodies', () => {
  const cylinder = buildTurned({
    profile: [
      [0, 0],
      [0.03, 0],
      [0.03, 0.1],
      [0, 0.1],
    ],
    segments: 256,
  });

  it('are watertight and look outward', () => {
    expect(openEdges([cylinder])).deep.equal([]);
    expect(volumeOf([cylinder])).above(0);
  });

  it('hold the volume of their polygon: n/2 r2 sin(2 pi / n) h', () => {
    const exact = (256 / 2) * 0.03 ** 2 * Math.sin((2 * Math.PI) / 256) * 0.1;
    expect(volumeOf([cylinder]) / exact).closeTo(1, 1e-5);
  });

  it('hold less for a hollow wall than for the solid', () => {
    const cup = buildTurned({
      profile: [
        [0, 0],
        [0.03, 0],
        [0.03, 0.1],
        [0.027, 0.1],
        [0.027, 0.003],
        [0, 0.003],
      ],
      segments: 256,
    });
    expect(openEdges([cup])).deep.equal([]);
    const solid = Math.PI * 0.03 ** 2 * 0.1;
    const hollow = Math.PI * 0.027 ** 2 * 0.097;
    expect(volumeOf([cup]) / (solid - hollow)).closeTo(1, 1e-3);
  });

  it('have unit normals, hard where the profile turns sharply and smooth where it does not', () => {
    expect(normalError(cylinder)).below(1e-6);
    const cosines = new Set<string>();
    for (let i = 0; i < cylinder.normals.length; i += 3) cosines.add(cylinder.normals[i + 1].toFixed(3));
    expect([...cosines].map(Number).map(Math.abs).sort()).deep.equal([0, 1, 1]);
  });

  it('put the middle of the uv in front', () => {
    const column = cylinder.uvs.findIndex((v, i) => i % 2 === 0 && v === 0.5) / 2;
    expect(cylinder.positions[column * 3 + 2]).at.least(0);
    expect(Math.abs(cylinder.positions[column * 3])).below(1e-7);
  });

  it('leave a gap for a part turn', () => {
    expect(
      openEdges([
        buildTurned({
          profile: [
            [0.03, 0],
            [0.03, 0.1],
          ],
          sweep: 300,
        }),
      ]),
    ).not.deep.equal([]);
  });
});

describe('geometry: fillets', () => {
  it('replace a square corner by an arc of the radius that touches both sides', () => {
    const arc = filletProfile(
      [
        [0, 0],
        [1, 0, 0.2],
        [1, 1],
      ],
      8,
    ).slice(1, -1);
    for (const [r, y] of arc) expect(Math.hypot(r - 0.8, y - 0.2)).closeTo(0.2, 1e-9);
    expect(arc[0][0]).closeTo(0.8, 1e-9);
    expect(arc[0][1]).closeTo(0, 1e-9);
    expect(arc.at(-1)![1]).closeTo(0.2, 1e-9);
  });

  it('shrink where there is no room, and leave straight runs alone', () => {
    const tight = filletProfile([
      [0, 0],
      [0.1, 0, 5],
      [0.1, 0.1],
    ]);
    for (const [r, y] of tight) expect(r >= 0 && r <= 0.1 + 1e-12 && y >= -1e-12 && y <= 0.1 + 1e-12).equal(true);
    expect(
      filletProfile([
        [0, 0],
        [0, 1, 0.2],
        [0, 2],
      ]),
    ).deep.equal([
      [0, 0],
      [0, 1],
      [0, 2],
    ]);
  });
});

describe('geometry: boxes', () => {
  const { panels, edges } = buildBox({ size: [0.09, 0.12, 0.06], bevel: 0.004, steps: 4 });
  const all = [...panels, edges];

  it('are watertight with their panels and as large as asked', () => {
    expect(openEdges(all)).deep.equal([]);
    boundsSize(boundsOf(all)).forEach((s, a) => expect(s).closeTo([0.09, 0.12, 0.06][a], 1e-7));
    expect(boundsOf(all).min[1]).closeTo(0, 1e-7);
  });

  it('lose exactly what the rounding takes off', () => {
    // Minkowski sum of an inner box and a ball, its ball and cylinders polygonal: bounded by the round one and the inner.
    const [w, h, d, b] = [0.09, 0.12, 0.06, 0.004];
    const [x, y, z] = [w - 2 * b, h - 2 * b, d - 2 * b];
    const flat = x * y * z + 2 * b * (x * y + y * z + z * x);
    const round = flat + Math.PI * b * b * (x + y + z) + (4 / 3) * Math.PI * b ** 3;
    expect(volumeOf(all)).within(flat, round);
  });

  it('give each panel art at its own proportion, upright', () => {
    const [front] = panels;
    expect(Math.max(...front.uvs)).equal(1);
    expect(Math.min(...front.uvs)).equal(0);
    for (let v = 0; v < 4; v++) {
      // v = 0 is the top of the picture.
      expect(front.positions[v * 3 + 1] > 0.06).equal(front.uvs[v * 2 + 1] === 0);
      expect(front.positions[v * 3] > 0).equal(front.uvs[v * 2] === 1);
    }
  });

  it('take no bevel, and one too large, without breaking', () => {
    expect(volumeOf(Object.values(buildBox({ size: [1, 1, 1], bevel: 0 })).flat())).closeTo(1, 1e-6);
    const ball = Object.values(buildBox({ size: [1, 1, 1], bevel: 9 })).flat();
    expect(openEdges(ball)).deep.equal([]);
  });
});

describe('geometry: surfaces', () => {
  it('a sweep runs smoothly from floor to wall', () => {
    const sweep = buildSweep({ width: 3, depth: 2, height: 1.5, radius: 0.4 });
    const box = boundsOf([sweep]);
    expect(box.min).deep.equal([-1.5, 0, Math.fround(-0.8)]);
    expect(box.max[1]).equal(1.5);
    for (let i = 3; i < sweep.positions.length / 3 - 1; i += 2) {
      const turn =
        sweep.normals[i * 3 + 1] * sweep.normals[(i - 2) * 3 + 1] +
        sweep.normals[i * 3 + 2] * sweep.normals[(i - 2) * 3 + 2];
      expect(turn).above(Math.cos(0.06));
    }
  });

  it('a sweep without curve has a sharp foot', () => {
    expect(triangleCount(buildSweep({ width: 1, depth: 1, height: 1, radius: 0 }))).equal(6);
  });

  it('a relief is raised as told and flat at its rim', () => {
    const disc = buildRelief({ radius: 0.03, y: 0.1, relief: () => 0.001, cells: 20 });
    for (let i = 0; i < disc.positions.length; i += 3) {
      const out = Math.hypot(disc.positions[i], disc.positions[i + 2]);
      expect(out).at.most(0.03 + 1e-7);
      expect(disc.positions[i + 1]).closeTo(out > 0.03 - 1e-6 ? 0.1 : 0.101, 1e-7);
    }
    expect(disc.normals[1 + 3 * (10 * 21 + 10)]).closeTo(1, 1e-6);
  });
});

describe('geometry: transforms', () => {
  it('place by turn, then tilt, then roll', () => {
    const m = placementMatrix([1, 2, 3], 90, 0, 0, 2);
    const p = transformPoint(m, [1, 0, 0]);
    [1, 2, 1].forEach((v, a) => expect(p[a]).closeTo(v, 1e-9));
  });

  it('aim -Z at the target with +Y up, straight down too', () => {
    for (const [eye, target] of [
      [
        [1, 2, 3],
        [0, 0.5, -1],
      ],
      [
        [0, 2, 0],
        [0, 0, 0],
      ],
      [
        [0, 0, 0],
        [0, 0, 0],
      ],
    ] as Array<[Vec3, Vec3]>) {
      const m = aimMatrix(eye, target);
      const forward = [-m[8], -m[9], -m[10]];
      const wanted = target.map((v, a) => v - eye[a]);
      const length = Math.hypot(...wanted);
      if (length > 0) forward.forEach((v, a) => expect(v).closeTo(wanted[a] / length, 1e-9));
      const x = [m[0], m[1], m[2]];
      expect(Math.hypot(...x)).closeTo(1, 1e-9);
      expect(x.reduce((n, v, a) => n + v * forward[a], 0)).closeTo(0, 1e-9);
    }
  });

  it('keep faces outward and normals square when mirrored or stretched', () => {
    const ball = buildTurned({
      profile: Array.from(
        { length: 17 },
        (_, i) => [Math.sin((i / 16) * Math.PI), -Math.cos((i / 16) * Math.PI)] as const,
      ),
      segments: 32,
    });
    for (const m of [
      [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
      [2, 0, 0, 0, 0, 0.5, 0, 0, 0, 0, 1, 0, 5, 0, 0, 1],
    ]) {
      const moved = transformMesh(ball, m);
      expect(volumeOf([moved]) / volumeOf([ball])).closeTo(1, 1e-4);
      expect(normalError(moved)).below(1e-5);
      const smooth = smoothNormals(moved.positions, moved.indices);
      const equator = 3 * (8 * 33 + 5);
      const dot = [0, 1, 2].reduce((n, a) => n + smooth[equator + a] * moved.normals[equator + a], 0);
      expect(dot).above(0.98);
    }
  });

  it('multiply as they are applied', () => {
    const a = placementMatrix([1, 0, 0], 30, 0, 0, 1);
    const b = placementMatrix([0, 2, 0], 0, 50, 0, 1);
    const once = transformPoint(multiply(a, b), [0.2, 0.3, 0.4]);
    transformPoint(a, transformPoint(b, [0.2, 0.3, 0.4])).forEach((v, i) => expect(once[i]).closeTo(v, 1e-9));
  });

  it('seat by the lowest vertex, and do nothing without vertices', () => {
    const cube = Object.values(buildBox({ size: [1, 1, 1], bevel: 0 })).flat();
    expect(seatOffset(cube, placementMatrix([0, 5, 0], 0, 0, 0, 1))).closeTo(-5, 1e-7);
    expect(seatOffset([], placementMatrix([0, 5, 0], 0, 0, 0, 1))).equal(0);
  });

  it('merge meshes without touching them, keeping colours only when all have them', () => {
    const one = buildTurned({
      profile: [
        [0, 0],
        [1, 0],
      ],
      segments: 3,
    });
    const both = mergeMeshes([one, { ...one, colors: new Float32Array((one.positions.length / 3) * 4) }]);
    expect(triangleCount(both)).equal(2 * triangleCount(one));
    expect(both.colors).equal(undefined);
    expect(Math.max(...both.indices)).equal((2 * one.positions.length) / 3 - 1);
  });
});
