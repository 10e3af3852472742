import { Problem } from '../problem/index.ts';

/** Inclusive corners, pixels. */
export interface ExrWindow {
  min: [number, number];
  max: [number, number];
}

/** Edge and area that a picture may have, pixels. */
const LARGEST = 32_768;
const MOST_PIXELS = 134_217_728;

/**
 * The windows of an OpenEXR file: what is shown, and what of it, or beyond it, holds data. Read from its header alone.
 *
 * @throws Problem `panorama/broken` when there are none, or they are out of all bounds
 */
export function exrWindows(bytes: Uint8Array, name: string): { display: ExrWindow; data: ExrWindow } {
  const broken = (why: string): Problem =>
    new Problem('panorama/broken', `"${name}" could not be read as OpenEXR (${why}): save it again.`, name);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 16 || view.getUint32(0, true) !== 0x01312f76) throw broken('it does not begin like one');
  const found: Record<string, ExrWindow> = {};
  for (let at = 8; at < bytes.length && bytes[at] !== 0;) {
    const word = (): string => {
      const from = at;
      while (at < bytes.length && bytes[at] !== 0 && at - from < 256) at++;
      return String.fromCharCode(...bytes.subarray(from, at++));
    };
    const [attribute, type] = [word(), word()];
    if (at + 4 > bytes.length) throw broken('its header is cut off');
    const size = view.getUint32(at, true);
    at += 4;
    if (at + size > bytes.length) throw broken('its header is cut off');
    if (type === 'box2i' && size === 16) {
      const [x0, y0, x1, y1] = [0, 4, 8, 12].map((i) => view.getInt32(at + i, true));
      found[attribute] = { min: [x0, y0], max: [x1, y1] };
    }
    at += size;
  }
  const { displayWindow: display, dataWindow: data } = found;
  if (!display || !data) throw broken('it does not say how large it is');
  for (const window of [display, data]) {
    const [width, height] = [0, 1].map((a) => window.max[a] - window.min[a] + 1);
    if (!(width >= 1 && height >= 1) || width > LARGEST || height > LARGEST || width * height > MOST_PIXELS)
      throw broken(`${width} x ${height} pixels`);
  }
  return { display, data };
}
