/**
 * A layer's picture while it is worked on: four floats a pixel, premultiplied, rows from the top. In scene space linear Rec.709 where
 * 1 is white before the view transform and light may be above it; on the glass sRGB from 0 to 1.
 */
export interface Plate {
  width: number;
  height: number;
  data: Float32Array;
}

/** An empty plate. */
export function newPlate(width: number, height: number): Plate {
  return { width, height, data: new Float32Array(width * height * 4) };
}

/** Multiplies a plate's colour and alpha by a coverage a pixel. */
export function cover({ data }: Plate, coverage: Float32Array): void {
  for (let i = 0, o = 0; i < coverage.length; i++, o += 4) {
    const c = coverage[i];
    data[o] *= c;
    data[o + 1] *= c;
    data[o + 2] *= c;
    data[o + 3] *= c;
  }
}
