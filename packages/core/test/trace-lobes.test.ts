import { expect } from 'chai';
import type { Finish } from '@tender-orbit/core/finish';
import type { Mat4, Mesh, Vec3 } from '@tender-orbit/core/geometry';
import { ART, ball, floor, mean, moved, pack, randomNumbers, trace, tracer } from './studio.ts';

const random = randomNumbers(3);
const WHITE: Partial<Finish> = { baseColor: [1, 1, 1] };
const CHECKED = { width: 2, height: 1, data: Uint8Array.from([255, 90, 60, 255, 40, 200, 255, 255]) };
const ROUGHNESS = [0, 0.05, 0.15, 0.3, 0.5, 0.7, 0.85, 1];

function direction(cosine: number, turn: number): Vec3 {
  const r = Math.sqrt(Math.max(0, 1 - cosine * cosine));
  return [r * Math.cos(turn), cosine, r * Math.sin(turn)];
}

/** Puts a floor of a finish before the tracer; its normal is +y. */
function lay(finish: Partial<Finish>): void {
  tracer.load(pack({ things: [{ mesh: floor(), finish }] }));
}

interface Lobes {
  diffuse: Vec3;
  glossy: Vec3;
  pdf: number;
  to: Vec3;
}

function evaluate(view: Vec3, lights: readonly Vec3[]): Lobes[] {
  const n = lights.length;
  const out = tracer.probe(
    (k, s, from, to) => k.evaluateLobes(s, 0, 0, from, n, to),
    [...view, ...lights.flat()],
    n,
    8,
  );
  return lights.map((to, i) => lobesAt(out, i * 8, to));
}

function sample(view: Vec3, numbers: readonly number[]): Lobes[] {
  const n = numbers.length / 3;
  const out = tracer.probe((k, s, from, to) => k.sampleLobes(s, 0, 0, from, n, to), [...view, ...numbers], n, 11);
  return Array.from({ length: n }, (_, i) => {
    const [x, y, z] = out.subarray(i * 11 + 8, i * 11 + 11);
    return lobesAt(out, i * 11, [x, y, z]);
  });
}

const lobesAt = (out: Float64Array, at: number, to: Vec3): Lobes => ({
  diffuse: [out[at], out[at + 1], out[at + 2]],
  glossy: [out[at + 3], out[at + 4], out[at + 5]],
  pdf: out[at + 7],
  to,
});

/** Well spread triples. */
function numbers(n: number): number[] {
  return Array.from({ length: n * n }, (_, k) => {
    const [i, j] = [Math.floor(k / n), k % n];
    return [(i * 0.6180339887 + j * 0.7548776662) % 1, (i + 0.5) / n, (j + random()) / n];
  }).flat();
}

/** Share of the light of an even white room that is thrown back towards a viewer: 1 when none is lost. */
function thrownBack(view: Vec3, n = 128): number {
  let sum = 0;
  for (const { diffuse, glossy, pdf } of sample(view, numbers(n))) if (pdf > 0) sum += (diffuse[1] + glossy[1]) / pdf;
  return sum / (n * n);
}

