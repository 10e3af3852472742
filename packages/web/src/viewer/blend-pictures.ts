/** sRGB codes as linear light, and back from it in so many steps (IEC 61966-2-1). */
const STEPS = 4096;
const LINEAR = Float32Array.from({ length: 256 }, (_, i) => {
  const v = i / 255;
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
});
const CODE = Uint8ClampedArray.from({ length: STEPS + 1 }, (_, i) => {
  const v = i / STEPS;
  return Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055));
});

/** Adds pictures of one size up as light, and gives their mean. */
export class LightMean {
  private sum: Float32Array | null = null;
  private count = 0;
  private readonly canvas = document.createElement('canvas');

  add(picture: ImageBitmap): void {
    const { width, height } = picture;
    Object.assign(this.canvas, { width, height });
    const context = this.canvas.getContext('2d', { willReadFrequently: true })!;
    context.drawImage(picture, 0, 0);
    const { data } = context.getImageData(0, 0, width, height);
    this.sum ??= new Float32Array(data.length);
    for (let i = 0; i < data.length; i++) this.sum[i] += LINEAR[data[i]];
    this.count++;
  }

  async mean(): Promise<ImageBitmap> {
    const { width, height } = this.canvas;
    const out = new ImageData(width, height);
    const scale = STEPS / this.count;
    for (let i = 0; i < out.data.length; i++)
      out.data[i] = i % 4 === 3 ? 255 : CODE[Math.min(STEPS, Math.round(this.sum![i] * scale))];
    return createImageBitmap(out);
  }
}
