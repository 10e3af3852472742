import { expect } from 'chai';
import type { Mat4, Vec3 } from '@tender-orbit/core/geometry';
import type { TableauVolume } from '@tender-orbit/core/scene';
import { FREE, mean, pack, panel, trace, type Studio } from './studio.ts';

/** A box of smoke from -half to half. */
function smoke(half: Vec3, extinction: number, more: Partial<TableauVolume> = {}): TableauVolume {
  const [x, y, z] = half;
  const matrix: Mat4 = [2 * x, 0, 0, 0, 0, 2 * y, 0, 0, 0, 0, 2 * z, 0, -x, -y, -z, 1];
  return { matrix, extinction, colour: [0, 0, 0], phase: 0, ...more };
}
const see = (studio: Studio, samples: number, limits = FREE): number =>
  mean(trace(pack({ fov: 0.5, ...studio }), samples, 4, limits).beauty);

describe('volumes', () => {
  it('black smoke lets through what Beer and Lambert say: exp(-sigma d)', () => {
    for (const [sigma, half] of [
      [0.5, 0.5],
      [2, 0.5],
      [3, 0.2],
    ]) {
      const volumes = [smoke([1, 1, half], sigma)];
      expect(see({ volumes, room: 1 }, 8192)).closeTo(Math.exp(-sigma * 2 * half), 0.004);
    }
  });

  it('a grid that thins out along the way lets through the exponential of its integral', () => {
    const size: Vec3 = [2, 2, 32];
    const density = Float32Array.from({ length: 128 }, (_, i) => Math.floor(i / 4) / 31);
    const volumes = [smoke([1, 1, 1], 2, { grid: { size, density } })];
    // Mean density one half over two metres.
    expect(see({ volumes, room: 1 }, 8192)).closeTo(Math.exp(-2), 0.005);
  });

  it('white smoke in an even white room cannot be seen (white furnace)', () => {
    for (const phase of [0, 0.6, -0.4]) {
      const volumes = [smoke([0.5, 0.5, 0.5], 3, { colour: [1, 1, 1], phase })];
      expect(see({ volumes, room: 1 }, 1024)).closeTo(1, 0.012);
    }
  });

  it('scatters the light of a lamp once as the closed form says', () => {
    // Thin smoke, a point at distance h beside the ray: L = I sigma phase / h times the angle the ray's part spans.
    const [sigma, intensity, h, reach] = [0.02, 100, 1.5, 1];
    const lamp = { ...panel([0, h, 0], [0, 0, 0], 0.1, 0.1, intensity), kind: 'point' as const };
    const seen = see({ volumes: [smoke([0.2, 0.2, reach], sigma, { colour: [1, 1, 1] })], lights: [lamp] }, 32768);
    const angle = 2 * Math.atan(reach / h);
    const wanted = (intensity * sigma * angle) / (4 * Math.PI * h);
    // Light lost on the way through thin smoke: to the camera, half its length; to the ray, its half height.
    const lost = Math.exp(-sigma * (reach + 0.2));
    expect(seen / (wanted * lost)).closeTo(1, 0.03);
  });

  it('throws light forward or back as its phase says (Henyey and Greenstein 1941)', () => {
    const behind = { ...panel([0, 0, -6], [0, 0, 0], 0.1, 0.1, 100), kind: 'point' as const };
    const seen = (phase: number, y: number): number =>
      see(
        {
          volumes: [smoke([0.1, 0.1, 0.1], 0.3, { colour: [1, 1, 1], phase })],
          lights: [behind],
          eye: [0, y, 4],
          fov: 0.2,
        },
        8192,
        // Scattered once only.
        { ...FREE, maxBounces: 1 },
      );
    const hg = (g: number, cos: number): number => (1 - g * g) / (4 * Math.PI * (1 + g * g - 2 * g * cos) ** 1.5);
    // Looking past the lamp into the light, a little from above.
    const cos = Math.cos(Math.atan(0.5));
    for (const g of [0.7, -0.5]) expect(seen(g, 2) / seen(0, 2) / (hg(g, cos) * 4 * Math.PI)).closeTo(1, 0.08);
  });

  it('smoke throws a shadow', () => {
    const lights = [panel([0, 2, 0], [0, 0, 0], 0.05, 0.05, 1e5)];
    const plane = {
      positions: Float32Array.from([-5, 0, 5, 5, 0, 5, 5, 0, -5, -5, 0, -5]),
      normals: Float32Array.from([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
      uvs: new Float32Array(8),
      indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
    };
    const view: Studio = { things: [{ mesh: plane }], lights, eye: [0, 0.1, 2], fov: 0.2 };
    const cloud = smoke([0.5, 0.25, 0.5], 2);
    cloud.matrix[13] += 1;
    expect(see({ ...view, volumes: [cloud] }, 2048) / see(view, 64)).closeTo(Math.exp(-1), 0.02);
  });
});