describe('lobes: a white finish throws back all the light of an even room (white furnace)', () => {
  const finishes: Record<string, Partial<Finish>> = {
    matt: { ...WHITE, specular: 0, ior: 1 },
    'plastic, matt below its gloss': { ...WHITE, ior: 1.5 },
    'strongly reflecting plastic': { ...WHITE, ior: 2.2 },
    metal: { ...WHITE, metallic: 1 },
    'half metal': { ...WHITE, metallic: 0.5 },
    coated: { ...WHITE, clearcoat: 1, clearcoatRoughness: 0.1 },
    'coated metal': { ...WHITE, metallic: 1, clearcoat: 1 },
    'cloth with sheen': { ...WHITE, sheenColor: [1, 1, 1], sheenRoughness: 0.4, specular: 0 },
  };
  for (const [name, finish] of Object.entries(finishes)) {
    it(`${name}, within 1 % at every roughness and angle`, () => {
      for (const roughness of ROUGHNESS) {
        lay({ ...finish, roughness });
        for (const cosine of [0.98, 0.7, 0.4, 0.15])
          expect(thrownBack(direction(cosine, 0.3)), `roughness ${roughness}, cosine ${cosine}`).closeTo(1, 0.01);
      }
    });
  }

  it('sheen and coat of every roughness', () => {
    for (const roughness of ROUGHNESS) {
      for (const finish of [
        { ...WHITE, roughness: 1, sheenColor: [1, 1, 1] as Vec3, sheenRoughness: roughness },
        { ...WHITE, roughness: 0.4, clearcoat: 1, clearcoatRoughness: roughness },
      ]) {
        lay(finish);
        for (const cosine of [0.95, 0.5, 0.2])
          expect(thrownBack(direction(cosine, 1)), `${roughness}`).closeTo(1, 0.01);
      }
    }
  });

  it('brushed metal, averaged over the ways it can be seen', () => {
    for (const anisotropy of [0.4, 0.9]) {
      for (const roughness of [0.1, 0.3, 0.6, 1]) {
        lay({ ...WHITE, metallic: 1, roughness, anisotropy });
        const turns = [0, 0.4, 0.8, 1.2, 1.57];
        for (const cosine of [0.9, 0.5]) {
          const all = turns.map((turn) => thrownBack(direction(cosine, turn)));
          expect(mean(all), `${anisotropy} ${roughness} ${cosine}`).closeTo(1, 0.01);
        }
      }
    }
  });

  it('thin-film iridescence on metal keeps what its layers do not let through', () => {
    for (const roughness of [0.1, 0.5, 1]) {
      lay({ ...WHITE, metallic: 1, roughness, iridescence: 1, iridescenceIor: 1.3, iridescenceThickness: [0, 400] });
      for (const cosine of [0.9, 0.4]) expect(thrownBack(direction(cosine, 0))).closeTo(1, 0.01);
    }
  });

  it('whole balls of glass, thin walls and rough glass vanish before it', () => {
    for (const finish of [
      { transmission: 1, thickness: 1, ior: 1.5, roughness: 0 },
      { transmission: 1, thickness: 1, ior: 1.5, roughness: 0.3 },
      { transmission: 1, thickness: 1, ior: 1.3, roughness: 1 },
      { transmission: 1, thickness: 0, roughness: 0 },
      { transmission: 1, thickness: 0, roughness: 0.5 },
    ]) {
      const { beauty, alpha } = trace(
        pack({ things: [{ mesh: ball(), finish: { ...WHITE, ...finish } }], room: 1, fov: 10 }),
        256,
        6,
      );
      expect(Math.min(...alpha)).equal(1);
      expect(mean(beauty), JSON.stringify(finish)).closeTo(1, 0.01);
    }
  });
});

