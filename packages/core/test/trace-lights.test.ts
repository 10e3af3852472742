import { expect } from 'chai';
import { noGobo } from '@tender-orbit/core/document';
import type { Vec3 } from '@tender-orbit/core/geometry';
import type { TableauLight } from '@tender-orbit/core/scene';
import { sunLuminance } from '@tender-orbit/core/light';
import {
  block,
  floor,
  FREE,
  LAMBERT,
  mean,
  moved,
  pack,
  panel,
  randomNumbers,
  trace,
  tracer,
  type Studio,
} from './studio.ts';

const random = randomNumbers(11);
const ALBEDO = 0.6;
const grey = { ...LAMBERT, baseColor: [ALBEDO, ALBEDO, ALBEDO] as Vec3 };

/** Irradiance at a point of a matt floor, from what a close view of it shows: E = pi L / albedo. */
function irradiance(lights: TableauLight[], samples = 512, at: Vec3 = [0, 0, 0], more: Partial<Studio> = {}): number {
  const eye: Vec3 = [at[0], at[1] + 0.02, at[2] + 0.4];
  const scene = pack({ things: [{ mesh: floor(), finish: grey }], lights, eye, aim: at, fov: 0.05, ...more });
  return (mean(trace(scene, samples, 4, { ...FREE, maxBounces: 1 }).beauty) * Math.PI) / ALBEDO;
}
const lamp = (kind: TableauLight['kind'], more: Partial<TableauLight>, position: Vec3 = [0, 1, 0]): TableauLight => ({
  ...panel(position, [0, 0, 0], 0.2, 0.2, 100),
  kind,
  ...more,
});

describe('lights: irradiance of a floor against closed forms, within 0.5 %', () => {
  it('a rectangle overhead (form factor from its corners)', () => {
    for (const [w, h, d] of [
      [0.6, 0.4, 0.5],
      [2, 0.3, 1],
      [0.1, 0.1, 2],
    ]) {
      const [a, b] = [w / 2 / d, h / 2 / d];
      const corner =
        ((a / Math.hypot(1, a)) * Math.atan(b / Math.hypot(1, a)) +
          (b / Math.hypot(1, b)) * Math.atan(a / Math.hypot(1, b))) /
        (2 * Math.PI);
      const lights = [panel([0, d, 0], [0, 0, 0], w, h, 700)];
      expect(irradiance(lights) / (Math.PI * 700 * 4 * corner)).closeTo(1, 0.005);
    }
  });

  it('a rectangle anywhere (Lambert 1760: sum over its edges)', () => {
    const light = panel([0.7, 0.8, -0.4], [0.1, 0, 0], 0.9, 0.5, 300);
    const m = light.matrix;
    const corners = [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ].map(([u, v]) => [0, 1, 2].map((k) => m[12 + k] + m[k] * u * 0.45 + m[4 + k] * v * 0.25));
    let sum = 0;
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % 4];
      const [la, lb] = [Math.hypot(...a), Math.hypot(...b)];
      const angle = Math.acos((a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (la * lb));
      const n = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
      sum += (angle * n[1]) / Math.hypot(...n);
    });
    expect(irradiance([light], 1024) / ((300 * Math.abs(sum)) / 2)).closeTo(1, 0.005);
  });

  it('a disc on its axis: E = pi L r2 / (r2 + d2)', () => {
    for (const [r, d] of [
      [0.1, 1],
      [0.8, 0.5],
    ]) {
      const lights = [lamp('disc', { width: 2 * r, height: 2 * r }, [0, d, 0])];
      expect(irradiance(lights) / ((Math.PI * 100 * r * r) / (r * r + d * d))).closeTo(1, 0.005);
    }
  });

  it('a disc off its axis, facing down: E = pi L / 2 (1 - (d2 + a2 - r2) / sqrt((d2 + a2 + r2)^2 - 4 a2 r2))', () => {
    const [r, d, a] = [0.5, 0.7, 0.9];
    const straight = { ...panel([0, d, 0], [0, 0, 0], 2 * r, 2 * r, 100), kind: 'disc' as const };
    const s = d * d + a * a;
    const wanted = ((Math.PI * 100) / 2) * (1 - (s - r * r) / Math.sqrt((s + r * r) ** 2 - 4 * a * a * r * r));
    expect(irradiance([straight], 1024, [a, 0, 0]) / wanted).closeTo(1, 0.005);
  });

  it('a sphere above the horizon: E = pi L (r / d)^2 cos', () => {
    for (const at of [
      [0, 0, 0],
      [0.8, 0, 0.3],
    ] as Vec3[]) {
      const [r, h] = [0.3, 1];
      const d2 = at[0] ** 2 + at[2] ** 2 + h * h;
      const wanted = Math.PI * 100 * ((r * r) / d2) * (h / Math.sqrt(d2));
      expect(irradiance([lamp('sphere', { width: 2 * r, height: 2 * r })], 1024, at) / wanted).closeTo(1, 0.005);
    }
  });

  it('a point: E = I cos / d2', () => {
    const wanted = (100 * 0.5) / 1.25 ** 1.5;
    expect(irradiance([lamp('point', {}, [0, 0.5, 0])], 64, [1, 0, 0]) / wanted).closeTo(1, 0.002);
  });

  it('a sun: its lux on what faces it, times the cosine', () => {
    for (const angle of [0.0093, 0.3]) {
      const luminance = sunLuminance(20000, angle);
      const lights = [lamp('sun', { angle, radiance: [luminance, luminance, luminance] }, [1, 1, 0])];
      const whole = (2 * (1 - Math.cos(angle / 2))) / Math.sin(angle / 2) ** 2;
      expect(irradiance(lights, 512) / (20000 * Math.SQRT1_2)).closeTo(1 / whole, 0.005);
    }
  });

  it('a glowing panel of a model', () => {
    const glowing = (more: object): number =>
      irradiance([], 1024, [0, 0, 0], {
        things: [
          { mesh: floor(), finish: grey },
          {
            mesh: floor(0.3),
            matrix: moved(0, 1, 0),
            finish: { ...LAMBERT, baseColor: [0, 0, 0], emissive: [50, 50, 50], ...more },
          },
        ],
      });
    const a = 0.3;
    const corner = (2 * (a / Math.hypot(1, a)) * Math.atan(a / Math.hypot(1, a))) / (2 * Math.PI);
    expect(glowing({}) / (Math.PI * 50 * 4 * corner)).closeTo(1, 0.005);
  });
});

