import { expect } from 'chai';
import { falseColours, stopsHistogram, stopsOf, zoneOf, ZONES } from '@tender-orbit/core/picture';
import {
  apertureRadius,
  dollied,
  frameBounds,
  horizontalFov,
  levelled,
  PRIMES,
  verticalFov,
  type View,
} from '@tender-orbit/core/camera';
import {
  clayFinish,
  hexToLinear,
  linearToHex,
  linearToSrgb,
  makeFinish,
  srgbToLinear,
} from '@tender-orbit/core/finish';
import { aimMatrix } from '@tender-orbit/core/geometry';
import {
  exposureScale,
  kelvinToRgb,
  mirrorDirection,
  panelLuminance,
  placeHighlight,
  srgbD65Luminance,
  studioPanorama,
} from '@tender-orbit/core/light';
import { newSet } from '@tender-orbit/core/document';
import { EMITTERS, meterLight, placeLight } from '@tender-orbit/core/scene';

const degrees = (radians: number): number => (radians * 180) / Math.PI;

describe('light: colour temperature', () => {
  it('is white at 6500 K, warm below and cold above', () => {
    kelvinToRgb(6504).forEach((v) => expect(v).closeTo(1, 0.06));
    const [wr, , wb] = kelvinToRgb(3200);
    expect(wr / wb).above(2.5);
    const [cr, , cb] = kelvinToRgb(10000);
    expect(cb / cr).above(1.3);
  });

  it('never changes how bright a light is', () => {
    for (let k = 1000; k <= 25000; k += 500) expect(srgbD65Luminance(kelvinToRgb(k))).closeTo(1, 1e-9);
  });
});

describe('light: placed by its highlight', () => {
  it('stands in the mirror direction: the half way between light and eye is the normal', () => {
    const point: [number, number, number] = [0.03, 0.06, 0.02];
    for (const turn of [-1, -0.3, 0.2, 0.9]) {
      const normal: [number, number, number] = [Math.sin(turn), 0, Math.cos(turn)];
      const eye: [number, number, number] = [0.1, 0.2, 0.7];
      const { position, aim } = placeHighlight(point, normal, eye, 0.8);
      expect(aim).deep.equal(point);
      const unit = (to: readonly number[]): number[] => {
        const d = to.map((v, a) => v - point[a]);
        return d.map((v) => v / Math.hypot(...d));
      };
      expect(Math.hypot(...position.map((v, a) => v - point[a]))).closeTo(0.8, 1e-9);
      const [l, e] = [unit(position), unit(eye)];
      const half = l.map((v, a) => v + e[a]);
      const cosine = half.reduce((s, v, a) => s + v * normal[a], 0) / Math.hypot(...half);
      // Within a hundredth of a degree.
      expect(degrees(Math.acos(Math.min(1, Math.abs(cosine))))).below(0.01);
    }
  });

  it('seen straight on, the light is behind the eye', () => {
    expect(mirrorDirection([0, 0, 0], [0, 0, 1], [0, 0, 2])).deep.equal([0, 0, 1]);
  });
});

describe('light: as a meter reads it', () => {
  const [plain] = newSet('Test').lights;
  const read = (values: Partial<typeof plain>, at: number[]): number =>
    meterLight(placeLight({ ...plain, position: [0, 0, 0], aim: [0, 0, 1], kelvin: 6500, ...values }), at);

  it('falls off with the square of the distance and with the cosine', () => {
    const small = { shape: 'softbox' as const, width: 0.01, height: 0.01, lumens: 100 };
    const near = read(small, [0, 0, 1]);
    expect(near / read(small, [0, 0, 2])).closeTo(4, 1e-3);
    expect(read(small, [1, 0, 1]) / read(small, [0, 0, Math.SQRT2])).closeTo(Math.SQRT1_2, 1e-3);
    expect(read(small, [0, 0, -1])).equal(0);
  });

  it('is exact on the axis of a disc: E = pi L r2 / (d2 + r2)', () => {
    const [r, lumens] = [0.5, 500];
    const luminance = lumens / (Math.PI * Math.PI * r * r);
    for (const d of [0.1, 0.5, 3]) {
      const wanted = (Math.PI * luminance * r * r) / (d * d + r * r);
      expect(read({ shape: 'disc', width: 2 * r, lumens }, [0, 0, d]) / wanted).closeTo(1, 1e-6);
    }
  });

  it('knows points, spheres, spots and suns by their lumens', () => {
    const lumens = 4 * Math.PI * 100;
    expect(read({ shape: 'point', lumens }, [0, 2, 0])).closeTo(25, 0.01);
    expect(read({ shape: 'sphere', width: 0.2, lumens }, [0, 2, 0])).closeTo(25, 0.01);
    expect(read({ shape: 'sun', beamAngle: 0.53, lumens: 20000 }, [3, 3, 3])).closeTo(20000, 1);
    // All of a spot's lumens go into its cone.
    const solid = 2 * Math.PI * (1 - Math.cos(Math.PI / 9));
    const spot = { shape: 'spot' as const, width: 0.04, lumens: 1000, beamAngle: 40, softness: 0 };
    expect(read(spot, [0, 0, 2]) / (1000 / solid / 4)).closeTo(1, 0.001);
    expect(read(spot, [2, 0, 2])).equal(0);
  });

  it('from afar each shape is what its projected area makes of its luminance', () => {
    for (const shape of ['softbox', 'disc', 'sphere', 'spot', 'point'] as const) {
      const values = {
        ...plain,
        shape,
        width: 0.4,
        height: shape === 'softbox' ? 0.7 : 0.4,
        beamAngle: 40,
        lumens: 900,
      };
      const light = placeLight({ ...values, position: [0, 0, 0], aim: [0, 0, 1], kelvin: 6500 });
      const intensity = meterLight(light, [0, 0, 200]) * 200 * 200;
      expect(intensity / (srgbD65Luminance(light.radiance) * EMITTERS[light.kind].projectedArea(light)), shape).closeTo(
        1,
        1e-4,
      );
    }
    // A convex body is seen with a quarter of its surface (Cauchy), a face with one side of it.
    const size = { width: 0.4, height: 0.4 };
    expect(EMITTERS.sphere.area(size) / EMITTERS.sphere.projectedArea(size)).closeTo(4, 1e-12);
    expect(EMITTERS.disc.area(size)).equal(EMITTERS.disc.projectedArea(size));
  });

  it('a honeycomb takes more the further from the axis', () => {
    const combed = { shape: 'softbox' as const, width: 0.1, height: 0.1, gridAngle: 30 };
    const share = (x: number): number => read(combed, [x, 0, 2]) / read({ ...combed, gridAngle: 0 }, [x, 0, 2]);
    expect(share(0)).equal(1);
    expect(share(0.5)).closeTo(1 - 0.25 / Math.tan(Math.PI / 6), 1e-6);
    expect(share(1.5)).equal(0);
  });
});

