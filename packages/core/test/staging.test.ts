import { expect } from 'chai';
import { newCampaign, newSet, newShot, validateDocument } from '@tender-orbit/core/document';
import { meterLight, placeLight } from '@tender-orbit/core/scene';
import {
  delayCopies,
  keepKit,
  LIGHT_KITS,
  placeKit,
  placeSavedKit,
  repeat,
  type Repeat,
  type Subject,
} from '@tender-orbit/core/staging';

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

describe('staging: copies', () => {
  const original = { position: [0.1, 0.02, 0.3] as [number, number, number], scale: 1, turn: 30 };
  const plan: Repeat = {
    array: 'line',
    count: 4,
    rows: 3,
    spacing: 0.2,
    angle: 0,
    turnEach: 0,
    scaleEach: 1,
    delayEach: 0,
  };
  const gaps = (poses: ReturnType<typeof repeat>): number[] =>
    poses.slice(1).map((p, i) => Math.hypot(...p.position.map((v, a) => v - poses[i].position[a])));

  it('keep the original first and in its place, and its height', () => {
    for (const array of ['line', 'ring', 'grid'] as const) {
      const poses = repeat(original, { ...plan, array });
      expect(poses[0].position.map((v) => Number(v.toFixed(9)))).deep.equal(original.position);
      expect(poses[0].turn).equal(30);
      for (const p of poses) expect(p.position[1]).equal(0.02);
    }
  });

  it('a line is even and goes its way', () => {
    const poses = repeat(original, { ...plan, angle: 90, turnEach: 15 });
    for (const gap of gaps(poses)) expect(gap).closeTo(0.2, 1e-9);
    expect(poses[3].position[2]).closeTo(0.3 - 0.6, 1e-9);
    expect(poses.map((p) => p.turn)).deep.equal([30, 45, 60, 75]);
  });

  it('a ring closes: even gaps, one middle, every copy looking outwards', () => {
    const poses = repeat(original, { ...plan, array: 'ring', count: 6 });
    const middle = [0, 2].map((a) => poses.reduce((n, p) => n + p.position[a], 0) / 6);
    for (const { position, turn } of poses) {
      const [dx, dz] = [position[0] - middle[0], position[2] - middle[1]];
      expect(Math.hypot(dx, dz)).closeTo(0.2, 1e-9);
      const look = (turn * Math.PI) / 180;
      expect((dx * Math.sin(look) + dz * Math.cos(look)) / 0.2).closeTo(1, 1e-9);
    }
    gaps(poses).forEach((gap) => expect(gap).closeTo(0.2, 1e-9));
  });

  it('a fan opens evenly to both sides over its angle', () => {
    const turns = repeat(original, { ...plan, array: 'fan', count: 5, angle: 80 }).map((p) => p.turn - 30);
    expect([...turns].sort((a, b) => a - b)).deep.equal([-40, -20, 0, 20, 40]);
  });

  it('a grid has its rows one behind the other', () => {
    const poses = repeat(original, { ...plan, array: 'grid' });
    expect(poses.length).equal(12);
    expect(new Set(poses.map((p) => p.position[2].toFixed(6))).size).equal(3);
    expect(poses[11].position[0]).closeTo(0.1 + 0.6, 1e-9);
  });

  it('grows from copy to copy', () => {
    const scales = repeat(original, { ...plan, scaleEach: 0.5 }).map((p) => p.scale);
    expect(scales).deep.equal([1, 0.5, 0.25, 0.125]);
  });

  it('lets copies move one after another', () => {
    const keys = [{ frame: 3, value: 1, ease: 'eased' as const }];
    const shot = {
      ...newShot('s', 's', 'c', 48),
      tracks: [
        { thing: 'a', path: 'turn', keys },
        { thing: 'b', path: 'turn', keys },
      ],
    };
    delayCopies('a', ['x', 'y'], 4).run(shot);
    expect(shot.tracks.slice(2).map((t) => [t.thing, t.keys[0].frame])).deep.equal([
      ['x', 7],
      ['y', 11],
    ]);
  });

  it('hundreds are refused', () => {
    expect(() => repeat(original, { ...plan, array: 'grid', count: 30, rows: 30 })).throw(/up to 200/);
    expect(() => repeat(original, { ...plan, count: NaN })).throw(/fewer/);
  });
});

describe('staging: kept light kits', () => {
  const set = newSet('S');
  const subject: Subject = { centre: [0, 0.05, 0], radius: 0.07, cameraTurn: 0 };
  const kit = keepKit(set, subject, 'kit', 'Mine');

  it('come back as they were round the same product', () => {
    const { lights, room } = placeSavedKit(kit, subject, 'p');
    expect(room).equal(set.environment.intensity);
    lights.forEach((l, i) => {
      l.position.forEach((v, a) => expect(v).closeTo(set.lights[i].position[a], 1e-9));
      expect(l.lumens).closeTo(set.lights[i].lumens, 1e-9);
    });
    expect(new Set(lights.map((l) => l.id)).size).equal(lights.length);
  });

  it('grow and turn with another product and camera, giving it the same light', () => {
    const other: Subject = { centre: [1, 0.15, -0.5], radius: 0.21, cameraTurn: 90 };
    const { lights } = placeSavedKit(kit, other, 'p');
    lights.forEach((l, i) => {
      const was = meterLight(placeLight(set.lights[i]), subject.centre);
      expect(meterLight(placeLight(l), other.centre) / was).closeTo(1, 0.05);
      // A quarter turn: what stood in front (+Z) of the product stands to its right (+X).
      expect(l.position[0] - 1).closeTo(set.lights[i].position[2] * 3, 1e-9);
    });
  });

  it('are valid in a campaign', () => {
    validateDocument('campaign', newCampaign('C', { kits: [kit] }));
  });
});
