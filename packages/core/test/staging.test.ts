import { expect } from 'chai';
import { newSet, validateDocument } from '@tender-orbit/core/document';
import { meterLight, placeLight } from '@tender-orbit/core/motion';
import { LIGHT_KITS, placeKit, type Subject } from '@tender-orbit/core/staging';

const jar: Subject = { centre: [0.02, 0.05, -0.01], radius: 0.07, cameraTurn: 12 };
const lux = (kit: ReturnType<typeof placeKit>, role: string, at = jar.centre): number =>
  kit.lights.filter((l) => l.role === role).reduce((n, l) => n + meterLight(placeLight(l), at), 0);

describe('staging: light kits', () => {
  for (const name of LIGHT_KITS) {
    it(`${name}: a sound set, aimed at the product from outside it, above the floor`, () => {
      const { lights, cards, room } = placeKit(name, jar, 'kit');
      const set = newSet('Studio');
      const lit = {
        ...set,
        lights,
        surfaces: [...set.surfaces, ...cards],
        environment: { ...set.environment, intensity: room },
      };
      expect(validateDocument('set', lit)).deep.equal(lit);
      for (const { position, aim } of [...lights, ...cards]) {
        expect(aim).deep.equal(jar.centre);
        expect(position[1]).above(0.01);
        expect(Math.hypot(...position.map((v, a) => v - jar.centre[a]))).above(jar.radius);
      }
      expect(new Set([...lights, ...cards].map((t) => t.id)).size).equal(lights.length + cards.length);
    });

    it(`${name}: the same light on a product ten times as large`, () => {
      const large = { centre: [0.2, 0.5, -0.1] as Subject['centre'], radius: 0.7, cameraTurn: 12 };
      const [small, big] = [placeKit(name, jar, 'a'), placeKit(name, large, 'a')];
      small.lights.forEach((light, i) => {
        const [here, there] = [
          meterLight(placeLight(light), jar.centre),
          meterLight(placeLight(big.lights[i]), large.centre),
        ];
        expect(there / here).closeTo(1, 0.02);
        expect(big.lights[i].width / light.width).closeTo(10, 0.01);
      });
    });
  }

  it('turns with the camera: seen from there the key stands where it stood', () => {
    const [front, side] = [0, 90].map((cameraTurn) => placeKit('side strip', { ...jar, cameraTurn }, 'k').lights[0]);
    const azimuth = ({ position }: typeof front): number =>
      (Math.atan2(position[0] - jar.centre[0], position[2] - jar.centre[2]) * 180) / Math.PI;
    expect((azimuth(side) - azimuth(front) + 360) % 360).closeTo(90, 1e-6);
  });

  it('has the contrasts its names promise', () => {
    const catalogue = placeKit('bright catalogue', jar, 'k');
    expect((lux(catalogue, 'key') + lux(catalogue, 'fill')) / lux(catalogue, 'fill')).within(1.5, 4);
    const dark = placeKit('dark rim', jar, 'k');
    expect(lux(dark, 'rim') / lux(dark, 'fill')).above(16);
    expect(dark.cards.every((c) => c.colour === '#060606')).equal(true);
    const tones = placeKit('two-tone', jar, 'k').lights.map((l) => l.kelvin);
    expect(Math.max(...tones) / Math.min(...tones)).above(3);
    expect(placeKit('window', jar, 'k').lights[0].gobo.pattern).equal('window');
  });
});
