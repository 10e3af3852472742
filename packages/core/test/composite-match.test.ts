import { expect } from 'chai';
import { colourMatch, colourStatistics, fromOklab, toOklab } from '@tender-orbit/core/composite';
import { linearToSrgb, srgbToLinear } from '@tender-orbit/core/finish';
import { seeded } from '@tender-orbit/core/maths';
import type { Picture } from '@tender-orbit/core/picture';

/** Colours strewn about one, along a line of lightness and one of colour. */
function strewn(middle: readonly [number, number, number], wide: number, tilt: number, seed: number): Picture {
  const random = seeded(seed);
  const [width, height] = [96, 64];
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let i = 0; i < width * height; i++) {
    const [s, t, u] = [0, 1, 2].map(() => random() + random() + random() - 1.5);
    const lab: [number, number, number] = [
      middle[0] + wide * s,
      middle[1] + wide * (0.3 * t + tilt * s),
      middle[2] + wide * 0.2 * u,
    ];
    data.set(
      fromOklab(lab).map((v) => Math.round(255 * linearToSrgb(Math.min(1, Math.max(0, v))))),
      i * 4,
    );
  }
  return { width, height, data };
}
function changed({ width, height, data }: Picture, by: (rgb: Float64Array) => void): Picture {
  const out = new Uint8ClampedArray(data);
  const rgb = new Float64Array(3);
  for (let i = 0; i < out.length; i += 4) {
    for (let c = 0; c < 3; c++) rgb[c] = out[i + c] / 255;
    by(rgb);
    for (let c = 0; c < 3; c++) out[i + c] = Math.round(rgb[c] * 255);
  }
  return { width, height, data: out };
}

describe('composite: colours matched to another picture', () => {
  it('Oklab is what it is published to be, and back', () => {
    // Ottosson's own table: white, and D65 X.
    expect(toOklab(1, 1, 1).map((v) => Math.round(v * 1000) / 1000 + 0)).deep.equal([1, 0, 0]);
    const [l, a, b] = toOklab(1, 0, 0);
    expect([l, a, b].map((v) => Number(v.toFixed(3)))).deep.equal([0.628, 0.225, 0.126]);
    for (const rgb of [
      [0.2, 0.5, 0.9],
      [0.01, 0.7, 0.1],
    ] as const)
      fromOklab(toOklab(rgb[0], rgb[1], rgb[2])).forEach((v, c) => expect(v).closeTo(rgb[c], 1e-6));
  });

  it('has the mean and the spread of the other, in every direction', () => {
    const from = colourStatistics(strewn([0.55, 0.02, 0.03], 0.1, 0.2, 1));
    const to = colourStatistics(strewn([0.65, -0.03, 0.05], 0.07, -0.3, 2));
    const got = colourStatistics(changed(strewn([0.55, 0.02, 0.03], 0.1, 0.2, 1), colourMatch(from, to)));
    got.mean.forEach((v, k) => expect(v).closeTo(to.mean[k], 0.002));
    got.covariance.flat().forEach((v, k) => expect(v).closeTo(to.covariance.flat()[k], 0.00012));
    // They were not so before.
    expect(Math.abs(from.covariance[0][1] - to.covariance[0][1])).above(0.0006);
  });

  it('changes nothing when both are the same, and little more than its mean when one has no spread', () => {
    const picture = strewn([0.6, 0.02, -0.04], 0.08, 0.1, 3);
    const own = colourStatistics(picture);
    const rgb = new Float64Array([0.3, 0.5, 0.7]);
    colourMatch(own, own)(rgb);
    [0.3, 0.5, 0.7].forEach((v, c) => expect(rgb[c]).closeTo(v, 1e-6));
    const flat: Picture = { width: 8, height: 8, data: new Uint8ClampedArray(256).fill(128) };
    const matched = new Float64Array([0.5, 0.5, 0.5]);
    colourMatch(colourStatistics(flat), own)(matched);
    const light = [...matched].map(srgbToLinear) as [number, number, number];
    toOklab(...light).forEach((v, k) => expect(v).closeTo(own.mean[k], 0.02));
    // Each part of a flat picture is stretched four times at most.
    const apart = new Float64Array([0.52, 0.52, 0.52]);
    colourMatch(colourStatistics(flat), own)(apart);
    const shade = (v: number): number => toOklab(srgbToLinear(v), srgbToLinear(v), srgbToLinear(v))[0];
    const [far] = toOklab(...([...apart].map(srgbToLinear) as [number, number, number]));
    expect((far - toOklab(...light)[0]) / (shade(0.52) - shade(0.5))).below(4.2);
  });

  it('what can hardly be seen is refused', () => {
    const clear: Picture = { width: 8, height: 8, data: new Uint8ClampedArray(256) };
    expect(() => colourStatistics(clear)).throw(/hardly anything/);
  });
});
