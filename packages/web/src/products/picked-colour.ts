/** Whether a picture has no colours: a height map rather than a normal map. */
export function isGrey({ data }: Pick<ImageData, 'data'>): boolean {
  for (let i = 0; i < data.length; i += 4) {
    const [r, g, b] = data.subarray(i, i + 3);
    if (Math.max(r, g, b) - Math.min(r, g, b) > 12) return false;
  }
  return true;
}

/** The colour at a place of a picture (0..1 across and down), the mean of five by five pixels, as sRGB hex. */
export function colourOf({ width, height, data }: ImageData, u: number, v: number): string {
  const sum = [0, 0, 0];
  let count = 0;
  for (let dy = -2; dy <= 2; dy++)
    for (let dx = -2; dx <= 2; dx++) {
      const x = Math.min(width - 1, Math.max(0, Math.floor(u * width) + dx));
      const y = Math.min(height - 1, Math.max(0, Math.floor(v * height) + dy));
      for (let c = 0; c < 3; c++) sum[c] += data[(y * width + x) * 4 + c];
      count++;
    }
  return `#${sum
    .map((s) =>
      Math.round(s / count)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`.toUpperCase();
}
