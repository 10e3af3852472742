import { expect } from 'chai';
import { fresnelDielectric, ggxD, makeSampler, sampleGgxNormal, smithG1, sobol2 } from '@tender-orbit/core/trace';

/** Integrates over the hemisphere round +z by an even grid in cosine and azimuth. */
function hemisphere(f: (x: number, y: number, z: number) => number, n = 256): number {
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const z = (i + 0.5) / n;
    const r = Math.sqrt(1 - z * z);
    for (let j = 0; j < n; j++) {
      const a = ((j + 0.5) / n) * 2 * Math.PI;
      sum += f(r * Math.cos(a), r * Math.sin(a), z);
    }
  }
  return (sum * 2 * Math.PI) / (n * n);
}

describe('trace: sample points', () => {
  it('begin like the Sobol sequence', () => {
    expect([0, 1, 2, 3].map((i) => sobol2(i)[0] / 2 ** 32)).deep.equal([0, 0.5, 0.25, 0.75]);
    expect([0, 1, 2, 3].map((i) => sobol2(i)[1] / 2 ** 32)).deep.equal([0, 0.5, 0.75, 0.25]);
  });

  it('put one of the first 16 into every elementary interval, in every pair of dimensions', () => {
    const sampler = makeSampler(99);
    const points: Array<Array<[number, number]>> = [];
    for (let i = 0; i < 16; i++) {
      sampler.start(1234, i);
      points.push(
        [0, 1, 2, 3].map(() => {
          sampler.next();
          return [sampler.u, sampler.v];
        }),
      );
    }
    for (let d = 0; d < 4; d++) {
      for (const [nu, nv] of [
        [16, 1],
        [8, 2],
        [4, 4],
        [2, 8],
        [1, 16],
      ]) {
        const cells = new Set(points.map((p) => Math.floor(p[d][0] * nu) * nv + Math.floor(p[d][1] * nv)));
        expect(cells.size).equal(16);
      }
    }
  });

  it('are the same for the same seed, pixel and index, and differ otherwise', () => {
    const at = (seed: number, pixel: number, index: number): number => {
      const s = makeSampler(seed);
      s.start(pixel, index);
      s.next();
      return s.u;
    };
    expect(at(1, 2, 3)).equal(at(1, 2, 3));
    expect(new Set([at(1, 2, 3), at(2, 2, 3), at(1, 3, 3), at(1, 2, 4)]).size).equal(4);
  });
});

describe('trace: microfacets', () => {
  it('the projected area of the normals is one, at every roughness', () => {
    for (const alpha of [0.25, 0.4, 0.7, 1])
      expect(hemisphere((_x, _y, z) => ggxD(z, alpha) * z, 512)).closeTo(1, 2e-3);
  });

  it('the visible normals are a distribution from every side', () => {
    for (const alpha of [0.3, 0.8]) {
      for (const nv of [0.2, 0.6, 1]) {
        const vx = Math.sqrt(1 - nv * nv);
        const total = hemisphere(
          (x, _y, z) => (smithG1(nv, alpha) * Math.max(0, x * vx + z * nv) * ggxD(z, alpha)) / nv,
        );
        expect(total).closeTo(1, 0.01);
      }
    }
  });

  it('are drawn with the density they claim (chi-square over 48 cells)', () => {
    const alpha = 0.5;
    const nv = 0.5;
    const vx = Math.sqrt(1 - nv * nv);
    const density = (x: number, z: number): number =>
      (smithG1(nv, alpha) * Math.max(0, x * vx + z * nv) * ggxD(z, alpha)) / nv;
    const [rings, slices, draws] = [6, 8, 60000];
    const seen = new Float64Array(rings * slices);
    const h = new Float64Array(3);
    const sampler = makeSampler(5);
    const cellOf = (x: number, y: number, z: number): number => {
      const ring = Math.min(rings - 1, Math.floor(z * rings));
      return ring * slices + Math.min(slices - 1, Math.floor(((Math.atan2(y, x) + Math.PI) / (2 * Math.PI)) * slices));
    };
    for (let i = 0; i < draws; i++) {
      sampler.start(i, 0);
      sampler.next();
      sampleGgxNormal(vx, 0, nv, alpha, sampler.u, sampler.v, h);
      seen[cellOf(h[0], h[1], h[2])]++;
    }
    const wanted = new Float64Array(seen.length);
    hemisphere((x, y, z) => {
      wanted[cellOf(x, y, z)] += (density(x, z) * 2 * Math.PI) / (400 * 400);
      return 0;
    }, 400);
    let chi = 0;
    let cells = 0;
    wanted.forEach((p, i) => {
      if (p * draws < 5) return;
      chi += (seen[i] - p * draws) ** 2 / (p * draws);
      cells++;
    });
    // The 99.9 % point of chi-square is about n + 3.1 sqrt(2 n) + 6.
    expect(chi).below(cells + 3.1 * Math.sqrt(2 * cells) + 6);
  });
});

describe('trace: Fresnel', () => {
  it('reflects 4 % at right angles from glass, the same from inside', () => {
    expect(fresnelDielectric(1, 1.5)).closeTo(0.04, 1e-12);
    expect(fresnelDielectric(1, 1 / 1.5)).closeTo(0.04, 1e-12);
  });

  it('reflects everything at grazing incidence and beyond the critical angle', () => {
    expect(fresnelDielectric(1e-9, 1.5)).closeTo(1, 1e-6);
    const critical = Math.sqrt(1 - (1 / 1.5) ** 2);
    expect(fresnelDielectric(critical - 1e-3, 1 / 1.5)).equal(1);
    expect(fresnelDielectric(critical + 1e-2, 1 / 1.5)).below(1);
  });

  it('at the Brewster angle keeps only the perpendicular half', () => {
    const angle = Math.atan(1.5);
    const perpendicular = Math.sin(angle - Math.asin(Math.sin(angle) / 1.5)) ** 2;
    expect(fresnelDielectric(Math.cos(angle), 1.5)).closeTo(perpendicular / 2, 1e-9);
  });
});
