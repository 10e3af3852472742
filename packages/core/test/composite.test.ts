import { expect } from 'chai';
import { addLayer, keyValue, newShot, runCommand, type LayerOf, type ShotDocument } from '@tender-orbit/core/document';
import {
  applyGrade,
  applyLens,
  compileLayers,
  grader,
  lightOfPicture,
  readLight,
  whiteBalance,
  writeLight,
  type Plate,
} from '@tender-orbit/core/composite';
import { hexToLinear } from '@tender-orbit/core/finish';
import { makePicture, type Picture } from '@tender-orbit/core/picture';
import { at, composed, layer, lightOf, plateOf, plates } from './composite-box.ts';

describe('composite: grade', () => {
  const run = (values: Partial<LayerOf<'grade'>>, rgb: number[]): number[] => {
    const out = Float64Array.from(rgb);
    grader(layer('grade', values))(out, 0);
    return [...out];
  };
  it('as it comes it changes nothing', () => {
    for (const rgb of [
      [0.18, 0.18, 0.18],
      [4, 0.2, 0],
      [0, 0, 0],
    ])
      run({}, rgb).forEach((v, c) => expect(v).closeTo(rgb[c], 1e-12));
  });
  it('slope, offset and power are the ASC’s', () => {
    const [r, g, b] = run({ slopeRed: 1.2, offsetGreen: -0.3, powerBlue: 2 }, [0.5, 0.2, 0.5]);
    expect([r, g, b].map((v) => Number(v.toFixed(9)))).deep.equal([0.6, 0, 0.25]);
  });
  it('exposure is in stops, contrast holds its pivot, saturation 0 is luminance', () => {
    expect(run({ exposure: 1 }, [0.1, 0.1, 0.1])[0]).closeTo(0.2, 1e-9);
    expect(run({ contrast: 1.5 }, [0.18, 0.36, 0.09])).satisfies(
      ([r, g, b]: number[]) =>
        Math.abs(r - 0.18) < 1e-9 && Math.abs(g - 0.18 * 2 ** 1.5) < 1e-9 && Math.abs(b - 0.18 / 2 ** 1.5) < 1e-9,
    );
    const y = 0.2126 * 0.8 + 0.7152 * 0.3 + 0.0722 * 0.1;
    run({ saturation: 0 }, [0.8, 0.3, 0.1]).forEach((v) => expect(v).closeTo(y, 1e-9));
  });
  it('white balance brings warm light to neutral at the same luminance', () => {
    const gains = whiteBalance(3200, 0);
    expect(gains[0]).below(gains[1]);
    expect(gains[2]).above(gains[1]);
    expect(0.2126 * gains[0] + 0.7152 * gains[1] + 0.0722 * gains[2]).closeTo(1, 1e-9);
    expect(whiteBalance(6504, 0)).deep.equal([1, 1, 1]);
  });
});

describe('composite: grade of plates', () => {
  it('is that of each colour without its alpha, as much as it is asked to be', () => {
    const grade = layer('grade', {
      ...{ exposure: 0.5, temperature: 4500, tint: 12, contrast: 1.2, pivot: 0.2, saturation: 1.3, vibrance: 0.4 },
      ...{ slopeRed: 1.1, offsetGreen: -0.02, powerBlue: 1.4, powerRed: 0.8 },
    });
    const run = grader(grade);
    const colours = [
      [0.18, 0.2, 0.1],
      [4, 0.002, 0],
      [1e-4, 20, 0.5],
    ];
    for (const alpha of [1, 0.25])
      for (const amount of [1, 0.4]) {
        const plate = plateOf(
          3,
          1,
          colours.flatMap((rgb) => [...rgb.map((v) => v * alpha), alpha]),
        );
        applyGrade(plates, plate, grade, amount, null);
        colours.forEach((rgb, i) => {
          const wanted = Float64Array.from(rgb);
          run(wanted, 0);
          rgb.forEach((v, c) => {
            const mixed = (v + (wanted[c] - v) * amount) * alpha;
            expect(at(plate, i, 0)[c]).closeTo(mixed, 1e-6 + mixed * 3e-6);
          });
          expect(at(plate, i, 0)[3]).equal(alpha);
        });
      }
  });
});