describe('lights: what shapes them', () => {
  it('a honeycomb narrows a softbox and leaves its axis alone', () => {
    const tiny = (gridAngle: number): TableauLight => ({ ...panel([0, 2, 0], [0, 0, 0], 0.02, 0.02, 1e5), gridAngle });
    const [bare, combed] = [0, Math.PI / 6].map((spread) => irradiance([tiny(spread)], 64));
    expect(combed / bare).closeTo(1, 0.02);
    const side: Vec3 = [0.5, 0, 0];
    // Tangent 0.25 of at most tan 30 degrees.
    const share = irradiance([tiny(Math.PI / 6)], 64, side) / irradiance([tiny(0)], 64, side);
    expect(share).closeTo(1 - 0.25 / Math.tan(Math.PI / 6), 0.03);
    expect(irradiance([tiny(Math.PI / 6)], 64, [1.5, 0, 0])).equal(0);
  });

  it('a spot is even inside its cone, dark outside, soft between', () => {
    const spot = lamp('disc', { width: 0.02, height: 0.02, cone: { inner: 0.2, outer: 0.4 } }, [0, 1, 0]);
    const open = { ...spot, cone: undefined };
    const share = (angle: number): number => {
      const at: Vec3 = [Math.tan(angle), 0, 0];
      return irradiance([spot], 64, at) / irradiance([open], 64, at);
    };
    expect(share(0.1)).closeTo(1, 0.01);
    const half = (Math.cos(0.2) + Math.cos(0.4)) / 2;
    expect(share(Math.acos(half))).closeTo(0.5, 0.05);
    expect(share(0.45)).equal(0);
  });

  it('a gradient keeps the lumens of its panel and is brighter in the middle', () => {
    const far: Vec3 = [0, 4, 0];
    const big = (gradient: 'even' | 'round', at: Vec3): TableauLight => ({
      ...panel(at, [0, 0, 0], 1, 1, 100),
      gradient,
    });
    expect(irradiance([big('round', far)], 1024) / irradiance([big('even', far)], 1024)).closeTo(1, 0.02);
    const near: Vec3 = [0, 0.15, 0];
    expect(irradiance([big('round', near)], 1024) / irradiance([big('even', near)], 1024)).above(1.3);
  });

  it('a slide of blinds lays bars of light on the floor', () => {
    const gobo = { ...noGobo(), pattern: 'blinds' as const, repeat: 4, distance: 0.5, width: 1, height: 1 };
    const light = { ...panel([0, 1, 0], [0, 0, 0], 0.005, 0.005, 1e6), gobo };
    const shares = Array.from({ length: 24 }, (_, i) => {
      const at: Vec3 = [0, 0, -0.98 + i / 12];
      return irradiance([light], 16, at) / irradiance([{ ...light, gobo: undefined }], 16, at);
    });
    // Six tenths of each of four bars let light through.
    expect(shares.filter((v) => v > 0.9).length).within(11, 17);
    expect(shares.filter((v) => v < 0.1).length).within(6, 12);
    expect(shares.slice(1).filter((v, i) => v > 0.5 !== shares[i] > 0.5).length).within(7, 8);
  });

  it('a linked light touches only what it is told to, or all but that', () => {
    const lit = (mode: 'only' | 'except', thing: string): number =>
      irradiance([{ ...lamp('disc', {}), lightLinking: { mode, things: [thing] } }], 64);
    const bare = irradiance([lamp('disc', {})], 64);
    expect(lit('only', 't0')).closeTo(bare, 1e-9);
    expect(lit('only', 'other')).equal(0);
    expect(lit('except', 't0')).equal(0);
    expect(lit('except', 'other')).closeTo(bare, 1e-9);
  });

  it('a panel seen by the camera shows its own luminance, a hidden one does not', () => {
    const facing = (seen: boolean): number =>
      mean(trace(pack({ lights: [panel([0, 0, 0], [0, 0, 4], 1, 1, 55, seen)] }), 4).beauty);
    expect(facing(true)).closeTo(55, 1e-3);
    expect(facing(false)).equal(0);
  });

  it('a hidden panel is still seen in a mirror, as in a studio', () => {
    const mirror = { mesh: floor(), finish: { metallic: 1, roughness: 0, baseColor: [1, 1, 1] as Vec3 } };
    const lights = [panel([0, 1, -1], [0, 0, 0], 4, 4, 55)];
    expect(mean(trace(pack({ things: [mirror], lights, eye: [0, 1, 1], fov: 1 }), 64).beauty)).closeTo(55, 0.2);
  });

  it('a flag in the way casts a shadow; the light does not shine backwards', () => {
    const lights = [panel([0, 1, 0], [0, 0, 0], 0.1, 0.1, 1000)];
    const open = irradiance(lights, 32);
    const things = [
      { mesh: floor(), finish: grey },
      { mesh: block([0.6, 0.02, 0.6]), matrix: moved(0, 0.5, 0) },
    ];
    expect(open).above(1);
    expect(irradiance(lights, 32, [0, 0, 0], { things })).equal(0);
    expect(irradiance([panel([0, 1, 0], [0, 2, 0], 0.1, 0.1, 1000)], 32)).equal(0);
  });
});

