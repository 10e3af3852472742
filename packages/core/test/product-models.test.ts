import { expect } from 'chai';
import { newSlot } from '@tender-orbit/core/document';
import type { PixelPicture } from '@tender-orbit/core/finish';
import { boundsOf, buildBox, buildTurned, mergeMeshes, transformMesh } from '@tender-orbit/core/geometry';
import {
  buildProduct,
  builtDocument,
  fileOfKey,
  labelShell,
  meshesOfKey,
  modelKey,
  newBuilder,
  placeLabel,
  prepareMeshes,
  traceSilhouette,
  TURNED_PRESETS,
  unwrapBox,
  unwrapRound,
} from '@tender-orbit/core/product';
import { normalError, openEdges, volumeOf } from './mesh-facts.ts';

describe('product: projected labels', () => {
  const tube = buildTurned({
    profile: [
      [0.04, 0],
      [0.04, 0.1],
    ],
    segments: 180,
  });
  const area = (mesh: { positions: Float32Array; indices: Uint32Array }): number => {
    let sum = 0;
    for (let t = 0; t < mesh.indices.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) =>
        mesh.positions.subarray(mesh.indices[t + k] * 3, mesh.indices[t + k] * 3 + 3),
      );
      const u = [0, 1, 2].map((k) => b[k] - a[k]);
      const v = [0, 1, 2].map((k) => c[k] - a[k]);
      sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    }
    return sum;
  };
  const round = newSlot('l', 'Label', 0, { projection: 'round', centre: [0, 0.05, 0.04], width: 0.06, height: 0.03 });

  it('wrapped round, cover exactly their own size', () => {
    expect(area(labelShell(tube, round)) / (0.06 * 0.03)).closeTo(1, 0.005);
  });

  it('wrapped across the seam at the back, too', () => {
    expect(area(labelShell(tube, { ...round, turn: 180 })) / (0.06 * 0.03)).closeTo(1, 0.005);
  });

  it('thrown straight, cover their size as seen from the front and nothing behind', () => {
    const flat = labelShell(
      tube,
      newSlot('l', 'Label', 0, { projection: 'planar', centre: [0, 0.05, 0], width: 0.04, height: 0.02 }),
    );
    const box = boundsOf([flat]);
    expect(box.min[2]).above(0.03);
    expect([box.max[0] - box.min[0], box.max[1] - box.min[1]].map((v) => Math.round(v * 1e4))).deep.equal([401, 200]);
  });

  it('have their corners rounded off', () => {
    const whole = area(labelShell(tube, round));
    const cut = area(labelShell(tube, { ...round, corner: 0.5 }));
    const circle = (4 - Math.PI) * 0.015 ** 2;
    expect((whole - cut) / circle).closeTo(1, 0.06);
  });

  it('put at a point, lie round that point', () => {
    for (const projection of ['planar', 'round'] as const) {
      const a = 0.7;
      const point = [Math.sin(a) * 0.04, 0.06, Math.cos(a) * 0.04];
      const slot = {
        ...round,
        projection,
        width: 0.02,
        height: 0.02,
        ...placeLabel(projection, point, [Math.sin(a), 0, Math.cos(a)]),
      };
      const box = boundsOf([labelShell(tube, slot)]);
      [0, 1, 2].forEach((axis) => expect((box.min[axis] + box.max[axis]) / 2).closeTo(point[axis], 0.0015));
    }
  });

  it('turned, have art that turns with them', () => {
    const shell = labelShell(tube, { ...round, roll: 90 });
    const box = boundsOf([shell]);
    expect(box.max[1] - box.min[1]).closeTo(0.06, 1e-3);
  });
});

describe('product: a profile traced from a silhouette', () => {
  /** A picture of a turned shape: radius in pixels for each row, anti-aliased, a little off the middle, with dust. */
  function silhouette(radius: (row: number) => number, rows: [number, number], axis = 101.3): PixelPicture {
    const [width, height] = [200, 240];
    const data = new Uint8Array(width * height * 4);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const r = y >= rows[0] && y < rows[1] ? radius(y) : -1;
        const cover = Math.min(1, Math.max(0, r + 0.5 - Math.abs(x + 0.5 - axis)));
        const dust = x > 10 && x < 14 && y > 20 && y < 24 ? 1 : cover;
        const v = Math.round(235 - 200 * dust);
        data.set([v, v, Math.min(255, v + 6), 255], (y * width + x) * 4);
      }
    return { width, height, data };
  }
  const options = { height: 0.1, threshold: 0.392, tolerance: 0.0002 };

  it('finds a cylinder’s radius and height to a tenth of a pixel', () => {
    const profile = traceSilhouette(
      silhouette(() => 40.25, [20, 220]),
      options,
    );
    expect(profile.length).equal(3);
    expect(profile[1][0]).closeTo((40.25 / 200) * 0.1, 0.00006);
    expect(profile[2]).deep.equal([profile[2][0], 0.1, 0]);
  });

  it('follows a vase, from the base upward, within its tolerance', () => {
    const radius = (y: number): number => 40 + 18 * Math.sin((y - 20) / 32);
    const profile = traceSilhouette(silhouette(radius, [20, 220]), options);
    expect(profile.length).within(8, 60);
    for (const [r, y] of profile.slice(2, -1)) {
      const row = 220 - (y / 0.1) * 200;
      expect(r).closeTo((radius(row - 0.5) / 200) * 0.1, 0.0004);
    }
    expect(profile.map((p) => p[1])).deep.equal(profile.map((p) => p[1]).sort((a, b) => a - b));
  });

  it('makes a watertight body', () => {
    const profile = traceSilhouette(
      silhouette((y) => 30 + 20 * Math.sin((y - 20) / 64), [20, 220]),
      options,
    );
    const [body] = buildProduct({
      ...TURNED_PRESETS.jar,
      profile,
      wall: 0.002,
      fill: 0,
      cap: { kind: 'none', height: 0 },
    });
    expect(openEdges([body.mesh])).deep.equal([]);
  });

  it('says so when nothing stands out, or it is cut off', () => {
    expect(() =>
      traceSilhouette(
        silhouette(() => -1, [0, 0]),
        { ...options, threshold: 0.9 },
      ),
    ).throw(/Nothing stands out/);
    expect(() =>
      traceSilhouette(
        silhouette(() => 150, [20, 220]),
        options,
      ),
    ).throw(/runs out of the picture/);
  });
});

