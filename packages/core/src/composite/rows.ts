import type { Plate, Plates } from './plate.ts';

/** Lays something over rows of a picture, the first of which is `top`. */
export type RowStep = (rows: Plate, top: number) => void;

/** Pixels that are worked on at a time: few enough for a processor's own memory, with a layer's beside them. */
const AT_HAND = 16_384;

/** Does steps band by band, so that what one leaves is still at hand for the next. Each gives a pixel the same as it does for all at once. */
export function inBands(plates: Plates, { width, height, at }: Plate, steps: readonly RowStep[]): void {
  // Whole fours of pixels, as the kernel takes them.
  const most = Math.max(4, Math.floor(AT_HAND / width / 4) * 4);
  for (let top = 0; top < height; top += most) {
    const rows = plates.part(at + top * width * 16, width, Math.min(most, height - top));
    for (const step of steps) plates.within(() => step(rows, top));
  }
}