describe('lights: choosing among many', () => {
  const ring = Array.from({ length: 24 }, (_, i) => {
    const turn = (i / 24) * 2 * Math.PI;
    const kind = (['rect', 'disc', 'sphere', 'point'] as const)[i % 4];
    const at: Vec3 = [Math.cos(turn), 0.5 + 0.2 * (i % 3), Math.sin(turn)];
    return { ...lamp(kind, { radiance: [i + 1, i + 1, i + 1] }, at), id: `l${i}` };
  });

  it('many at once give the sum of each alone', () => {
    const all = irradiance(ring, 4096);
    const sum = ring.reduce((n, light) => n + irradiance([light], 256), 0);
    expect(all / sum).closeTo(1, 0.01);
  });

  it('a drawn direction has the density that meeting the light reports, and the mean of value over density holds', () => {
    tracer.load(pack({ things: [{ mesh: floor() }], lights: ring }));
    const point = [0.2, 0, 0.1, 0, 1, 0];
    const draws = 4000;
    const numbers = Array.from({ length: draws * 3 }, random);
    const out = tracer.probe((k, s, a, b) => k.sampleLight(s, false, a, draws, b), [...point, ...numbers], draws, 8);
    const seen = new Set<number>();
    let sum = 0;
    for (let i = 0; i < draws; i++) {
      const [light, pdf, value, , dy, , distance, other] = out.subarray(i * 8, i * 8 + 8);
      if (light < 0) continue;
      seen.add(light);
      // Points have no area: nothing can meet them.
      if (ring[light].kind !== 'point') expect(other / pdf).closeTo(1, 2e-3);
      expect(distance).within(0.3, 3);
      if (dy > 0) sum += (value * dy) / pdf / draws;
    }
    expect(seen.size).equal(ring.length);
    expect(sum / irradiance(ring, 2048, [0.2, 0, 0.1])).closeTo(1, 0.05);
  });

  it('an even room is sampled all over, with the density that looking it up reports', () => {
    tracer.load(pack({ things: [{ mesh: floor() }], room: 1 }));
    const draws = 4096;
    const numbers = Array.from({ length: draws * 3 }, random);
    const out = tracer.probe(
      (k, s, a, b) => k.sampleLight(s, true, a, draws, b),
      [...[0, 0, 0, 0, 1, 0], ...numbers],
      draws,
      8,
    );
    let area = 0;
    for (let i = 0; i < draws; i++) {
      area += 1 / out[i * 8 + 1] / draws;
      expect(out[i * 8 + 7] / out[i * 8 + 1]).closeTo(1, 1e-3);
    }
    // The mean of 1 / density over samples is the area that is sampled: the whole sphere.
    expect(area / (4 * Math.PI)).closeTo(1, 0.01);
  });

  it('suns stand beside the tree: with a lamp they give the sum', () => {
    const sun = lamp('sun', { angle: 0.1, radiance: [9e3, 9e3, 9e3] }, [1, 2, 0]);
    const both = irradiance([ring[0], sun, ring[5]], 2048);
    const alone = [ring[0], sun, ring[5]].reduce((n, l) => n + irradiance([l], 512), 0);
    expect(both / alone).closeTo(1, 0.01);
  });
});