describe('composite: lens', () => {
  const none: Partial<LayerOf<'lens'>> = { bloom: 0, halation: 0, distortion: 0, fringing: 0, vignette: 0, grain: 0 };
  const spot = (): Plate => {
    const plate = plates.make(96, 64);
    for (let i = 3; i < plate.data.length; i += 4) plate.data[i] = 1;
    plate.data.set([20, 20, 20], (32 * 96 + 48) * 4);
    return plate;
  };
  const sum = ({ data }: Pick<Plate, 'data'>): number => data.reduce((n, v, i) => ((i & 3) === 3 ? n : n + v), 0);
  it('bloom moves light and makes none', () => {
    const plate = spot();
    applyLens(plates, plate, layer('lens', { ...none, bloom: 0.4, bloomSize: 0.05 }), 0);
    expect(sum(plate)).closeTo(60, 0.01);
    expect(at(plate, 48, 32)[0]).below(20);
    expect(at(plate, 52, 32)[0]).above(0);
  });
  it('a vignette leaves the middle and follows the fourth power of the cosine to the corner', () => {
    const plate = plateOf(201, 101, new Float32Array(201 * 101 * 4).fill(1));
    applyLens(plates, plate, layer('lens', { ...none, vignette: 1 }), 0);
    expect(at(plate, 100, 50)[0]).closeTo(1, 1e-4);
    expect(at(plate, 0, 0)[0]).closeTo(0.25, 0.006);
  });
  it('grain has no bias, is another in every frame, and the same again', () => {
    const grained = (frame: number): Plate => {
      const plate = plateOf(120, 80, new Float32Array(120 * 80 * 4).fill(0.25));
      applyLens(plates, plate, layer('lens', { ...none, grain: 1, grainSize: 0.0125 }), frame);
      return plate;
    };
    const one = grained(1);
    expect(sum(one) / (120 * 80 * 3)).closeTo(0.25, 0.003);
    expect(grained(1).data).deep.equal(one.data);
    expect(grained(2).data).not.deep.equal(one.data);
  });
  it('fringing parts the colours of an edge away from the middle, distortion leaves the middle', () => {
    const plate = plates.make(400, 40);
    for (let i = 0; i < 400 * 40; i++) plate.data.set(i % 400 > 380 ? [1, 1, 1, 1] : [0, 0, 0, 1], i * 4);
    applyLens(plates, plate, layer('lens', { ...none, fringing: 1 }), 0);
    const [r, , b] = at(plate, 380, 20);
    expect(Math.abs(r - b)).above(0.2);
    const point = spot();
    applyLens(plates, point, layer('lens', { ...none, distortion: 0.2 }), 0);
    expect(sum({ data: point.data.subarray(0, 96 * 20 * 4) })).equal(0);
  });
});

