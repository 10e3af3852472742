import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import parseExr from 'parse-exr';
import { toHalf, writeExr, type ExrChannel } from '@tender-orbit/core/interchange';
import { exrOf, type Passes } from '@tender-orbit/core/trace';
import { ball, floor, FREE, moved, pack, panel, trace, tracer } from './studio.ts';

const FLOAT = 1015;
const read = (bytes: Uint8Array): ReturnType<typeof parseExr> => parseExr(bytes.slice().buffer, FLOAT);

function fromHalf(bits: number): number {
  const [sign, exponent, fraction] = [bits >> 15 ? -1 : 1, (bits >> 10) & 31, bits & 1023];
  return sign * (exponent ? (1 + fraction / 1024) * 2 ** (exponent - 15) : (fraction / 1024) * 2 ** -14);
}

describe('OpenEXR: half floats', () => {
  it('round to nearest and come back the same', () => {
    for (let bits = 0; bits < 0x7c00; bits++) expect(toHalf(fromHalf(bits))).equal(bits);
    for (const v of [0.1, 1 / 3, 1000.7, 6e-6, -2.2]) {
      const back = fromHalf(toHalf(v));
      expect(Math.abs(back - v) / Math.abs(v)).below(v === 6e-6 ? 0.01 : 1 / 2048);
    }
  });

  it('hold what does not fit', () => {
    expect(fromHalf(toHalf(1e9))).equal(65504);
    expect(fromHalf(toHalf(-1e9))).equal(-65504);
    expect(toHalf(1e-12)).equal(0);
    expect(fromHalf(toHalf(NaN))).equal(0);
  });
});

describe('OpenEXR: files, read by others', () => {
  const [width, height] = [37, 41];
  const ramp = (k: number): Float32Array =>
    Float32Array.from({ length: width * height }, (_, i) => ((i % width) + k * 3) / 16 + Math.floor(i / width));
  const rgba = ['R', 'G', 'B', 'A'].map((name, k): ExrChannel => ({ name, type: 'float', data: ramp(k) }));

  it('a picture comes back number by number from an independent reader', () => {
    const { data, width: w, height: h } = read(writeExr({ width, height, channels: rgba }));
    expect([w, h]).deep.equal([width, height]);
    // That reader's rows run from the bottom.
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        rgba.forEach(({ data: wanted }, k) =>
          expect(data[((height - 1 - y) * width + x) * 4 + k]).equal(wanted[y * width + x]),
        );
  });

  it('refuses channels of the wrong size and two of one name', () => {
    const short = { ...rgba[0], data: new Float32Array(3) };
    expect(() => writeExr({ width, height, channels: [short] })).throw(/one value a pixel/);
    expect(() => writeExr({ width, height, channels: [rgba[0], rgba[0]] })).throw(/two channels "R"/);
  });

  const lights = [{ ...panel([0, 2, 0], [0, 0, 0], 1, 1, 100), id: 'key', name: 'Key light' }];
  const things = [{ mesh: floor(1) }, { mesh: ball(0.3), matrix: moved(0, 0.31, 0) }];
  const scene = pack({ things, lights, room: 0.2, eye: [0, 1, 2], fov: 50 });
  const passes: Passes = structuredClone(trace(scene, 4, 32, FREE, { detail: true }));
  const clean = tracer.denoise(passes, passes.detail!.lights);
  const names = {
    things: ['Floor', 'Ball', 'Ball'].slice(0, scene.things.length),
    finishes: scene.finishes,
    lights: ['Key light', 'Room', 'Glow'],
  };
  // The video tool cuts off above 1.
  const SCALE = 0.02;
  const picture = exrOf(passes, clean, names, SCALE);
  const bytes = writeExr(picture);

  it('a take has its beauty first, then layers for every pass, with names fit for layers', () => {
    const layers = picture.channels.map((c) => c.name);
    for (const name of ['R', 'A', 'noisy.R', 'albedo.G', 'normal.X', 'depth.Z', 'shadow.Y', 'motion.X'])
      expect(layers).include(name);
    for (const name of ['light_Key_light.R', 'light_Room.G', 'light_Glow.B', 'matte_Floor.A', 'matte_Ball.A'])
      expect(layers).include(name);
    const { data } = read(bytes);
    const middle = (31 - 20) * 32 + 16;
    expect(data[middle * 4] / (clean.beauty[(20 * 32 + 16) * 3] * SCALE)).closeTo(1, 1e-3);
  });

  it('every layer can be taken out by a common video tool', () => {
    const folder = mkdtempSync(join(tmpdir(), 'exr-'));
    const file = join(folder, 'take.exr');
    writeFileSync(file, bytes);
    const layer = (name: string[]): Float32Array => {
      const raw = execFileSync(
        'ffmpeg',
        ['-v', 'error', ...name, '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', '-'],
        { maxBuffer: 1e8 },
      );
      return new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
    };
    try {
      // Planes come as green, blue, red.
      const wanted = (source: Float32Array, by: number): number[] =>
        [1, 2, 0].map((c) => source[(20 * 32 + 16) * 3 + c] * by);
      const at = (planes: Float32Array): number[] => [0, 1, 2].map((p) => planes[p * 1024 + 20 * 32 + 16]);
      const near = (got: number[], want: number[]): void =>
        got.forEach((v, i) => expect(v).closeTo(want[i], 1e-3 + Math.abs(want[i]) * 2e-3));
      near(at(layer([])), wanted(clean.beauty, SCALE));
      near(at(layer(['-layer', 'albedo'])), wanted(passes.albedo, 1));
      near(at(layer(['-layer', 'light_Key_light'])), wanted(clean.lights[0], SCALE));
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