describe('light: photometry', () => {
  it('a Lambertian panel of 1 m2 and pi lumens has 1 cd/m2', () => {
    expect(panelLuminance(Math.PI, 1, 1)).closeTo(1, 1e-12);
    expect(panelLuminance(1000, 0.5, 0.5)).closeTo(4 * panelLuminance(1000, 1, 1), 1e-9);
  });

  it('doubles with each EV; 1000 cd/m2 is white at EV 0', () => {
    expect(exposureScale(0) * 1000).equal(1);
    expect(exposureScale(3) / exposureScale(2)).equal(2);
  });

  it('the studio room has a bright ceiling, a dark floor and no black or infinite corner', () => {
    const { width, height, data } = studioPanorama(64);
    expect(data.length).equal(width * height * 3);
    expect(data.every((v) => v > 0 && Number.isFinite(v))).equal(true);
    const row = (y: number): number => data.slice(y * width * 3, (y + 1) * width * 3).reduce((a, b) => a + b, 0);
    expect(row(0)).above(2 * row(height - 1));
  });
});

describe('camera', () => {
  it('a 50 mm lens on full frame sees 39.6 degrees across', () => {
    expect(degrees(horizontalFov(50, 36))).closeTo(39.6, 0.05);
    expect(degrees(verticalFov(50, 36, 1.5))).closeTo(27, 0.05);
  });

  it('an 85 mm lens at f/2 has a pupil of 42.5 mm', () => {
    expect(apertureRadius(85, 2) * 2).closeTo(0.0425, 1e-9);
    expect(apertureRadius(85, 0)).equal(0);
  });

  it('frames a box with every prime from every side so that no corner leaves the picture', () => {
    const box = {
      min: [-0.05, 0, -0.03] as [number, number, number],
      max: [0.04, 0.2, 0.06] as [number, number, number],
    };
    for (const focalLength of PRIMES) {
      for (const aspect of [16 / 9, 9 / 16]) {
        for (const [azimuth, elevation] of [
          [0, 0],
          [40, 20],
          [-100, 70],
        ]) {
          const lens = { focalLength, sensorWidth: 36, aspect };
          const { position, aim } = frameBounds(box, lens, azimuth, elevation, 0.1);
          const m = aimMatrix(position, aim);
          const tan = Math.tan(verticalFov(focalLength, 36, aspect) / 2);
          for (let corner = 0; corner < 8; corner++) {
            const d = [0, 1, 2].map((a) => (corner & (1 << a) ? box.max[a] : box.min[a]) - position[a]);
            const along = (i: number): number => d[0] * m[i * 4] + d[1] * m[i * 4 + 1] + d[2] * m[i * 4 + 2];
            expect(-along(2)).above(0);
            expect(Math.abs(along(1) / -along(2))).below(tan);
            expect(Math.abs(along(0) / -along(2))).below(tan * aspect);
          }
        }
      }
    }
  });
});

