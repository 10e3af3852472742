import { expect } from 'chai';
import {
  drawOver,
  encodeSrgb,
  filmic,
  fitPicture,
  makePicture,
  pbrNeutral,
  toDisplay,
} from '@tender-orbit/core/picture';
import { linearToSrgb } from '@tender-orbit/core/finish';

/** The Khronos PBR Neutral reference shader, transcribed as published, in scalars. */
function reference([r, g, b]: number[]): number[] {
  const startCompression = 0.8 - 0.04;
  const desaturation = 0.15;
  const x = Math.min(r, Math.min(g, b));
  const offset = x < 0.08 ? x - 6.25 * x * x : 0.04;
  const color = [r - offset, g - offset, b - offset];
  const peak = Math.max(...color);
  if (peak < startCompression) return color;
  const d = 1 - startCompression;
  const newPeak = 1 - (d * d) / (peak + d - startCompression);
  const scaled = color.map((c) => c * (newPeak / peak));
  const g2 = 1 - 1 / (desaturation * (peak - newPeak) + 1);
  return scaled.map((c) => c * (1 - g2) + newPeak * g2);
}

describe('picture: view transform', () => {
  it('matches the PBR Neutral reference on a grid of colours', () => {
    const steps = [0, 0.01, 0.04, 0.08, 0.2, 0.5, 0.79, 1, 2, 8, 100];
    for (const r of steps) {
      for (const g of steps) {
        for (const b of steps) {
          const rgb = [r, g, b];
          pbrNeutral(rgb);
          reference([r, g, b]).forEach((v, i) => expect(rgb[i]).closeTo(v, 1e-12));
        }
      }
    }
  });

  it('keeps base colours and never passes white', () => {
    const grey = [0.5, 0.5, 0.5];
    pbrNeutral(grey);
    expect(grey[0]).closeTo(0.46, 1e-12);
    const sun = [1e6, 1e6, 1e6];
    pbrNeutral(sun);
    expect(sun[0]).at.most(1);
  });

  it('filmic: black stays black, middle grey keeps its place, light rolls off and turns pale', () => {
    const out = (rgb: number[]): number[] => (filmic(rgb), rgb);
    expect(out([0, 0, 0])).deep.equal([0, 0, 0]);
    expect(out([0.18, 0.18, 0.18])[0]).closeTo(0.2, 0.04);
    let before = -1;
    for (let v = 0; v < 20; v += 0.05) {
      const [level] = out([v, v, v]);
      expect(level).at.least(before).and.at.most(1);
      before = level;
    }
    const saturation = ([r, , b]: number[]): number => (r - b) / r;
    expect(saturation(out([8, 2, 0.5]))).below(saturation(out([0.8, 0.2, 0.05])) * 0.7);
  });

  it('the plain view is exposure and sRGB only', () => {
    const linear = { width: 3, height: 1, data: Float32Array.from([0.2, 0.5, 1, 2, 0.5, 0.1, 0, 0, 0]) };
    const { data } = toDisplay(linear, 0.5, 'plain');
    [0.1, 0.25, 0.5].forEach((v, i) => expect(data[i]).closeTo(linearToSrgb(v) * 255, 0.6));
    expect(data[4]).equal(255);
    const others = (['neutral', 'filmic'] as const).map((view) => toDisplay(linear, 0.5, view).data[1]);
    expect(new Set([data[1], ...others]).size).equal(3);
  });

  it('encodes sRGB by table to a fifth of a step', () => {
    for (let v = 0; v <= 1; v += 0.00037) expect(encodeSrgb(v)).closeTo(linearToSrgb(v) * 255, 0.2);
    expect([encodeSrgb(-1), encodeSrgb(NaN), encodeSrgb(2)]).deep.equal([0, 0, 255]);
  });

  it('gives black for light that is no number', () => {
    const { data } = toDisplay({ width: 2, height: 1, data: Float32Array.from([NaN, NaN, NaN, -5, -5, -5]) }, 1);
    expect([...data]).deep.equal([0, 0, 0, 255, 0, 0, 0, 255]);
  });
});

describe('picture: fitting', () => {
  it('returns the same picture when the size is right', () => {
    const picture = makePicture(8, 4, [1, 2, 3]);
    expect(fitPicture(picture, 8, 4)).equal(picture);
  });

  it('keeps flat colour flat at any size, centred on black', () => {
    const fitted = fitPicture(makePicture(30, 10, [200, 100, 50]), 60, 60);
    const at = (x: number, y: number): number[] => [...fitted.data.subarray((y * 60 + x) * 4, (y * 60 + x) * 4 + 4)];
    expect(at(30, 5)).deep.equal([0, 0, 0, 255]);
    for (const x of [0, 29, 59]) expect(at(x, 30)).deep.equal([200, 100, 50, 255]);
    expect(at(30, 19)).deep.equal([0, 0, 0, 255]);
    expect(at(30, 20)).deep.equal([200, 100, 50, 255]);
  });

  it('keeps the mean when it shrinks, so that nothing aliases', () => {
    const stripes = makePicture(64, 64);
    for (let i = 0; i < 64 * 64; i++) if (i % 2) stripes.data.fill(255, i * 4, i * 4 + 3);
    const small = fitPicture(stripes, 16, 16);
    // At the border the edge pixel is repeated, so only the inside holds the mean.
    for (let y = 2; y < 14; y++) for (let x = 2; x < 14; x++) expect(small.data[(y * 16 + x) * 4]).within(126, 129);
  });

  it('keeps a straight ramp straight when it grows', () => {
    const ramp = makePicture(16, 4);
    for (let y = 0; y < 4; y++) for (let x = 0; x < 16; x++) ramp.data[(y * 16 + x) * 4] = x * 16;
    const big = fitPicture(ramp, 64, 16);
    for (let x = 12; x < 52; x++) expect(big.data[(8 * 64 + x) * 4]).closeTo(((x + 0.5) / 4 - 0.5) * 16, 1.01);
  });

  it('refuses sizes that are none', () => {
    for (const [w, h] of [
      [0, 1],
      [1.5, 2],
      [NaN, 4],
    ])
      expect(() => makePicture(w, h)).throw(/whole numbers/);
  });
});

describe('picture: drawing over', () => {
  it('is source-over with premultiplied bytes', () => {
    const picture = makePicture(2, 1, [100, 100, 100]);
    drawOver(picture, { left: 0, top: 0, width: 2, height: 1, data: Uint8Array.from([0, 0, 0, 0, 128, 0, 0, 128]) });
    expect([...picture.data]).deep.equal([100, 100, 100, 255, 178, 50, 50, 255]);
  });

  it('leaves out what hangs over the edge', () => {
    const picture = makePicture(2, 2);
    drawOver(picture, { left: -1, top: 1, width: 2, height: 2, data: new Uint8Array(16).fill(255) });
    expect([...picture.data].filter((_, i) => i % 4 === 0)).deep.equal([0, 0, 255, 0]);
  });
});
