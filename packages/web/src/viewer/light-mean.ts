import { srgbToLinear } from '@tender-orbit/core/finish';
import { encodeSrgb } from '@tender-orbit/core/picture';

const LINEAR = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));

/** The mean of sRGB pictures of one size, as light: what a shutter that is open over all of them sees. */
export class LightMean {
  private sum = new Float32Array(0);
  private count = 0;

  /** @param pixels RGBA, 8 bits. */
  add(pixels: Uint8ClampedArray): void {
    if (this.count === 0) this.sum = new Float32Array(pixels.length);
    for (let i = 0; i < pixels.length; i++) this.sum[i] += LINEAR[pixels[i]];
    this.count++;
  }

  /** RGBA, 8 bits, opaque. */
  mean(): Uint8ClampedArray<ArrayBuffer> {
    const out = new Uint8ClampedArray(this.sum.length);
    for (let i = 0; i < out.length; i++) out[i] = i % 4 === 3 ? 255 : encodeSrgb(this.sum[i] / this.count);
    return out;
  }
}
