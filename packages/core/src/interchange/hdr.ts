import { log2, pow } from '../maths/index.ts';
import type { Panorama } from '../light/index.ts';
import { Problem } from '../problem/index.ts';

/** Longest edge of a panorama that is taken, pixels. */
const LARGEST = 16384;

/**
 * A Radiance .hdr picture (RGBE after Ward, flat or run-length encoded) as linear values; primaries are taken as Rec.709.
 * @throws Problem `panorama/broken` when it is none, or cut off.
 */
export function readHdr(bytes: Uint8Array, name = 'panorama'): Panorama {
  const reader = new HdrReader(bytes, name);
  const { width, height, fromBottom, fromRight } = reader.header();
  reader.expect(width, height);
  const data = new Float32Array(width * height * 3);
  const channels = new Uint8Array(width * 4);
  for (let row = 0; row < height; row++) {
    reader.row(channels, width);
    const y = fromBottom ? height - 1 - row : row;
    for (let column = 0; column < width; column++) {
      const exponent = channels[width * 3 + column];
      if (exponent === 0) continue;
      const x = fromRight ? width - 1 - column : column;
      // The mantissa's half step is what a writer rounded away.
      const scale = pow(2, exponent - 136);
      for (let c = 0; c < 3; c++) data[(y * width + x) * 3 + c] = (channels[width * c + column] + 0.5) * scale;
    }
  }
  return { width, height, data };
}

/** A panorama as a flat (not run-length encoded) Radiance .hdr file. */
export function writeHdr({ width, height, data }: Panorama): Uint8Array {
  const head = `#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`;
  const out = new Uint8Array(head.length + width * height * 4);
  for (let i = 0; i < head.length; i++) out[i] = head.charCodeAt(i);
  for (let p = 0; p < width * height; p++) {
    const most = Math.max(data[p * 3], data[p * 3 + 1], data[p * 3 + 2]);
    if (!(most > 1e-32)) continue;
    const exponent = Math.ceil(log2(most) + 1e-9);
    const scale = pow(2, 8 - exponent);
    const at = head.length + p * 4;
    for (let c = 0; c < 3; c++) out[at + c] = Math.min(255, Math.max(0, Math.floor(data[p * 3 + c] * scale)));
    out[at + 3] = exponent + 128;
  }
  return out;
}

class HdrReader {
  private at = 0;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly name: string,
  ) {}

  header(): { width: number; height: number; fromBottom: boolean; fromRight: boolean } {
    if (!/^#\?(RADIANCE|RGBE)/.test(this.line())) throw this.broken('it does not begin like one');
    while (this.at < this.bytes.length && this.line() !== '') continue;
    const size = /^([-+])Y (\d+) ([-+])X (\d+)\s*$/.exec(this.line());
    if (!size) throw this.broken('its pixels do not run in rows');
    const [height, width] = [Number(size[2]), Number(size[4])];
    if (width < 2 || height < 1 || width > LARGEST || height > LARGEST)
      throw this.broken(`${width} x ${height} pixels`);
    return { width, height, fromBottom: size[1] === '+', fromRight: size[3] === '-' };
  }

  /** Run-length encoding cannot pack a row tighter than this: a small file that claims more is no whole one. */
  expect(width: number, height: number): void {
    const least = Math.ceil(width / 127) * 8 + 4;
    if ((this.bytes.length - this.at) * 4 < Math.min(width * 4, least) * height) throw this.broken('it is cut off');
  }

  /** One row as four planes: red, green, blue, exponent. */
  row(into: Uint8Array, width: number): void {
    const { bytes } = this;
    const encoded =
      bytes[this.at] === 2 && bytes[this.at + 1] === 2 && ((bytes[this.at + 2] << 8) | bytes[this.at + 3]) === width;
    if (!encoded) {
      if (this.at + width * 4 > bytes.length) throw this.broken('it is cut off');
      for (let x = 0; x < width; x++) for (let c = 0; c < 4; c++) into[c * width + x] = bytes[this.at++];
      return;
    }
    this.at += 4;
    for (let c = 0; c < 4; c++) {
      for (let x = 0; x < width;) {
        const count = bytes[this.at++];
        const run = count > 128;
        const length = run ? count - 128 : count;
        if (count === undefined || length === 0 || x + length > width || this.at + (run ? 1 : length) > bytes.length)
          throw this.broken('it is cut off');
        for (let k = 0; k < length; k++) into[c * width + x++] = run ? bytes[this.at] : bytes[this.at + k];
        this.at += run ? 1 : length;
      }
    }
  }

  private line(): string {
    let text = '';
    while (this.at < this.bytes.length && this.bytes[this.at] !== 10 && text.length < 1000)
      text += String.fromCharCode(this.bytes[this.at++]);
    this.at++;
    return text;
  }

  private broken(why: string): Problem {
    return new Problem(
      'panorama/broken',
      `"${this.name}" could not be read as a Radiance .hdr picture (${why}): save it again.`,
      this.name,
    );
  }
}
