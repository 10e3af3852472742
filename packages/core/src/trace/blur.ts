/** Mean over 3 x 3 pixels of a plane, over fewer at its edge. */
export function blur(plane: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let n = 0;
      for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j++) {
        for (let i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i++) {
          sum += plane[j * width + i];
          n++;
        }
      }
      out[y * width + x] = sum / n;
    }
  }
  return out;
}