describe('lobes: laws of reflection', () => {
  const finishes: Record<string, Partial<Finish>> = {
    metal: { metallic: 1, roughness: 0.4, baseColor: [0.9, 0.6, 0.3] },
    'rough metal': { metallic: 1, roughness: 1, baseColor: [0.9, 0.6, 0.3] },
    brushed: { metallic: 1, roughness: 0.4, anisotropy: 0.7, anisotropyRotation: 0.6 },
    matt: { specular: 0, ior: 1, roughness: 1, baseColor: [0.3, 0.5, 0.7] },
  };
  for (const [name, finish] of Object.entries(finishes)) {
    it(`${name}: the same with light and viewer exchanged`, () => {
      lay(finish);
      for (let i = 0; i < 40; i++) {
        const [v, l] = [direction(0.1 + 0.9 * random(), 6 * random()), direction(0.1 + 0.9 * random(), 6 * random())];
        const f = (from: Vec3, to: Vec3): number => {
          const { diffuse, glossy } = evaluate(from, [to])[0];
          return (diffuse[1] + glossy[1]) / to[1];
        };
        expect(f(v, l) / f(l, v)).closeTo(1, 1e-3);
      }
    });
  }

  const drawn: Record<string, Partial<Finish>> = {
    ...finishes,
    plastic: { roughness: 0.3, ior: 1.5 },
    'coated half metal': { metallic: 0.3, roughness: 0.4, clearcoat: 0.6, clearcoatRoughness: 0.25 },
    cloth: { roughness: 0.8, sheenColor: [0.7, 0.2, 0.1], sheenRoughness: 0.5 },
  };
  const [RINGS, SLICES] = [10, 12];
  const cellOf = ([x, y, z]: Vec3): number => {
    const slice = Math.floor(((Math.atan2(z, x) + Math.PI) / (2 * Math.PI)) * SLICES);
    return Math.min(RINGS - 1, Math.floor(y * RINGS)) * SLICES + Math.min(SLICES - 1, slice);
  };
  for (const [name, finish] of Object.entries(drawn)) {
    it(`${name}: its density sums to what is not lost below the surface`, () => {
      lay(finish);
      const view = direction(0.6, 1);
      const n = 160;
      const grid = Array.from({ length: n * n }, (_, k) =>
        direction((Math.floor(k / n) + 0.5) / n, ((k % n) + 0.5) * ((2 * Math.PI) / n)),
      );
      const total = evaluate(view, grid).reduce((sum, { pdf }) => sum + (pdf * 2 * Math.PI) / (n * n), 0);
      const draws = sample(view, numbers(100));
      const kept = draws.filter((d) => d.pdf > 0).length / draws.length;
      expect(total).closeTo(kept, 0.006);
      expect(total).above(0.8);
    });

    it(`${name}: directions come with the density they claim (chi-square over ${RINGS * SLICES} cells)`, () => {
      lay(finish);
      const view = direction(0.5, 0.4);
      const n = 240;
      const wanted = new Float64Array(RINGS * SLICES);
      const grid = Array.from({ length: n * n }, (_, k) =>
        direction((Math.floor(k / n) + 0.5) / n, ((k % n) + 0.5) * ((2 * Math.PI) / n)),
      );
      evaluate(view, grid).forEach(({ pdf, to }) => (wanted[cellOf(to)] += (pdf * 2 * Math.PI) / (n * n)));
      const draws = 20000;
      const seen = new Float64Array(RINGS * SLICES);
      const sampled = sample(view, Array.from({ length: draws * 3 }, random));
      for (const { pdf, to } of sampled) if (pdf > 0) seen[cellOf(to)]++;
      expect(chiSquare(seen, wanted, draws)).below(1);
      const again = evaluate(
        view,
        sampled.slice(0, 200).map((d) => d.to),
      );
      again.forEach(({ pdf }, i) => {
        if (sampled[i].pdf > 0) expect(pdf / sampled[i].pdf).closeTo(1, 1e-9);
      });
    });
  }
});

/** Chi-square as a share of its 99.9 % point, about n + 3.1 sqrt(2 n) + 6 for n cells. */
function chiSquare(seen: Float64Array, wanted: Float64Array, draws: number): number {
  let [chi, cells] = [0, 0];
  wanted.forEach((p, i) => {
    if (p * draws < 5) return;
    chi += (seen[i] - p * draws) ** 2 / (p * draws);
    cells++;
  });
  return chi / (cells + 3.1 * Math.sqrt(2 * cells) + 6);
}