describe('composite: layers', () => {
  const grey = (v: number): number => Math.round(255 * (1.055 * v ** (1 / 2.4) - 0.055));

  it('a take by itself is its light through the view transform', () => {
    expect(at(composed([layer('take')]), 10, 10)).deep.equal([grey(0.2), grey(0.2), grey(0.2), 255]);
    expect(at(composed([layer('take', { exposure: 1 })]), 10, 10)[0]).equal(grey(0.4));
    expect(at(composed([layer('take')], { take: () => null }), 0, 0)).deep.equal([0, 0, 0, 255]);
  });

  it('colours on the glass come out as they are, whatever the view; behind a product they are hidden', () => {
    const solid = layer('solid', { colour: '#7C4C86', space: 'glass' });
    for (const view of ['neutral', 'filmic', 'plain'] as const)
      expect(at(composed([layer('take'), solid], { view }), 40, 5)).deep.equal([0x7c, 0x4c, 0x86, 255]);
    const hidden = composed([layer('take'), layer('solid', { colour: '#FFFFFF', behind: true })]);
    expect(at(hidden, 10, 18)[0]).equal(grey(0.2));
    expect(at(hidden, 50, 18)[0]).equal(255);
  });

  it('a disc has its area at any size of the picture, and a sharp edge', () => {
    for (const [width, height] of [
      [160, 90],
      [320, 180],
    ]) {
      const disc = layer('shape', { form: 'ellipse', width: 0.6, height: 0.6, colour: '#FFFFFF', softness: 0 });
      const picture = composed([disc], { width, height });
      let area = 0;
      for (let i = 0; i < picture.data.length; i += 4) area += picture.data[i] > 187 ? 1 : 0;
      expect(area / (height * height)).closeTo(Math.PI * 0.09, 0.004);
    }
  });

  it('polygons and stars have the area of their corners, and nothing beyond them', () => {
    const area = (form: 'polygon' | 'star', sides: number): number => {
      const values = { form, width: 0.8, height: 0.8, sides, softness: 0, space: 'glass', colour: '#FFFFFF' };
      const picture = composed([layer('shape', values as never)], { width: 320, height: 180 });
      expect(at(picture, 3, 3)[0], form).equal(0);
      expect(at(picture, 160, 90)[0], form).equal(255);
      return picture.data.reduce((n, v, i) => n + (i % 4 === 0 ? v / 255 : 0), 0) / (180 * 180);
    };
    for (const n of [3, 5, 8])
      expect(area('polygon', n)).closeTo(((n * 0.16) / 2) * Math.sin((2 * Math.PI) / n), 0.003);
    for (const n of [4, 5]) expect(area('star', n)).closeTo(n * 0.16 * 0.45 * Math.sin(Math.PI / n), 0.003);
  });

  it('soft edges of shapes go on to their end, however they are stretched, turned and leant', () => {
    const forms = ['rectangle', 'ellipse', 'polygon', 'star'] as const;
    for (const form of forms)
      for (const more of [{}, { rotation: 25 }, { tilt: 40, turn: 30 }, { outline: 0.06, stretch: 1.4 }]) {
        const values = { form, width: 0.6, height: 0.15, softness: 0.12, colour: '#FFFFFF', corner: 0.02, ...more };
        const picture = composed([layer('shape', { ...values, space: 'glass' } as never)], { width: 160, height: 90 });
        let jump = 0;
        for (let y = 0; y < 90; y++)
          for (let x = 1; x < 160; x++)
            jump = Math.max(jump, Math.abs(at(picture, x, y)[0] - at(picture, x - 1, y)[0]));
        expect(Math.max(...picture.data.filter((_, i) => i % 4 === 0)), form).above(150);
        // 11 pixels from nothing to all: none of them is a step.
        expect(jump, `${form} ${JSON.stringify(more)}`).below(110);
      }
  });

  it('shapes, gradients and repeaters are where they say', () => {
    const wide = { width: 200, height: 100 };
    const square = layer('shape', { form: 'rectangle', width: 0.4, height: 0.2, x: 0.5, y: 0.2, colour: '#FFFFFF' });
    expect(at(composed([square], wide), 150, 30)[0]).equal(255);
    expect(at(composed([square], wide), 125, 30)[0]).equal(0);
    expect(at(composed([square], wide), 150, 45)[0]).equal(0);
    const ring = layer('shape', { form: 'ellipse', width: 0.6, height: 0.6, outline: 0.04, colour: '#FFFFFF' });
    expect(at(composed([ring], wide), 100, 50)[0]).equal(0);
    expect(at(composed([ring], wide), 129, 50)[0]).equal(255);
    const run = layer('gradient', { form: 'linear', colour: '#FFFFFF', otherColour: '#000000', size: 1 });
    const picture = composed([run], wide);
    expect(at(picture, 100, 2)[0]).above(at(picture, 100, 50)[0]);
    const half = hexToLinear('#FFFFFF')![0] / 2;
    expect(at(picture, 100, 50)[0]).closeTo(grey(half), 3);
    const rays = layer('repeater', {
      form: 'rays',
      count: 4,
      size: 1,
      thickness: 0.5,
      colour: '#FFFFFF',
      otherColour: '#FFFFFF',
    });
    const star = composed([rays], wide);
    // Four rays at 45 degrees; straight up lies between two.
    expect(at(star, 120, 30)[0]).equal(255);
    expect(at(star, 100, 20)[0]).equal(0);
    const discs = layer('repeater', { form: 'discs', count: 3, size: 0.9, growth: 0 });
    expect(Math.max(...composed([discs], wide).data.filter((_, i) => i % 4 !== 3))).equal(0);
  });

  it('discs come one after the other as they grow', () => {
    const counts = [0.2, 0.5, 1].map((growth) => {
      const discs = layer('repeater', {
        ...{ form: 'discs', count: 4, size: 0.9, growth, stagger: 0.8, shadow: 0 },
        ...{ colour: '#200000', otherColour: '#FF0000' },
      });
      const picture = composed([discs], { width: 200, height: 100 });
      return new Set(Array.from({ length: 45 }, (_, r) => Math.round(at(picture, 100 + r, 50)[0] / 4))).size;
    });
    expect(counts[0]).below(counts[1]);
    expect(counts[1]).at.most(counts[2]);
  });

  it('rays turn by their degrees a second', () => {
    const rays = { form: 'rays', count: 4, size: 1, thickness: 0.5, turning: 30 } as const;
    const turned = (seconds: number, rotation: number): Picture =>
      composed([layer('repeater', { ...rays, rotation, turning: rotation ? 0 : 30 })], {
        ...{ width: 200, height: 100, seconds },
      });
    // 1.5 s of 30 degrees are a turn to the left by 45, as the layer's own turn is.
    const [here, there] = [turned(1.5, 0).data, turned(0, 45).data];
    // The very middle, where all rays meet, is no ray's.
    expect(here.filter((v, i) => Math.abs(v - there[i]) > 2).length).at.most(3);
    expect(turned(1.5, 0).data).not.deep.equal(turned(0, 0).data);
  });

  it('copies differ by their noise, evenly as time goes on, and by their seed', () => {
    const drawn = (noise: number, seconds: number, seed = 1): Picture =>
      composed(
        [
          layer('repeater', {
            form: 'bars',
            count: 10,
            size: 2,
            thickness: 0.5,
            noise,
            seed,
            evolve: 1,
            colour: '#FFFFFF',
          }),
        ],
        { width: 200, height: 100, seconds },
      );
    /** How wide each bar is, in pixels. */
    const widths = (picture: Picture): number[] =>
      Array.from({ length: 10 }, (_, k) => {
        let sum = 0;
        for (let x = 0; x < 20; x++) sum += at(picture, k * 20 + x, 50)[0] > 60 ? 1 : 0;
        return sum;
      });
    expect(new Set(widths(drawn(0, 0))).size).equal(1);
    const rough = widths(drawn(0.8, 0));
    expect(new Set(rough).size).above(4);
    expect(Math.max(...rough)).at.most(19);
    expect(widths(drawn(0.8, 0, 2))).not.deep.equal(rough);
    // A frame later nothing has jumped; a second later all are other ones.
    const next = widths(drawn(0.8, 1 / 24));
    rough.forEach((wide, k) => expect(next[k]).within(wide - 1, wide + 1));
    expect(widths(drawn(0.8, 1))).not.deep.equal(rough);
  });

  it('vapour and specks change with time, keep to their seed, and stay within their colours', () => {
    for (const kind of ['vapour', 'specks'] as const) {
      const one = composed([layer(kind)]);
      expect(composed([layer(kind)]).data).deep.equal(one.data);
      expect(composed([layer(kind)], { seconds: 1 }).data).not.deep.equal(one.data);
      expect(composed([layer(kind, { seed: 2 })]).data).not.deep.equal(one.data);
      expect(one.data.some((v, i) => i % 4 === 0 && v > 20)).equal(true);
    }
  });

  it('a mask lets be seen what lies in it, softly, and the rest when inverted', () => {
    const masked = layer('solid', {
      colour: '#FFFFFF',
      mask: 'ellipse',
      maskWidth: 0.6,
      maskHeight: 0.6,
      feather: 0.1,
    });
    const wide = { width: 200, height: 100 };
    const picture = composed([masked], wide);
    expect(at(picture, 100, 50)[0]).equal(255);
    expect(at(picture, 100, 5)[0]).equal(0);
    expect(at(picture, 129, 50)[0]).within(100, 230);
    expect(at(composed([{ ...masked, maskInverted: true }], wide), 100, 5)[0]).equal(255);
    const graded = composed(
      [layer('take'), layer('grade', { exposure: 2, mask: 'rectangle', maskWidth: 0.5, feather: 0.001 })],
      wide,
    );
    expect(at(graded, 100, 50)[0]).above(at(graded, 20, 50)[0]);
  });

  it('keys move a layer, and it is seen within its span only', () => {
    let shot: ShotDocument = runCommand(
      newShot('S', 'set', 'camera', 48),
      addLayer(layer('solid', { id: 'a', start: 10, length: 20 })),
    );
    for (const [frame, value] of [
      [10, 0],
      [20, 1],
    ])
      shot = runCommand(shot, keyValue({ thing: 'a', path: 'opacity', frame }, value, 'Key'));
    shot = structuredClone(shot);
    shot.tracks[0].keys[0].ease = 'linear';
    const { at: seen } = compileLayers(shot);
    expect([5, 10, 30].map((f) => seen(f).length)).deep.equal([0, 0, 0]);
    expect(seen(15)[0].opacity).closeTo(0.5, 1e-9);
    expect(seen(25)[0].opacity).equal(1);
    expect(compileLayers(shot)).equal(compileLayers(shot));
  });

  it('five hundred layers are composed, and an unknown still leaves a gap only', () => {
    const many = Array.from({ length: 500 }, (_, i) => layer('solid', { id: `s${i}`, opacity: 0.01 }));
    expect(at(composed([layer('take'), ...many], { width: 16, height: 9 }), 3, 3)[3]).equal(255);
    expect(at(composed([layer('take'), layer('still', { asset: '' })]), 3, 3)[0]).equal(grey(0.2));
  });
});

