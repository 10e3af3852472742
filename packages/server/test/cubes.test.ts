import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { applyCube, grader, readCube, writeCube } from '@tender-orbit/core/composite';
import { newLayer, type LayerOf } from '@tender-orbit/core/document';
import { openPlates } from '../src/promos/open-plates.ts';

describe('server: tables of colours beside another reader', () => {
  const folder = mkdtempSync(join(tmpdir(), 'cubes-test-'));
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('a grade that is saved as a table is read by ffmpeg as it is by us', () => {
    const values = { slopeRed: 1.2, powerBlue: 1.3, saturation: 1.4, contrast: 1.15 };
    const grade = grader(newLayer('grade', 'g', 'Grade', values as never) as LayerOf<'grade'>);
    const text = writeCube('Evening', 17, (rgb) => {
      grade(rgb, 0);
      rgb.forEach((v, c) => (rgb[c] = Math.min(1, v)));
    });
    const path = join(folder, 'evening.cube');
    writeFileSync(path, text);
    const [width, height] = [64, 48];
    const count = width * height;
    // Their planes are green, blue, red.
    const given = Float32Array.from({ length: count * 3 }, (_, i) => ((i * 7919 + (i >> 5) * 31) % 1000) / 999);
    const raw = ['-f', 'rawvideo', '-pix_fmt', 'gbrpf32le'];
    const theirs = execFileSync(
      'ffmpeg',
      [
        ...['-v', 'error', ...raw, '-s', `${width}x${height}`, '-i', 'pipe:0'],
        ...['-vf', `lut3d=file=${path}:interp=tetrahedral`, ...raw, 'pipe:1'],
      ],
      { input: Buffer.from(given.buffer), maxBuffer: 1 << 24 },
    );
    const planes = new Float32Array(theirs.buffer.slice(theirs.byteOffset, theirs.byteOffset + theirs.length));
    const plates = openPlates();
    const plate = plates.make(width, height);
    const pixel = (from: Float32Array, i: number): number[] => [from[2 * count + i], from[i], from[count + i]];
    for (let i = 0; i < count; i++) plate.data.set([...pixel(given, i), 1], i * 4);
    applyCube(plates, plate, readCube(text, 'evening.cube'));
    for (let i = 0; i < count; i++)
      pixel(planes, i).forEach((v, c) => expect(plate.data[i * 4 + c], `pixel ${i}`).closeTo(v, 2e-5));
  });
});