describe('lobes: rough glass', () => {
  const whole = (n: number): Vec3[] =>
    Array.from({ length: n * n }, (_, k) =>
      direction(1 - (2 * (Math.floor(k / n) + 0.5)) / n, ((k % n) + 0.5) * ((2 * Math.PI) / n)),
    );
  const value = (view: Vec3, to: readonly Vec3[], roughness: number, eta: number, thin = false): Float64Array =>
    tracer.probe(
      (k, s, from, out) => k.evaluateGlass(s, roughness, eta, thin, from, to.length, out),
      [...view, ...to.flat()],
      to.length,
      2,
    );
  const draw = (view: Vec3, n: number[], roughness: number, eta: number, thin = false): Float64Array =>
    tracer.probe(
      (k, s, from, out) => k.sampleGlass(s, roughness, eta, thin, from, n.length / 3, out),
      [...view, ...n],
      n.length / 3,
      5,
    );

  before(() => lay({ transmission: 1, roughness: 0.5 }));

  it('loses no light going in or out, nor at a thin wall', () => {
    for (const [eta, thin] of [
      [1.5, false],
      [1 / 1.5, false],
      [1.5, true],
    ] as const) {
      for (const roughness of [0.1, 0.3, 0.6, 1]) {
        for (const cosine of [0.95, 0.6, 0.3]) {
          const n = 128;
          const out = draw(direction(cosine, 0.7), numbers(n), roughness, eta, thin);
          let sum = 0;
          for (let i = 0; i < n * n; i++) if (out[i * 5 + 1] > 0) sum += out[i * 5] / out[i * 5 + 1];
          expect(sum / (n * n), `eta ${eta}, roughness ${roughness}, cosine ${cosine}`).closeTo(1, 0.01);
        }
      }
    }
  });

  it('is reciprocal up to the change of solid angle: f(v, l) / eta_l^2 = f(l, v) / eta_v^2', () => {
    let compared = 0;
    for (let i = 0; i < 200; i++) {
      // The view is above the surface in thin air; the light below in glass.
      const [v, l] = [direction(0.3 + 0.7 * random(), 6 * random()), direction(-0.5 - 0.5 * random(), 6 * random())];
      const there = value(v, [l], 0.25, 1.5)[0] / Math.abs(l[1]);
      // Seen from inside, the normal turns to the viewer.
      const up = (d: Vec3): Vec3 => [d[0], -d[1], d[2]];
      const back = value(up(l), [up(v)], 0.25, 1 / 1.5)[0] / Math.abs(v[1]);
      if (there < 1e-4) continue;
      compared++;
      // What rough facets scatter on is given back by the viewer's side alone: smooth enough glass has next to none.
      expect(there / back).closeTo(1.5 ** 2, 0.03);
    }
    expect(compared).above(20);
  });

  it('draws directions with the density it claims, both sides (chi-square)', () => {
    for (const [eta, thin] of [
      [1.5, false],
      [1 / 1.5, false],
      [1.5, true],
    ] as const) {
      const view = direction(0.6, 0.4);
      const [rings, slices, n, draws] = [12, 8, 320, 20000];
      const cell = ([x, y, z]: Vec3): number =>
        Math.min(rings - 1, Math.floor(((y + 1) / 2) * rings)) * slices +
        Math.min(slices - 1, Math.floor(((Math.atan2(z, x) + Math.PI) / (2 * Math.PI)) * slices));
      const [wanted, seen] = [new Float64Array(rings * slices), new Float64Array(rings * slices)];
      const grid = whole(n);
      const densities = value(view, grid, 0.6, eta, thin);
      grid.forEach((to, i) => (wanted[cell(to)] += (densities[i * 2 + 1] * 4 * Math.PI) / (n * n)));
      const out = draw(view, Array.from({ length: draws * 3 }, random), 0.6, eta, thin);
      for (let i = 0; i < draws; i++)
        if (out[i * 5 + 1] > 0) seen[cell([out[i * 5 + 2], out[i * 5 + 3], out[i * 5 + 4]])]++;
      expect(chiSquare(seen, wanted, draws), `eta ${eta}`).below(1);
    }
  });

  it('smooth glass reflects 4 % straight on, and all of it beyond the critical angle', () => {
    const share = (view: Vec3, eta: number): number => {
      const n = 64;
      const out = draw(view, numbers(n), 0.04, eta);
      let up = 0;
      for (let i = 0; i < n * n; i++) if (out[i * 5 + 1] > 0 && out[i * 5 + 3] > 0) up += out[i * 5] / out[i * 5 + 1];
      return up / (n * n);
    };
    expect(share(direction(1, 0), 1.5)).closeTo(0.04, 0.003);
    expect(share(direction(1, 0), 1 / 1.5)).closeTo(0.04, 0.003);
    expect(share(direction(0.5, 0), 1 / 1.5)).closeTo(1, 0.01);
  });
});