describe('composite: light of takes', () => {
  it('of a display picture is found again by its view transform the other way', () => {
    const picture = makePicture(64, 64);
    for (let i = 0; i < 64 * 64; i++) picture.data.set([(i * 7) % 250, (i * 13) % 250, (i * 29) % 250], i * 4);
    for (const view of ['plain', 'neutral', 'filmic'] as const) {
      const light = lightOfPicture(picture, view);
      const back = composed([layer('take')], { width: 64, height: 64, view, take: () => light });
      let [sum, most] = [0, 0];
      back.data.forEach((v, i) => {
        sum += Math.abs(v - picture.data[i]) / back.data.length;
        most = Math.max(most, Math.abs(v - picture.data[i]));
      });
      // Colours that no light gives (full of one channel, through filmic) come out as the nearest.
      expect(sum, view).below(view === 'filmic' ? 4 : 0.5);
      if (view === 'plain') expect(most).at.most(1);
    }
  });

  it('goes to bytes and back within a step of 0.27 %, matte and all; what is no light is told', () => {
    const frame = lightOf(7, 5, [0.18, 12.5, 0]);
    frame.light[3] = 1e-3;
    const back = readLight(writeLight(frame));
    frame.light.forEach((v, i) => expect(back.light[i]).closeTo(v, Math.max(1e-9, v * 1.4e-3)));
    expect(back.matte).deep.equal(frame.matte);
    expect(() => readLight(new Uint8Array(40))).throw(/cannot be read/);
    expect(() => readLight(writeLight(frame).subarray(0, 60))).throw(/cannot be read/);
  });
});
