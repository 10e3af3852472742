/** Mean over 3 x 3 pixels of a plane, over fewer at its edge. */
export function blur(plane: Float32Array, width: number, height: number): Float32Array {
  const across = new Float32Array(plane.length);
  for (let row = 0; row < plane.length; row += width) {
    const end = row + width - 1;
    for (let i = row + 1; i < end; i++) across[i] = (plane[i - 1] + plane[i] + plane[i + 1]) / 3;
    if (width === 1) across[row] = plane[row];
    else {
      across[row] = (plane[row] + plane[row + 1]) / 2;
      across[end] = (plane[end - 1] + plane[end]) / 2;
    }
  }
  if (height === 1) return across;
  const out = new Float32Array(plane.length);
  const last = plane.length - width;
  for (let i = width; i < last; i++) out[i] = (across[i - width] + across[i] + across[i + width]) / 3;
  for (let x = 0; x < width; x++) {
    out[x] = (across[x] + across[x + width]) / 2;
    out[last + x] = (across[last + x - width] + across[last + x]) / 2;
  }
  return out;
}