describe('lobes: colours', () => {
  it('metal reflects in its colour, plastic in white over its colour', () => {
    const colour: Vec3 = [0.9, 0.4, 0.1];
    const ratio = (finish: Partial<Finish>): number => {
      lay({ ...finish, baseColor: colour, roughness: 0.3 });
      const { glossy } = evaluate(direction(0.7, 0), [direction(0.7, Math.PI)])[0];
      return glossy[0] / glossy[2];
    };
    expect(ratio({ metallic: 1 })).closeTo(9, 1.2);
    expect(ratio({})).closeTo(1, 0.01);
    expect(ratio({ specularColor: [1, 0.5, 0.5] })).closeTo(2, 0.15);
  });

  it('a thin film turns its colour with thickness and angle', () => {
    const hue = (thickness: number, cosine: number): number => {
      lay({
        baseColor: [0.5, 0.5, 0.5],
        metallic: 1,
        roughness: 0.3,
        iridescence: 1,
        iridescenceThickness: [0, thickness],
      });
      const { glossy } = evaluate(direction(cosine, 0), [direction(cosine, Math.PI)])[0];
      return glossy[0] / glossy[2];
    };
    const ratios = [hue(250, 0.9), hue(400, 0.9), hue(400, 0.4)];
    expect(Math.max(...ratios) / Math.min(...ratios)).above(1.3);
  });

  it('fifty finishes side by side look as each does alone', () => {
    const random = randomNumbers(17);
    const finishes = Array.from({ length: 50 }, (_, i): Partial<Finish> => ({
      baseColor: [random(), random(), random()],
      roughness: random(),
      metallic: i % 3 === 0 ? 1 : 0,
      iridescence: i % 7 === 0 ? 1 : 0,
      // Every fifth takes its colour from art besides.
      textures: i % 5 === 0 ? { baseColor: ART } : {},
    }));
    const tile = (i: number, where: number): { mesh: Mesh; finish: Partial<Finish>; matrix: Mat4 } => ({
      mesh: floor(0.04),
      finish: finishes[i],
      matrix: moved((where % 10) - 4.5, 0, Math.floor(where / 10) - 2),
    });
    const view = { images: [CHECKED], room: 1, fov: 0.02 };
    const all = finishes.map((_, i) => tile(i, i));
    for (let i = 0; i < finishes.length; i++) {
      const [x, , z] = all[i].matrix.slice(12);
      const look = { ...view, eye: [x, 4, z + 0.001] as Vec3, aim: [x, 0, z] as Vec3 };
      const together = trace(pack({ ...look, things: all }), 16, 2).beauty;
      const alone = trace(pack({ ...look, things: [tile(i, i)] }), 16, 2).beauty;
      for (let k = 0; k < together.length; k++) expect(together[k], `finish ${i}`).closeTo(alone[k], 1e-4);
    }
  });

  it('clay gives every thing the same finish', () => {
    const { materials } = pack({
      clay: true,
      things: [
        { mesh: floor(), finish: { transmission: 1, thickness: 1 } },
        { mesh: floor(), finish: { metallic: 1 } },
      ],
    });
    const [a, b] = [materials.subarray(0, 20), materials.subarray(56, 76)];
    expect([...a]).deep.equal([...b]);
    expect(materials[11]).equal(0);
  });
});
