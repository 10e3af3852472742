import { expect } from 'chai';
import { PeakMeter, peaksBetween, PEAKS_PER_SECOND } from '@tender-orbit/core/audio';
import { allRound, exrWindows, isAllRound, readHdr, reducePanorama, writeHdr } from '@tender-orbit/core/interchange';
import type { Panorama } from '@tender-orbit/core/light';
import { Problem } from '@tender-orbit/core/problem';
import { shortened, unsoundData } from '@tender-orbit/core/text';

/** Red runs to the right, green runs down, blue is 1. */
function slopes(width: number, height: number): Panorama {
  const data = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([(x + 0.5) / width, (y + 0.5) / height, 1], (y * width + x) * 3);
  return { width, height, data };
}
const at = ({ width, data }: Panorama, x: number, y: number): number[] => [
  ...data.subarray((y * width + x) * 3, (y * width + x) * 3 + 3),
];

describe('panoramas of any proportion', () => {
  it('of 2:1 stay as they are', () => {
    const whole = slopes(64, 32);
    expect(allRound(whole, 'fill')).equal(whole);
    expect(isAllRound({ width: 1000, height: 503 })).equal(true);
    expect(isAllRound({ width: 1000, height: 600 })).equal(false);
  });

  it('are stretched to all of the round', () => {
    const { width, height, ...rest } = allRound(slopes(60, 60), 'stretch');
    expect([width, height]).deep.equal([60, 30]);
    const whole = { width, height, ...rest };
    expect(at(whole, 0, 0)[1]).closeTo(0, 0.05);
    expect(at(whole, 0, 29)[1]).closeTo(1, 0.05);
  });

  it('a band keeps its proportions, and runs to the mean of its edges above and below', () => {
    const band = slopes(80, 10);
    const whole = allRound(band, 'fill');
    expect([whole.width, whole.height]).deep.equal([80, 40]);
    // In the middle it is the band, pixel by pixel.
    for (const y of [0, 5, 9]) expect(at(whole, 33, 15 + y)).deep.equal(at(band, 33, y));
    expect(at(whole, 3, 0)[0]).closeTo(0.5, 0.01);
    expect(at(whole, 3, 39)[0]).closeTo(0.5, 0.01);
    expect(at(whole, 3, 8)[0]).within(at(band, 3, 0)[0], 0.5);
  });

  it('a part of the round is carried on by its mirror image, without a seam', () => {
    const whole = allRound(slopes(30, 30), 'fill');
    expect([whole.width, whole.height]).deep.equal([60, 30]);
    expect(at(whole, 29, 4)[0]).closeTo(at(whole, 30, 4)[0], 0.04);
    expect(at(whole, 59, 4)[0]).closeTo(at(whole, 0, 4)[0], 0.04);
  });

  it('are reduced with the light of small lamps kept, and what is no light left out', () => {
    const lamp = { width: 40, height: 20, data: new Float32Array(40 * 20 * 3) };
    lamp.data[(3 * 40 + 7) * 3] = 900;
    lamp.data[0] = NaN;
    lamp.data[1] = -5;
    const { width, height, data } = reducePanorama(lamp, 10);
    expect([width, height]).deep.equal([10, 5]);
    expect(data.reduce((sum, v) => sum + v, 0) * 16).closeTo(900, 1e-3);
  });

  it('in Radiance files that run from another corner', () => {
    const picture = slopes(8, 4);
    const bytes = writeHdr(picture);
    const swapped = (line: string): Uint8Array => {
      const text = Buffer.from(bytes).toString('latin1').replace('-Y 4 +X 8', line);
      return new Uint8Array(Buffer.from(text, 'latin1'));
    };
    const plain = readHdr(bytes);
    expect(at(readHdr(swapped('+Y 4 -X 8')), 7, 3)).deep.equal(at(plain, 0, 0));
    expect(at(readHdr(swapped('-Y 4 -X 8')), 7, 0)).deep.equal(at(plain, 0, 0));
    expect(() => readHdr(swapped('+X 8 -Y 4'))).throw(Problem, 'rows');
    expect(() => readHdr(swapped('-Y 16000 +X 16000'))).throw(Problem, 'cut off');
  });
});

describe('OpenEXR windows', () => {
  function header(windows: Record<string, [number, number, number, number]>): Uint8Array {
    const parts: number[] = [0x76, 0x2f, 0x31, 0x01, 2, 0, 0, 0];
    for (const [name, box] of Object.entries(windows)) {
      parts.push(...Buffer.from(`${name}\0box2i\0`), 16, 0, 0, 0, ...new Uint8Array(Int32Array.from(box).buffer));
    }
    return Uint8Array.from([...parts, 0]);
  }

  it('are read from the header, whatever lies where', () => {
    const { display, data } = exrWindows(
      header({ dataWindow: [-4, -2, 103, 51], displayWindow: [0, 0, 99, 49] }),
      'sky.exr',
    );
    expect(display).deep.equal({ min: [0, 0], max: [99, 49] });
    expect(data).deep.equal({ min: [-4, -2], max: [103, 51] });
  });

  it('that are out of all bounds, the wrong way round or missing are refused before anything is unpacked', () => {
    const display = [0, 0, 99, 49] as [number, number, number, number];
    const broken: Uint8Array[] = [
      header({ displayWindow: display, dataWindow: [0, 0, 2_000_000_000, 2_000_000_000] }),
      header({ displayWindow: display, dataWindow: [10, 10, 3, 3] }),
      header({ displayWindow: display }),
      header({ displayWindow: display, dataWindow: display }).subarray(0, 40),
      Uint8Array.from({ length: 40 }, () => 7),
    ];
    for (const bytes of broken) expect(() => exrWindows(bytes, 'sky.exr')).throw(Problem, '"sky.exr"');
  });
});

describe('peaks of sound that comes in pieces', () => {
  it('are those of the whole, however it was cut', () => {
    const samples = Float32Array.from({ length: 48000 * 2 }, (_, i) => Math.sin(i / 700) * (i / 96000));
    const whole = new PeakMeter(48000);
    whole.push(samples);
    const pieces = new PeakMeter(48000);
    for (let i = 0; i < samples.length; i += 1234) pieces.push(samples.subarray(i, i + 1234));
    const peaks = whole.done();
    expect(peaks).length(PEAKS_PER_SECOND);
    expect([...pieces.done()]).deep.equal([...peaks]);
    expect(pieces.samples).equal(48000);
    const shown = peaksBetween(peaks, 0, 1, 10);
    expect(shown[9]).closeTo(1, 0.02);
    expect(shown[0]).below(shown[5]);
    expect([...peaksBetween(peaks, 2, 3, 2)]).deep.equal([0, 0]);
  });
});

describe('text that strangers send', () => {
  it('is shortened without halving a character', () => {
    expect(shortened('honey', 10)).equal('honey');
    expect(shortened('ab\u{1F36F}cd', 3)).equal('ab');
    expect(shortened('ab\u{1F36F}cd', 4)).equal('ab\u{1F36F}');
  });

  it('is sound unless it is nested without end, halved, or reaches into objects', () => {
    expect(unsoundData({ a: [1, 'x\u{1F36F}', null, { b: true }] })).equal(null);
    expect(unsoundData({ a: ['\ud83d'] })).match(/half a character/);
    expect(unsoundData({ '\udc00': 1 })).match(/half a character/);
    expect(unsoundData(JSON.parse('{"a":{"__proto__":1}}'))).match(/__proto__/);
    let deep: unknown = 1;
    for (let i = 0; i < 100; i++) deep = [deep];
    expect(unsoundData(deep)).match(/deep/);
  });
});
