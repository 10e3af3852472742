import { expect } from 'chai';
import { monotoneCurve, qualified, qualifierOf, toOklab, tonesOf } from '@tender-orbit/core/composite';
import type { LayerOf } from '@tender-orbit/core/document';
import { hexToLinear, srgbToLinear } from '@tender-orbit/core/finish';
import { composed, layer, lightOf } from './composite-box.ts';

const through = (of: (rgb: Float64Array) => void, ...rgb: number[]): number[] => {
  const colour = Float64Array.from(rgb);
  of(colour);
  return [...colour];
};
const tones = (values: Partial<LayerOf<'tones'>>): ((rgb: Float64Array) => void) => tonesOf(layer('tones', values));
const labOf = (rgb: readonly number[]): [number, number, number] => {
  const [r, g, b] = rgb.map(srgbToLinear);
  return toOklab(r, g, b);
};

describe('composite: tones', () => {
  it('a curve goes through its points and rises where they do', () => {
    const points = [0.05, 0.2, 0.21, 0.9, 0.95];
    const curve = monotoneCurve(points);
    points.forEach((v, i) => expect(curve(i / 4)).closeTo(v, 1e-12));
    for (let x = 0; x < 1; x += 0.005) expect(curve(x + 0.005)).least(curve(x));
    for (const x of [0.1, 0.37, 0.8]) expect(monotoneCurve([0, 0.25, 0.5, 0.75, 1])(x)).closeTo(x, 1e-12);
  });

  it('left alone change nothing; zones move what is in them, and hardly what is far', () => {
    expect(through(tones({}), 0.2, 0.5, 0.9)).deep.equal([0.2, 0.5, 0.9]);
    const lifted = tones({ shadows: 0.5 });
    expect(through(lifted, 0.25, 0.25, 0.25)[0]).closeTo(0.35, 1e-9);
    expect(through(lifted, 0.9, 0.9, 0.9)[0]).closeTo(0.9, 0.01);
    expect(through(tones({ whites: -1 }), 1, 1, 1)[0]).closeTo(0.8, 1e-9);
    expect(through(tones({ whites: 1 }), 1, 1, 1)[0]).equal(1);
  });

  it('keep light above white: what is brighter stays brighter, by as much', () => {
    const layers = [layer('take'), layer('tones', { whites: -1 })];
    const shown = (light: number): number =>
      composed(layers, { view: 'neutral', take: () => lightOf(64, 36, [light, light, light]) }).data[0];
    expect(shown(3)).above(shown(1.2));
    expect(shown(1.2)).above(shown(0.8));
    // The same of a curve that changes nothing: as if it were not there.
    const curves = {
      ...layer('curves').curves,
      rgb: [
        [0, 0],
        [1, 1],
      ],
    };
    const plain = composed([layer('take')], { view: 'neutral', take: () => lightOf(64, 36, [4, 2, 0.5]) });
    const bent = composed([layer('take'), layer('curves', { curves } as never)], {
      ...{ view: 'neutral', take: () => lightOf(64, 36, [4, 2, 0.5]) },
    });
    for (let c = 0; c < 3; c++) expect(bent.data[c]).closeTo(plain.data[c], 1);
  });

  it('a split tone draws one colour into what is dark and one into what is light; black and white stay', () => {
    const split = { toned: 1, shadowColour: '#2040C0', highlightColour: '#E0A030' };
    const [dark, light] = [through(tones(split), 0.2, 0.2, 0.2), through(tones(split), 0.8, 0.8, 0.8)];
    expect(dark[2]).above(dark[0] + 0.05);
    expect(light[0]).above(light[2] + 0.05);
    for (const v of [0, 1]) through(tones(split), v, v, v).forEach((c) => expect(c).closeTo(v, 0.01));
    // Lightness is left as it is.
    expect(labOf(dark)[0]).closeTo(labOf([0.2, 0.2, 0.2])[0], 0.02);
    // Drawn to the highlights, the dark colour takes more.
    const more = through(tones({ ...split, balance: 1 }), 0.6, 0.6, 0.6);
    expect(more[2]).above(through(tones(split), 0.6, 0.6, 0.6)[2]);
  });
});

describe('composite: a qualifier', () => {
  const honey = hexToLinear('#F0A030')!;
  const heather = hexToLinear('#7C4C9E')!;
  const [, a, b] = toOklab(...honey);
  const hue = (Math.atan2(b, a) * 180) / Math.PI;
  const of = (values: Partial<LayerOf<'qualifier'>>): LayerOf<'qualifier'> => layer('qualifier', { hue, ...values });

  it('means its hue, neither others nor what is grey, dark or bright beyond its range', () => {
    expect(qualified(of({}), toOklab(...honey))).above(0.95);
    expect(qualified(of({}), toOklab(...heather))).below(0.01);
    expect(qualified(of({ leastChroma: 0.3 }), toOklab(0.4, 0.4, 0.4))).below(0.01);
    const [lightness] = toOklab(...honey);
    expect(qualified(of({ darkest: lightness + 0.2, softness: 0.3 }), toOklab(...honey))).below(0.05);
    expect(qualified(of({ brightest: lightness - 0.2, softness: 0.3 }), toOklab(...honey))).below(0.05);
    // Hues meet at 360 degrees.
    expect(qualified(of({ hue: hue - 360 }), toOklab(...honey))).closeTo(qualified(of({}), toOklab(...honey)), 1e-9);
    expect(qualified(of({ hue: hue + 10 }), toOklab(...honey))).most(
      qualified(of({ hue: hue + 5 }), toOklab(...honey)),
    );
  });

  it('turns, greys and lightens what it means and leaves the rest', () => {
    const [h, o] = [
      [0xf0, 0xa0, 0x30],
      [0x7c, 0x4c, 0x9e],
    ].map((c) => c.map((v) => v / 255));
    const changed = labOf(through(qualifierOf(of({ shift: 30, softness: 0.2 })), ...h));
    expect((Math.atan2(changed[2], changed[1]) * 180) / Math.PI - hue).closeTo(30, 2);
    const [, u, v] = labOf(through(qualifierOf(of({ saturation: 0, softness: 0.2 })), ...h));
    expect(Math.hypot(u, v)).below(0.01);
    expect(labOf(through(qualifierOf(of({ lightness: -0.5 })), ...h))[0]).below(labOf(h)[0] - 0.1);
    through(qualifierOf(of({ shift: 30, saturation: 0, lightness: 1 })), ...o).forEach((c, i) =>
      expect(c).closeTo(o[i], 0.004),
    );
    // Shown, what is not meant is grey.
    const grey = labOf(through(qualifierOf(of({ shown: true })), ...o));
    expect(Math.hypot(grey[1], grey[2])).below(0.005);
  });

  it('both are laid over a composite by their amount', () => {
    const solid = layer('solid', { colour: '#F0A030', space: 'glass' });
    const at = (opacity: number): number[] => {
      const greyed = layer('qualifier', { hue, saturation: 0, softness: 0.2, space: 'glass', opacity });
      return [...composed([solid, greyed]).data.slice(0, 3)];
    };
    const [none, half, whole] = [at(0.001), at(0.5), at(1)];
    expect(Math.max(...whole) - Math.min(...whole)).below(8);
    half.forEach((v, c) => expect(v).closeTo((none[c] + whole[c]) / 2, 2));
    const dark = composed([solid, layer('tones', { whites: -1, highlights: -1, space: 'glass' })]).data[0];
    expect(dark).below(210);
  });
});