describe('finish', () => {
  it('encodes and decodes sRGB by IEC 61966-2-1', () => {
    expect(srgbToLinear(0.5)).closeTo(0.21404, 1e-5);
    expect(linearToSrgb(0.18)).closeTo(0.46135, 1e-4);
    for (let v = 0; v <= 1; v += 1 / 64) expect(linearToSrgb(srgbToLinear(v))).closeTo(v, 1e-6);
  });

  it('keeps hex colours through linear light and back', () => {
    for (const hex of ['#000000', '#FFFFFF', '#C98F6B', '#010203', '#7FD1AE'])
      expect(linearToHex(hexToLinear(hex)!)).equal(hex);
    expect(hexToLinear('C98F6B')).deep.equal(hexToLinear('#c98f6b'));
    for (const wrong of ['', '#12', 'red', '#GGGGGG', '#1234567']) expect(hexToLinear(wrong)).equal(null);
  });

  it('starts at the standard defaults and shares nothing between finishes', () => {
    const a = makeFinish('A');
    a.baseColor[0] = 0;
    a.textures.baseColor = {
      image: 0,
      offset: [0, 0],
      rotation: 0,
      scale: [1, 1],
      strength: 1,
      wrap: ['repeat', 'repeat'],
    };
    expect(makeFinish('B')).include({ ior: 1.5, metallic: 0, transmission: 0 });
    expect(makeFinish('B').baseColor).deep.equal([1, 1, 1]);
    expect(makeFinish('B').textures).deep.equal({});
    expect(clayFinish().metallic).equal(0);
  });
});

describe('camera: level and dolly', () => {
  const view = { position: [0.2, 0.3, 0.9], aim: [0, 0.05, 0], focalLength: 85, sensorWidth: 36, shiftY: 0 } as View;
  const aspect = 1.5;
  /** Where a point falls in the picture, in picture heights from its middle, by the pinhole model with a shift. */
  function project(v: View, p: [number, number, number]): [number, number] {
    const m = aimMatrix(v.position, v.aim);
    const d = p.map((c, a) => c - v.position[a]);
    const [x, y, z] = [0, 4, 8].map((column) => d[0] * m[column] + d[1] * m[column + 1] + d[2] * m[column + 2]);
    const scale = v.focalLength / (v.sensorWidth / aspect) / -z;
    return [x * scale, y * scale - v.shiftY];
  }

  it('levelled, what was aimed at stays in the middle and an upright edge is upright', () => {
    const level = { ...view, ...levelled(view, aspect)! };
    expect(level.aim[1]).equal(view.position[1]);
    const [x, y] = project(level, view.aim);
    expect(x).closeTo(0, 1e-9);
    expect(y).closeTo(0, 1e-9);
    const [foot, top] = [project(level, [0.03, 0, 0.02]), project(level, [0.03, 0.1, 0.02])];
    expect(foot[0]).closeTo(top[0], 1e-9);
    const tilted = [project(view, [0.03, 0, 0.02]), project(view, [0.03, 0.1, 0.02])];
    expect(Math.abs(tilted[0][0] - tilted[1][0])).above(1e-3);
  });

  it('refuses to level what looks steeply down', () => {
    expect(levelled({ ...view, position: [0, 1, 0.05] }, aspect)).equal(null);
  });

  it('dollied, a thing at the aim keeps its size and one behind it does not', () => {
    const near = { ...view, ...dollied(view, 35) };
    const size = (v: View, at: [number, number, number]): number => {
      const m = aimMatrix(v.position, v.aim);
      const a = project(v, at);
      const b = project(v, at.map((c, k) => c + m[k] * 0.01) as [number, number, number]);
      return Math.hypot(b[0] - a[0], b[1] - a[1]);
    };
    expect(size(near, view.aim) / size(view, view.aim)).closeTo(1, 1e-9);
    expect(size(near, [-0.1, 0.05, -0.4]) / size(view, [-0.1, 0.05, -0.4])).below(0.85);
  });
});

describe('picture: exposure meter', () => {
  it('counts stops from 18 % grey', () => {
    expect(stopsOf(0.18)).closeTo(0, 1e-12);
    expect(stopsOf(0.72)).closeTo(2, 1e-12);
    expect(ZONES[zoneOf(stopsOf(0.18))].name).equal('middle grey');
    expect(ZONES[zoneOf(stopsOf(0.18 * 2 ** 3.5))].name).equal('burnt out');
    expect(ZONES[zoneOf(stopsOf(0))].name).equal('black');
  });

  it('spreads a picture over its stops, all of it', () => {
    const { stops, share, burnt, black } = stopsHistogram(Float32Array.from([0.18, 0.18, 0.36, 0, 100]));
    expect(share.reduce((n, v) => n + v, 0)).closeTo(1, 1e-12);
    const grey = share.findIndex((s) => Math.abs(s - 0.4) < 1e-9);
    expect(stops[grey]).closeTo(0.125, 1e-9);
    expect([burnt, black]).deep.equal([0.2, 0.2]);
  });

  it('paints each pixel in its zone’s colour', () => {
    const colours = falseColours(Float32Array.from([0.18, 50]));
    expect([...colours.subarray(0, 3)]).deep.equal([...ZONES.find((z) => z.name === 'middle grey')!.colour]);
    expect([...colours.subarray(4, 7)]).deep.equal([...ZONES[ZONES.length - 1].colour]);
  });
});