describe('product: putting a model right', () => {
  const tube = buildTurned({
    profile: [
      [0, 0],
      [0.03, 0],
      [0.03, 0.1],
      [0, 0.1],
    ],
    segments: 48,
  });
  const plain = { unwraps: [], toBase: false, normals: false };

  it('leaves it as it is when nothing is asked for, and under its own key', () => {
    const product = { ...builtDocument('x', newBuilder('carton')), builder: null, model: 'e'.repeat(64) };
    expect(modelKey(product)).equal(product.model);
    const other = modelKey({ ...product, prepare: { ...plain, toBase: true } });
    expect(other).not.equal(product.model);
    expect(fileOfKey(other)).equal(product.model);
    expect(meshesOfKey(product.model, [tube])[0]).equal(tube);
  });

  it('brings the middle of the base to the origin, of all parts together', () => {
    const moved = transformMesh(tube, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0.4, -0.3, 0.2, 1]);
    const box = boundsOf(prepareMeshes([moved], { ...plain, toBase: true }));
    expect(box.min[1]).closeTo(0, 1e-6);
    expect(box.min[0] + box.max[0]).closeTo(0, 1e-6);
    expect(box.min[2] + box.max[2]).closeTo(0, 1e-6);
  });

  it('turns an inside-out part outward and keeps hard edges hard', () => {
    const inside = { ...tube, indices: tube.indices.slice().reverse(), normals: tube.normals.map((v) => -v) };
    const [mended] = prepareMeshes([inside], { ...plain, normals: true });
    expect(volumeOf([mended])).above(0);
    expect(normalError(mended)).below(1e-5);
    let wrong = 0;
    for (let v = 0; v < mended.normals.length; v += 3) {
      const [x, y, z] = mended.normals.subarray(v, v + 3);
      const side = Math.abs(y) < 0.01 && x * mended.positions[v] + z * mended.positions[v + 2] > 0;
      const end = Math.abs(Math.abs(y) - 1) < 0.01;
      if (!side && !end) wrong++;
    }
    expect(wrong).equal(0);
  });

  it('wraps art round once, its middle in front, also over the seam', () => {
    const { positions, uvs, indices } = unwrapRound(tube);
    for (let v = 0; v < uvs.length / 2; v++) {
      const [x, , z] = positions.subarray(v * 3, v * 3 + 3);
      if (Math.hypot(x, z) < 1e-6) continue;
      const u = uvs[v * 2] % 1;
      expect(Math.cos(2 * Math.PI * (u - 0.5 - Math.atan2(x, z) / (2 * Math.PI)))).closeTo(1, 1e-6);
    }
    for (let t = 0; t < indices.length; t += 3) {
      const us = [0, 1, 2].map((k) => uvs[indices[t + k] * 2]);
      expect(Math.max(...us) - Math.min(...us)).most(0.5);
    }
  });

  it('throws art from six sides: each side of a box has the whole sheet, the right way round', () => {
    const box = transformMesh(
      mergeMeshes(buildBox({ size: [0.1, 0.2, 0.3], bevel: 0 }).panels),
      [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0.5, 0, 0, 1],
    );
    const { positions, normals, uvs } = unwrapBox(box);
    for (let v = 0; v < uvs.length / 2; v++) {
      const [nx, ny, nz] = normals.subarray(v * 3, v * 3 + 3);
      const [x, y, z] = positions.subarray(v * 3, v * 3 + 3);
      const [u, w] = uvs.subarray(v * 2, v * 2 + 2);
      expect([0, 1]).include(Math.round(u * 1e4) / 1e4);
      if (Math.abs(ny) < 0.5) expect(w).closeTo(1 - y / 0.2, 1e-4);
      if (nz > 0.5) expect(u).closeTo((x - 0.45) / 0.1, 1e-4);
      if (nx > 0.5) expect(u).closeTo(1 - (z + 0.15) / 0.3, 1e-4);
    }
  });
});
