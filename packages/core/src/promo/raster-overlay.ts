import type { Canvas, CanvasKit } from 'canvaskit-wasm';
import type { Overlay } from '../picture/index.ts';

/**
 * What is drawn on a part of a picture with CanvasKit on a CPU raster surface, which gives the same bytes in Node and in browsers:
 * premultiplied sRGB. @returns null when there is no room for it.
 */
export function rasterOverlay(
  ck: CanvasKit,
  { left, top, width, height }: Omit<Overlay, 'data'>,
  draw: (canvas: Canvas) => void,
): Overlay | null {
  const info = {
    ...{ width, height },
    colorType: ck.ColorType.RGBA_8888,
    alphaType: ck.AlphaType.Premul,
    colorSpace: ck.ColorSpace.SRGB,
  };
  const memory = ck.Malloc(Uint8Array, width * height * 4);
  // CanvasKit does not clear memory that it is handed.
  (memory.toTypedArray() as Uint8Array).fill(0);
  const surface = ck.MakeRasterDirectSurface(info, memory, width * 4);
  if (!surface) {
    ck.Free(memory);
    return null;
  }
  draw(surface.getCanvas());
  surface.flush();
  const data = (memory.toTypedArray() as Uint8Array).slice();
  surface.delete();
  ck.Free(memory);
  return { left, top, width, height, data };
}
